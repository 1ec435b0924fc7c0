import { Box } from '@mui/material';
import { c } from '../design/tokens';
import type { Moved } from './instrument';

const width = 260;
const height = 64;
const least = 0.02;

/** An earth path as it moved while the flex was moved: what jumps is a joint that fails, whatever the last value says. */
export function Trace({ moved, limit }: { moved: Moved; limit: number | null }) {
  const { points } = moved;
  if (points.length < 3) return null;
  const values = points.map((it) => it.si);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  // A steady joint stays a line: its noise is not blown up to fill the frame.
  const span = Math.max(high - low, least) * 1.25;
  const bottom = Math.min(Math.max(0, (low + high) / 2 - span / 2), low);
  const from = points[0]!.t;
  const time = Math.max(points.at(-1)!.t - from, 0.1);
  const x = (t: number) => ((t - from) / time) * width;
  const y = (si: number) => height - ((si - bottom) / span) * height;
  const gate = limit !== null && limit > bottom && limit < bottom + span ? y(limit) : null;
  return (
    <Box sx={{ mt: 0.5 }}>
      <svg
        viewBox={`0 -2 ${width} ${height + 4}`}
        width="100%"
        role="img"
        aria-label={`Moved between ${ohm(low)} and ${ohm(high)} in ${time.toFixed(0)} seconds`}
        style={{ display: 'block', maxWidth: 420 }}
      >
        <line x1="0" y1={height} x2={width} y2={height} stroke={c.line} strokeWidth="1.5" />
        {gate !== null && (
          <line
            x1="0"
            y1={gate}
            x2={width}
            y2={gate}
            stroke={c.ink}
            strokeWidth="1.5"
            strokeDasharray="5 4"
          />
        )}
        <polyline
          points={points.map((it) => `${x(it.t).toFixed(1)},${y(it.si).toFixed(1)}`).join(' ')}
          fill="none"
          stroke={c.slate}
          strokeWidth="2.2"
          strokeLinejoin="round"
        />
      </svg>
      <Box sx={{ color: c.bark, fontSize: 14, fontVariantNumeric: 'tabular-nums' }}>
        {ohm(low)} to {ohm(high)}, moved by {ohm(high - low)}
      </Box>
    </Box>
  );
}

const ohm = (si: number) => `${si.toFixed(si < 3 ? 3 : 2)} Ω`;
