import { Box } from '@mui/material';
import type { Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';

const [width, height, edge] = [360, 84, 12];

/** How one line of the daily check moved: the tolerance is the hatched bed, its ends are the banks; each check stands in it where it was
 * read. */
export function DriftStrip({ line }: { line: Schema['DriftLine'] }) {
  const reach = Math.max(1.25, ...line.points.map((it) => Math.abs(it.deviation) * 1.1));
  const y = (deviation: number) => height / 2 - (deviation / reach) * (height / 2 - 6);
  const times = line.points.map((it) => Date.parse(it.at));
  const [from, to] = [times[0]!, times.at(-1)!];
  const x = (at: number) => edge + (to === from ? 0.5 : (at - from) / (to - from)) * (width - 2 * edge);
  const last = line.points.at(-1)!;
  const id = `bed-${line.key}`;
  return (
    <Box sx={{ mt: 1.5 }}>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline' }}>
        <Box sx={{ fontWeight: 600, flex: 1 }}>{line.name}</Box>
        <Box sx={{ fontVariantNumeric: 'tabular-nums' }}>{last.read}</Box>
        <Box sx={{ color: Math.abs(last.deviation) > 1 ? c.fail : c.muted, width: 150, textAlign: 'right' }}>
          {Math.round(Math.abs(last.deviation) * 100)} % of tolerance
        </Box>
      </Box>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        style={{ width: '100%', maxHeight: 110, display: 'block' }}
        role="img"
        aria-label={`${line.name}: ${line.points.length} checks from ${showDate(line.points[0]!.at)} to ${showDate(last.at)}, last ${last.read}`}
      >
        <defs>
          <pattern id={id} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line x1="0" y1="0" x2="0" y2="6" stroke={c.willow} strokeWidth="1.6" />
          </pattern>
        </defs>
        <rect x="0" y={y(1)} width={width} height={y(-1) - y(1)} fill={`url(#${id})`} opacity="0.7" />
        <line x1="0" x2={width} y1={y(0)} y2={y(0)} stroke={c.line} />
        {[1, -1].map((bank) => (
          <line key={bank} x1="0" x2={width} y1={y(bank)} y2={y(bank)} stroke={c.ink} strokeWidth="1.5" />
        ))}
        <polyline
          points={line.points.map((it, at) => `${x(times[at]!)},${y(it.deviation)}`).join(' ')}
          fill="none"
          stroke={c.bark}
          strokeWidth="1.2"
        />
        {line.points.map((it, at) => (
          <circle
            key={it.at}
            cx={x(times[at]!)}
            cy={y(it.deviation)}
            r={at === line.points.length - 1 ? 4.5 : 2.4}
            fill={Math.abs(it.deviation) > 1 ? c.fail : c.ink}
          />
        ))}
      </svg>
      {line.warning && <Box sx={{ color: c.advice, fontWeight: 600, fontSize: 14.5 }}>{line.warning}</Box>}
    </Box>
  );
}
