import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { shortDay } from './words';

const width = 260;
const height = 76;
const foot = 16;

/** Readings over the years, and where they go if they go on so: to the limit, and when the item is due beside that. */
export function Projection({ crossing, due }: { crossing: Schema['Crossing']; due: string }) {
  const day = (iso: string) => Date.parse(iso);
  const points = crossing.points.map((it) => ({ at: day(it.date), si: it.si }));
  const last = points.at(-1);
  if (!last) return <span />;
  const from = points[0]!.at;
  const to = Math.max(day(due), day(crossing.on));
  const all = [...points.map((it) => it.si), crossing.limit];
  const span = Math.max(...all) - Math.min(...all) || Math.abs(crossing.limit) || 1;
  const low = Math.min(...all) - 0.12 * span;
  const high = Math.max(...all) + 0.12 * span;
  const x = (at: number) => 6 + ((at - from) / Math.max(1, to - from)) * (width - 12);
  const y = (si: number) => 4 + ((high - si) / (high - low)) * (height - foot - 8);
  const cross = { x: x(day(crossing.on)), y: y(crossing.limit) };
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width="100%"
      style={{ maxWidth: width }}
      role="img"
      aria-label={`${crossing.name}, ${points.length} readings; at its limit about ${crossing.on}, due ${due}`}
    >
      <line x1={0} x2={width} y1={cross.y} y2={cross.y} stroke={c.ink} strokeWidth={1.6} />
      <line
        x1={x(day(due))}
        x2={x(day(due))}
        y1={4}
        y2={height - foot}
        stroke={c.slate}
        strokeWidth={1.4}
        strokeDasharray="2 3"
      />
      <polyline
        points={points.map((it) => `${x(it.at)},${y(it.si)}`).join(' ')}
        fill="none"
        stroke={c.bark}
        strokeWidth={1.6}
      />
      <line
        x1={x(last.at)}
        y1={y(last.si)}
        x2={cross.x}
        y2={cross.y}
        stroke={c.advice}
        strokeWidth={1.8}
        strokeDasharray="5 4"
      />
      {points.map((it) => (
        <circle key={it.at} cx={x(it.at)} cy={y(it.si)} r={3} fill={c.bark} />
      ))}
      <path
        d={`M${cross.x - 5},${cross.y - 5} L${cross.x + 5},${cross.y + 5} M${cross.x - 5},${cross.y + 5} L${cross.x + 5},${cross.y - 5}`}
        stroke={c.fail}
        strokeWidth={2.2}
      />
      <text x={x(day(due)) - 4} y={height - 3} textAnchor="end" fontSize={12} fill={c.slate}>
        due {shortDay(due)} {due.slice(0, 4)}
      </text>
    </svg>
  );
}
