import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { SupplyDrawing } from './SupplyDrawing';

type Joining = Schema['JoiningCard'];

const instrumentDoes: Record<Schema['Doing'], string> = {
  ohms: 'Ω',
  testVoltage: 'V d.c.',
  powering: 'mains',
  joinedSupply: 'V a.c.',
  mainsOnPart: 'mains',
  trip: 'trip',
  indicating: 'V ?',
  volts: 'V a.c.',
};
const isHot = (it: Joining) => it.doing !== 'ohms' && it.doing !== 'indicating';

/**
 * What is joined to what for this item and this step: the supply end at the left, the item in the middle, what is touched at the right, and
 * the instrument below, its leads running to just the points that it uses. Lines differ by dash and weight, so that grey tells all of it.
 */
export function JoiningDrawing({ joining, item }: { joining: Joining; item: string }) {
  const { pins } = joining;
  const gap = pins.length > 3 ? 13 : 20;
  const top = 34;
  const pinY = (n: number) => top + n * gap;
  const used = new Set(joining.used);
  const farPins = joining.far === 'outlet' ? ['L', 'N', 'E'] : [];
  const farUsed = new Set(joining.farPins);
  const tone = isHot(joining) ? c.fail : c.slate;
  const leadLeft = joining.isMeter ? 'probe 1' : 'outlet';
  // Where the supply itself is what changes from step to step, it is drawn with its switches.
  if (joining.pins.length > 0 && (joining.doing === 'powering' || joining.doing === 'mainsOnPart'))
    return (
      <Sheet text={joining.text}>
        <SupplyDrawing joining={joining} item={item} />
      </Sheet>
    );
  if (joining.far === 'samePins') return <BothTips joining={joining} tone={tone} />;
  return (
    <Sheet text={joining.text}>
      <text x="6" y="16">
        {joining.end}
      </text>
      {pins.length > 0 && (
        <rect x="6" y="22" width="34" height={gap * (pins.length - 1) + 24} rx="7" {...outline} />
      )}
      {pins.map((pin, n) => (
        <Pin key={pin} x={23} y={pinY(n)} name={pin} isUsed={used.has(pin)} tone={tone} />
      ))}
      {joining.arePinsJoined && (
        <Bridge ys={joining.used.map((pin) => pinY(pins.indexOf(pin)))} tone={tone} />
      )}

      {pins.length > 0 && (
        <path
          d={`M40 ${pinY(0) + 6} C 64 ${pinY(0) + 6}, 66 52, 92 52`}
          fill="none"
          stroke={c.bark}
          strokeWidth="5"
          opacity="0.55"
        />
      )}
      <rect x="92" y="28" width="84" height="52" rx="6" {...outline} />
      <text x="134" y="58" textAnchor="middle">
        {item.length > 14 ? `${item.slice(0, 13)}…` : item}
      </text>

      <Far joining={joining} farPins={farPins} farUsed={farUsed} tone={tone} />

      <Instrument joining={joining} />

      {joining.used.length > 0 && (
        <>
          <path
            d={`M23 ${pinY(pins.length - 1) + 14} V 152 H 72`}
            fill="none"
            stroke={tone}
            strokeWidth="2.6"
            strokeDasharray={joining.isMeter ? '7 4' : undefined}
          />
          {joining.isMeter && <Tip x={23} y={pinY(pins.length - 1) + 12} tone={tone} />}
          <text x="28" y="147" className="quiet">
            {leadLeft}
          </text>
        </>
      )}
      {joining.far !== 'supply' && joining.far !== 'earthPin' && (
        <path
          d="M226 98 V 152 H 196"
          fill="none"
          stroke={tone}
          strokeWidth="2.6"
          strokeDasharray={joining.isMeter ? '7 4' : '2 0'}
        />
      )}
      {joining.isMeter && joining.far !== 'supply' && (
        <text
          x={joining.far === 'earthPin' ? 14 : 201}
          y={joining.far === 'earthPin' ? 176 : 168}
          className="quiet"
        >
          probe 2
        </text>
      )}
      {joining.isMeter && joining.far === 'metal' && <Tip x={208} y={52} tone={tone} />}
      {joining.far === 'earthPin' && (
        <path
          d={`M12 ${pinY(pins.indexOf('E'))} V 164 H 72`}
          fill="none"
          stroke={tone}
          strokeWidth="2.6"
          strokeDasharray="3 3"
        />
      )}
      <Opened joining={joining} />
    </Sheet>
  );
}

/** Both tips of an indicator or a meter on one set of contacts, in the order in which they are put there. */
function BothTips({ joining, tone }: { joining: Joining; tone: string }) {
  const { pins } = joining;
  const gap = pins.length > 3 ? 15 : 24;
  const pinY = (n: number) => 38 + n * gap;
  const line = pinY(0);
  const earth = pinY(pins.length - 1);
  return (
    <Sheet text={joining.text}>
      <text x="40" y="16">
        {joining.end}
        {joining.farName && `, ${joining.farName}`}
      </text>
      <rect x="40" y="22" width="44" height={gap * (pins.length - 1) + 32} rx="7" {...outline} />
      {pins.map((pin, n) => (
        <Pin key={pin} x={62} y={pinY(n)} name={pin} isUsed tone={tone} />
      ))}
      <path
        d={`M55 ${earth} H 18 V 152 H 72`}
        fill="none"
        stroke={tone}
        strokeWidth="2.6"
        strokeDasharray="7 4"
      />
      <path d={`M76 ${line} H 252 V 152 H 196`} fill="none" stroke={tone} strokeWidth="2.6" />
      <text x="96" y={earth + 4} style={{ fontWeight: 600, fill: c.ink }}>
        1 · {joining.order[0]}
      </text>
      <text x="96" y={line - 8} style={{ fontWeight: 600, fill: c.ink }}>
        2 · {joining.order[1]}
      </text>
      <text x="96" y={(line + earth) / 2 + 4} className="quiet">
        {joining.order[2]}
      </text>
      <Instrument joining={joining} />
    </Sheet>
  );
}

function Sheet({ text, children }: { text: string; children: ReactNode }) {
  return (
    <Box
      component="svg"
      viewBox="0 0 264 178"
      role="img"
      aria-label={text}
      sx={{
        display: 'block',
        width: '100%',
        maxWidth: 330,
        '& text': { fontFamily: 'inherit', fontSize: 11.5, fill: c.bark },
        '& .quiet': { fill: c.muted },
      }}
    >
      {children}
    </Box>
  );
}

const Instrument = ({ joining }: { joining: Joining }) => (
  <>
    <rect x="72" y="132" width="124" height="40" rx="7" fill="none" stroke={c.ink} strokeWidth="2" />
    <text x="134" y="157" textAnchor="middle" style={{ fontSize: 14, fontWeight: 700, fill: c.ink }}>
      {joining.instrument} · {instrumentDoes[joining.doing]}
    </text>
  </>
);

/** The bare end of a probe. */
const Tip = ({ x, y, tone }: { x: number; y: number; tone: string }) => (
  <path d={`M${x - 5} ${y + 10} L ${x} ${y - 2} L ${x + 5} ${y + 10} Z`} fill={tone} />
);

const outline = { fill: 'none', stroke: c.bark, strokeWidth: 1.8 };

function Pin(props: { x: number; y: number; name: string; isUsed: boolean; tone: string }) {
  return (
    <>
      <circle
        cx={props.x - 7}
        cy={props.y}
        r="4"
        fill={props.isUsed ? props.tone : 'none'}
        stroke={props.isUsed ? props.tone : c.muted}
        strokeWidth="1.6"
      />
      <text x={props.x + 1} y={props.y + 4} className={props.isUsed ? undefined : 'quiet'}>
        {props.name}
      </text>
    </>
  );
}

/** Pins that are one to the instrument. */
const Bridge = ({ ys, tone }: { ys: number[]; tone: string }) => (
  <path
    d={`M16 ${Math.min(...ys)} H 2 V ${Math.max(...ys)} H 16`}
    fill="none"
    stroke={tone}
    strokeWidth="2.6"
  />
);

function Far(props: { joining: Joining; farPins: string[]; farUsed: Set<string>; tone: string }) {
  const { joining, farPins, farUsed, tone } = props;
  const label = joining.farName;
  switch (joining.far) {
    case 'metal':
      return (
        <>
          <path d="M176 54 H 200" stroke={c.bark} strokeWidth="1.8" />
          <path d="M200 46 L 214 50 M200 62 L 214 58" stroke={c.bark} strokeWidth="1.8" />
          <path d="M208 54 L 226 76 V 98" fill="none" stroke={tone} strokeWidth="2.6" />
          <text x="258" y="40" textAnchor="end">
            {short(label)}
          </text>
        </>
      );
    case 'foil':
      return (
        <>
          <rect
            x="84"
            y="20"
            width="100"
            height="68"
            rx="9"
            fill="none"
            stroke={tone}
            strokeWidth="2"
            strokeDasharray="3 3"
          />
          <path d="M184 62 H 226 V 98" fill="none" stroke={tone} strokeWidth="2.6" />
          <text x="258" y="40" textAnchor="end">
            {short(label)}
          </text>
        </>
      );
    case 'patient':
      return (
        <>
          {[0, 1, 2].map((n) => (
            <path key={n} d={`M176 ${44 + n * 10} H 218`} stroke={c.bark} strokeWidth="1.8" />
          ))}
          <path d="M218 40 V 70 M218 55 H 226 V 98" fill="none" stroke={tone} strokeWidth="2.6" />
          <text x="258" y="32" textAnchor="end">
            {short(label)}
          </text>
        </>
      );
    case 'outlet':
      return (
        <>
          <path d="M176 54 H 208" stroke={c.bark} strokeWidth="5" opacity="0.55" />
          <rect x="208" y="22" width="40" height="66" rx="7" {...outline} />
          {farPins.map((pin, n) => (
            <Pin key={pin} x={231} y={36 + n * 20} name={pin} isUsed={farUsed.has(pin)} tone={tone} />
          ))}
          <path d="M226 88 V 98" stroke={tone} strokeWidth="2.6" />
          <text x="258" y="16" textAnchor="end">
            {short(label)}
          </text>
        </>
      );
    default:
      return null;
  }
}

/** Conductors that the condition opens, and a polarity that is not the usual one. */
function Opened({ joining }: { joining: Joining }) {
  const words = [...joining.opened, ...(joining.far === 'supply' ? ['current measured in the supply'] : [])];
  return words.length === 0 ? null : (
    <text x="134" y="112" textAnchor="middle" style={{ fontWeight: 600, fill: c.ink }}>
      {words.join(', ')}
    </text>
  );
}

const short = (text: string) => (text.length > 13 ? `${text.slice(0, 12)}…` : text);
