import type { Rod } from '../design/Rail';
import type { RingState } from '../design/Ring';
import type { Schema } from '../api/client';
import type { ReadingNow } from './types';

const rings: Record<Schema['Standing'], RingState> = {
  open: 'open',
  pass: 'pass',
  advice: 'passWithAdvice',
  fail: 'fail',
  undecided: 'undecided',
  void: 'open',
  stopped: 'open',
  notMeasured: 'notTested',
  overridden: 'findings',
};

/** A standing's shape. */
export const ringOf = (standing: Schema['Standing']): RingState => rings[standing];

/** The rod of a judged value on its step's rail. */
export function rodOf(reading: ReadingNow | undefined): Rod | undefined {
  if (!reading || reading.si === null || reading.si === undefined) return undefined;
  const tone =
    reading.status === 'fail'
      ? 'fail'
      : reading.status === 'undecided' || reading.override
        ? 'slate'
        : reading.nearLimit
          ? 'advice'
          : 'pass';
  return {
    si: reading.si,
    tone,
    bound: reading.isBound ? (reading.qualifier === '<' ? 'below' : 'above') : undefined,
  };
}
