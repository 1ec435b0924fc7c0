import { Box } from '@mui/material';
import { c } from '../design/tokens';
import { type Detail, percent } from './useEvidence';

const width = 420;
const height = 150;
const floor = height - 24;

/** How likely each failure rate is, by what was found; the accepted rate is a gate post, the part that counts is hatched. */
export function Curve({ it }: { it: Detail }) {
  const end = it.curve.at(-1)?.rate ?? 1;
  const x = (rate: number) => 8 + (rate / end) * (width - 16);
  const y = (share: number) => floor - share * (floor - 14);
  const { group, target } = it;
  const line = it.curve.map((point) => `${x(point.rate)} ${y(point.height)}`);
  const inside = it.curve.filter((point) => point.rate >= group.low && point.rate <= group.high);
  return (
    <Box>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width="100%"
        style={{ maxWidth: 520, display: 'block' }}
        role="img"
        aria-label={`The failure rate lies between ${percent(group.low)} and ${percent(group.high)}, most likely near ${percent(group.median)}; ${percent(target)} is accepted`}
      >
        <defs>
          <pattern
            id="likely"
            width="6"
            height="6"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <line x1="0" y1="0" x2="0" y2="6" stroke={c.willow} strokeWidth="3" />
          </pattern>
        </defs>
        {inside.length > 1 && (
          <path
            d={`M${x(inside[0]!.rate)} ${floor}L${inside.map((point) => `${x(point.rate)} ${y(point.height)}`).join('L')}L${x(inside.at(-1)!.rate)} ${floor}Z`}
            fill="url(#likely)"
          />
        )}
        <polyline points={line.join(',').replaceAll(',', ' ')} fill="none" stroke={c.bark} strokeWidth="2" />
        <line x1="8" x2={width - 8} y1={floor} y2={floor} stroke={c.bark} strokeWidth="1.2" />
        <path
          d={`M${x(target)} ${floor + 5}V8M${x(target) - 6} 8h12`}
          stroke={c.ink}
          strokeWidth="2.2"
          fill="none"
        />
        <text x={x(target)} y={height - 4} textAnchor="middle" fontSize="12" fill={c.ink}>
          {percent(target)} accepted
        </text>
        <text x={width - 8} y={height - 4} textAnchor="end" fontSize="12" fill={c.muted}>
          {percent(end)}
        </text>
        <text x="8" y={height - 4} fontSize="12" fill={c.muted}>
          0
        </text>
      </svg>
    </Box>
  );
}
