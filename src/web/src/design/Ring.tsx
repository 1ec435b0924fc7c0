import { c } from './tokens';

export type RingState =
  | 'pass'
  | 'passWithAdvice'
  | 'fail'
  | 'notTested'
  | 'findings'
  | 'withdrawn'
  | 'undecided'
  | 'open'
  | 'running';

const words: Record<RingState, string> = {
  pass: 'pass',
  passWithAdvice: 'pass with advice',
  fail: 'fail',
  notTested: 'not tested',
  findings: 'findings',
  withdrawn: 'withdrawn',
  undecided: 'undecided',
  open: 'open',
  running: 'running',
};

const colours: Record<RingState, string> = {
  pass: c.pass,
  passWithAdvice: c.advice,
  fail: c.fail,
  notTested: c.muted,
  findings: c.slate,
  withdrawn: c.muted,
  undecided: c.slate,
  open: c.muted,
  running: c.slate,
};

const point = (degrees: number) => {
  const angle = ((degrees - 90) * Math.PI) / 180;
  return `${(16 + 11 * Math.cos(angle)).toFixed(2)} ${(16 + 11 * Math.sin(angle)).toFixed(2)}`;
};

const arc = (from: number, to: number) =>
  `M ${point(from)} A 11 11 0 ${to - from > 180 ? 1 : 0} 1 ${point(to)}`;

function shape(state: RingState, progress: number) {
  switch (state) {
    case 'pass':
      return <circle cx="16" cy="16" r="11" />;
    case 'passWithAdvice':
      return <path d={`${arc(38, 322)} L 16 15 L ${point(38)}`} strokeLinejoin="round" />;
    case 'fail':
      return (
        <>
          <path d={arc(10, 95)} transform="translate(1.6 -1.2)" />
          <path d={arc(125, 215)} transform="translate(0.6 1.8)" />
          <path d={arc(245, 335)} transform="translate(-1.8 -0.6)" />
        </>
      );
    case 'findings':
      return (
        <>
          <path d={arc(30, 330)} />
          <circle cx="16" cy="16" r="1.6" />
        </>
      );
    case 'withdrawn':
      return <path d={`${arc(200, 520)} M 9 16 H 23`} />;
    case 'undecided':
      return <path d={arc(30, 210)} />;
    case 'running':
      return (
        <>
          <circle cx="16" cy="16" r="11" opacity="0.2" />
          <path d={arc(0, Math.max(8, Math.min(352, progress * 360)))} />
        </>
      );
    default:
      return (
        <circle
          cx="16"
          cy="16"
          r="11"
          strokeDasharray={state === 'open' ? '1.2 4.56' : '3.2 3.7'}
          strokeWidth="2.6"
        />
      );
  }
}

/** A verdict as a shape, so that it reads in grey, by colour-blind eyes and at label size. */
export function Ring({
  state,
  size = 28,
  progress = 0,
}: {
  state: RingState;
  size?: number;
  progress?: number;
}) {
  return (
    <svg
      viewBox="0 0 32 32"
      width={size}
      height={size}
      role="img"
      aria-label={words[state]}
      fill="none"
      stroke={colours[state]}
      strokeWidth="3.6"
      strokeLinecap="round"
      style={{ flex: 'none', display: 'block' }}
    >
      {shape(state, progress)}
    </svg>
  );
}

export const ringWord = (state: RingState) => words[state];
