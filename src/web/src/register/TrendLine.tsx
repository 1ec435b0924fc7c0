import type { Schema } from '../api/client';
import { c } from '../design/tokens';

const width = 220;
const height = 44;

/** Earlier values over time, small: where it comes from matters more than the figures, which stand beside it. */
export function TrendLine({
  points,
  limits,
  name,
}: {
  points: readonly Schema['EarlierValue'][];
  /** One, or two where a value is to lie between them. */
  limits: readonly number[];
  name: string;
}) {
  if (points.length < 2) return <span />;
  const days = points.map((it) => Date.parse(it.date));
  const [first, last] = [days[0]!, days.at(-1)!];
  const logs = points.map((it) => Math.log10(Math.max(it.si, 1e-12)));
  const gates = limits.filter((it) => it > 0).map((it) => Math.log10(it));
  const low = Math.min(...logs, ...gates) - 0.05;
  const high = Math.max(...logs, ...gates) + 0.05;
  const x = (day: number) => 5 + ((day - first) / Math.max(1, last - first)) * (width - 10);
  const y = (log: number) => height - 5 - ((log - low) / (high - low)) * (height - 10);
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width="100%"
      style={{ maxWidth: 260 }}
      role="img"
      aria-label={`${name} over ${points.length} inspections, from ${points[0]!.text} to ${points.at(-1)!.text}`}
    >
      {gates.map((gate) => (
        <line
          key={gate}
          x1="0"
          x2={width}
          y1={y(gate)}
          y2={y(gate)}
          stroke={c.ink}
          strokeWidth="1.6"
          strokeDasharray="5 4"
        />
      ))}
      <polyline
        points={points.map((_, i) => `${x(days[i]!)},${y(logs[i]!)}`).join(' ')}
        fill="none"
        stroke={c.bark}
        strokeWidth="1.6"
      />
      {points.map((it, i) => (
        <circle
          key={it.date}
          cx={x(days[i]!)}
          cy={y(logs[i]!)}
          r={i === points.length - 1 ? 4.5 : 3}
          fill={i === points.length - 1 ? c.reed : c.bark}
        />
      ))}
    </svg>
  );
}
