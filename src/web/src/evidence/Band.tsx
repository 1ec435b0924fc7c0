import { c } from '../design/tokens';
import { type Group, percent } from './useEvidence';

const width = 180;
const height = 26;

/** Where the failure rate of a group likely lies, against what is accepted: a band with its middle, and the gate post of the target. */
export function Band({ it, target, end }: { it: Group; target: number; end: number }) {
  const x = (rate: number) => 4 + (Math.min(rate, end) / end) * (width - 8);
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width="100%"
      style={{ maxWidth: width, display: 'block' }}
      role="img"
      aria-label={`between ${percent(it.low)} and ${percent(it.high)}, likely ${percent(it.median)}; ${percent(target)} accepted`}
    >
      <line x1="4" x2={width - 4} y1="20" y2="20" stroke={c.line} strokeWidth="1.4" />
      <line
        x1={x(it.low)}
        x2={x(it.high)}
        y1="13"
        y2="13"
        stroke={it.suggestion === 'shorter' ? c.fail : it.suggestion === 'longer' ? c.pass : c.bark}
        strokeWidth="7"
        strokeLinecap="round"
        strokeDasharray={it.inspections === 0 ? '2 8' : undefined}
      />
      <circle cx={x(it.median)} cy="13" r="2.6" fill={c.surface} />
      <path d={`M${x(target)} 24V3M${x(target) - 4} 3h8`} stroke={c.ink} strokeWidth="1.8" fill="none" />
    </svg>
  );
}
