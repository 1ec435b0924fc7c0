import { useId } from 'react';
import type { components } from '../api/schema.gen';
import { c } from './tokens';

type Scale = components['schemas']['RailScale'];
type Earlier = components['schemas']['EarlierValue'];

export interface Rod {
  si: number;
  /** The value is only a bound: it lies somewhere beyond the arrow head. */
  bound?: 'above' | 'below' | undefined;
  tone: 'pass' | 'advice' | 'fail' | 'slate';
}

const width = 320;
const base = 30;

/**
 * A logarithmic rail: the allowed side is hatched, the limit a gate post, today's value a rod standing in it, earlier values pale
 * stubs. Where the rod stands left or right of the post says what the number says.
 */
export function Rail(props: {
  scale: Scale;
  limit: number | null;
  isFloor: boolean;
  /** Where a value is to lie within the limit of what was set: two posts, and what is good stands between them. */
  set?: number | null | undefined;
  earlier?: readonly Earlier[];
  rod?: Rod | undefined;
  label: string;
  ticks?: boolean;
}) {
  const hatch = useId();
  const { scale, limit, isFloor, rod } = props;
  const place = (si: number) => (scale.isLinear ? si : Math.log10(Math.max(si, 1e-12)));
  const from = place(scale.from);
  const span = place(scale.to) - from;
  // Values beyond the rail stand at its end: the number beside it says how far they are.
  const x = (si: number) => Math.max(3, Math.min(width - 3, ((place(si) - from) / span) * width));
  const set = props.set ?? null;
  const gates = limit === null ? [] : set === null ? [x(limit)] : [x(set - limit), x(set + limit)];
  const [gate = null, upper = null] = gates;
  const allowed =
    gate === null
      ? null
      : upper !== null
        ? { x: gate, width: upper - gate }
        : isFloor
          ? { x: gate, width: width - gate }
          : { x: 0, width: gate };
  return (
    <svg
      viewBox={`0 0 ${width} ${props.ticks === false ? 36 : 48}`}
      width="100%"
      role={props.label ? 'img' : undefined}
      aria-label={props.label || undefined}
      aria-hidden={!props.label}
      style={{ display: 'block', maxWidth: 420, overflow: 'visible' }}
    >
      <defs>
        <pattern id={hatch} width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="7" stroke={c.willow} strokeWidth="3" />
        </pattern>
      </defs>
      {allowed && (
        <rect x={allowed.x} y={base - 9} width={allowed.width} height={9} fill={`url(#${hatch})`} />
      )}
      <line x1="0" y1={base} x2={width} y2={base} stroke={c.bark} strokeWidth="2" />
      {scale.ticks.map((tick, i) => (
        <g key={tick.at}>
          <line x1={x(tick.at)} y1={base} x2={x(tick.at)} y2={base + 4} stroke={c.bark} strokeWidth="1.2" />
          {props.ticks !== false && (
            <text
              x={x(tick.at)}
              y={base + 16}
              fontSize="11.5"
              fill={c.muted}
              textAnchor={i === 0 ? 'start' : i === scale.ticks.length - 1 ? 'end' : 'middle'}
            >
              {tick.label}
            </text>
          )}
        </g>
      ))}
      {props.earlier?.map((it) => (
        <line
          key={it.date}
          x1={x(it.si)}
          y1={base - 2}
          x2={x(it.si)}
          y2={base - 13}
          stroke={c.muted}
          strokeWidth="3"
          opacity="0.45"
        />
      ))}
      {gates.map((at) => (
        <g key={at} stroke={c.ink} strokeWidth="2.6">
          <line x1={at} y1={base + 6} x2={at} y2={base - 18} />
          <line x1={at - 6} y1={base - 18} x2={at + 6} y2={base - 18} />
        </g>
      ))}
      {rod && (
        <g stroke={c[rod.tone]} strokeLinecap="round" fill="none">
          <line x1={x(rod.si)} y1={base - 3} x2={x(rod.si)} y2={6} strokeWidth="5.5" />
          {rod.bound && (
            <path
              d={
                rod.bound === 'above'
                  ? `M ${x(rod.si) - 2} 2 l 9 6 l -9 6`
                  : `M ${x(rod.si) + 2} 2 l -9 6 l 9 6`
              }
              transform={rod.bound === 'above' ? 'translate(6 0)' : 'translate(-6 0)'}
              strokeWidth="3"
              strokeLinejoin="round"
            />
          )}
        </g>
      )}
    </svg>
  );
}
