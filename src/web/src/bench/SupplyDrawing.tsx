import type { Schema } from '../api/client';
import { c } from '../design/tokens';

type Joining = Schema['JoiningCard'];

/**
 * The supply as the condition has it: each conductor with its switch, what is open in red and apart, L and N crossed where they are changed
 * over; the item; and where the current is measured. Nobody has to remember what "earth open" does.
 */
export function SupplyDrawing({ joining, item }: { joining: Joining; item: string }) {
  const { pins } = joining;
  const gap = pins.length > 3 ? 17 : 28;
  const y = (n: number) => 30 + n * gap;
  const at = (pin: string) => y(pins.indexOf(pin));
  const isOpen = (pin: string) =>
    (pin === 'E' && joining.isEarthOpen) || (pin === 'N' && joining.isNeutralOpen);
  const line = pins[0] ?? 'L';
  const bottom = y(pins.length - 1) + 14;
  const isInSupply = joining.far === 'supply';
  // What has no plug has no instrument in its supply: nothing is switched, a clamp lies round its conductors.
  const isClamped = joining.far === 'clamp';
  const clamped = pins.filter((pin) => pin !== 'E');
  return (
    <>
      <text x="4" y="12" className="quiet">
        {isClamped ? joining.end : `outlet of the ${joining.instrument}`}
      </text>
      {pins.map((pin) => (
        <g key={pin}>
          <text x="4" y={at(pin) + 4}>
            {pin}
          </text>
          {joining.isReversed && (pin === line || pin === 'N') ? (
            <path
              d={`M22 ${at(pin)} H 38 L 62 ${at(pin === 'N' ? line : 'N')} H 78`}
              fill="none"
              stroke={c.ink}
              strokeWidth="2"
            />
          ) : (
            <path d={`M22 ${at(pin)} H 78`} stroke={c.ink} strokeWidth="2" />
          )}
          {isClamped ? (
            <path d={`M78 ${at(pin)} H 102`} stroke={c.ink} strokeWidth="2" />
          ) : (
            <Switch y={at(pin)} isOpen={isOpen(pin)} />
          )}
          <path d={`M102 ${at(pin)} H 146`} stroke={c.ink} strokeWidth="2" />
        </g>
      ))}
      <rect
        x="146"
        y="18"
        width="66"
        height={bottom - 18}
        rx="6"
        fill="none"
        stroke={c.bark}
        strokeWidth="1.8"
      />
      <text x="179" y={(18 + bottom) / 2 + 4} textAnchor="middle">
        {item.length > 10 ? `${item.slice(0, 9)}…` : item}
      </text>
      {isClamped ? (
        <>
          <ellipse
            cx="90"
            cy={(at(line) + at('N')) / 2}
            rx="9"
            ry={(at('N') - at(line)) / 2 + 11}
            fill="none"
            stroke={c.fail}
            strokeWidth="2.6"
          />
          <text x="134" y={bottom + 26} textAnchor="middle">
            clamp round {clamped.join(', ')}: it reads the difference
          </text>
        </>
      ) : isInSupply ? (
        <>
          <circle cx="124" cy={at('E')} r="11" fill={c.surface} stroke={c.fail} strokeWidth="2.4" />
          <text x="124" y={at('E') + 4} textAnchor="middle" style={{ fontWeight: 700, fill: c.ink }}>
            A
          </text>
          <text x="134" y={bottom + 26} textAnchor="middle">
            A: the current that is read
          </text>
        </>
      ) : (
        <>
          <Far joining={joining} bottom={bottom} />
          <path d={`M240 ${(18 + bottom) / 2} V 152 H 196`} fill="none" stroke={c.fail} strokeWidth="2.6" />
          <path
            d="M72 152 H 22 V 162 M13 162 H 31 M17 167 H 27 M20 172 H 24"
            fill="none"
            stroke={c.ink}
            strokeWidth="2"
          />
          <rect x="72" y="134" width="124" height="36" rx="7" fill="none" stroke={c.ink} strokeWidth="2" />
          <text x="134" y="157" textAnchor="middle" style={{ fontSize: 13, fontWeight: 700, fill: c.ink }}>
            {joining.doing === 'mainsOnPart' ? 'mains · A' : 'body · A'}
          </text>
        </>
      )}
    </>
  );
}

/** Closed it is one line; open it stands apart, red and tilted, so that grey tells it too. */
const Switch = ({ y, isOpen }: { y: number; isOpen: boolean }) => (
  <>
    <path
      d={isOpen ? `M78 ${y} L 96 ${y - 14}` : `M78 ${y} H 102`}
      stroke={isOpen ? c.fail : c.ink}
      strokeWidth={isOpen ? 3.4 : 2}
    />
    <circle cx="78" cy={y} r="3.4" fill={c.surface} stroke={c.ink} strokeWidth="1.8" />
    <circle cx="102" cy={y} r="3.4" fill={c.surface} stroke={c.ink} strokeWidth="1.8" />
  </>
);

function Far({ joining, bottom }: { joining: Joining; bottom: number }) {
  const middle = (18 + bottom) / 2;
  const name = joining.farName.length > 15 ? `${joining.farName.slice(0, 14)}…` : joining.farName;
  return (
    <>
      {joining.far === 'patient' ? (
        [-10, 0, 10].map((by) => (
          <path
            key={by}
            d={`M212 ${middle + by} H 234 L 240 ${middle}`}
            fill="none"
            stroke={c.bark}
            strokeWidth="1.6"
          />
        ))
      ) : (
        <path
          d={`M212 ${middle} H 240`}
          stroke={c.fail}
          strokeWidth="2.6"
          strokeDasharray={joining.far === 'foil' ? '3 3' : undefined}
        />
      )}
      <text x="260" y="12" textAnchor="end">
        {name}
      </text>
    </>
  );
}
