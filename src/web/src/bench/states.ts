import type { Schema } from '../api/client';
import type { RingState } from '../design/Ring';
import type { Draft } from './draft';

export interface Taken {
  entry: Schema['Entry'];
  judged: Schema['JudgedEntry'] | undefined;
}

export interface StepState {
  step: Schema['StepCard'];
  taken: Taken[];
  /** The reading that stands for the step: of several points the worst, else the last that was not voided. */
  standing: Taken | undefined;
  stopped: string | undefined;
  isDone: boolean;
  ring: RingState;
}

function ringOf(
  step: Schema['StepCard'],
  standing: Taken | undefined,
  look: Schema['Look'] | undefined,
  sheet: Schema['BenchSheet'],
): RingState {
  if (step.test === 'visual') return look === 'pass' ? 'pass' : look === 'fail' ? 'fail' : 'open';
  if (step.test === 'fuse')
    return sheet.fuse.findings.some((it) => it.isFault)
      ? 'fail'
      : sheet.fuse.findings.length > 0
        ? 'passWithAdvice'
        : 'pass';
  const judged = standing?.judged;
  if (!judged?.status) return step.notMeasured && !standing ? 'notTested' : 'open';
  if (judged.status === 'undecided') return 'undecided';
  if (judged.status === 'fail') return 'fail';
  return judged.nearLimit ? 'passWithAdvice' : 'pass';
}

const gravity = (it: Taken) =>
  it.judged?.status === 'fail' ? 3 : it.judged?.status === 'undecided' ? 2 : it.judged?.nearLimit ? 1 : 0;

/** Of readings at several points the worst stands for all; of equals the one that uses most of its limit, else the newest. */
const worst = (taken: Taken[]): Taken | undefined =>
  taken.reduce<Taken | undefined>((gravest, it) => {
    if (!gravest) return it;
    const more = gravity(it) - gravity(gravest) || (it.judged?.use ?? 0) - (gravest.judged?.use ?? 0);
    return more >= 0 ? it : gravest;
  }, undefined);

/** Every step of the sheet with what was read for it and what that makes of it. */
export function stepStates(
  sheet: Schema['BenchSheet'],
  draft: Draft,
  judged: Schema['JudgedWork'] | undefined,
): StepState[] {
  return sheet.steps.map((step) => {
    const taken = draft.entries
      .map((entry, i) => ({ entry, judged: judged?.entries[i] }))
      .filter((it) => it.entry.stepKey === step.key);
    const standing = worst(taken.filter((it) => !it.entry.void && !it.entry.standard));
    const answered = draft.look.length >= sheet.look.length;
    const isDone =
      step.test === 'visual'
        ? answered || judged?.look === 'fail'
        : step.test === 'fuse'
          ? true
          : standing !== undefined
            ? standing.judged?.status !== 'undecided'
            : step.notMeasured !== null;
    return {
      step,
      taken,
      standing,
      stopped: judged?.stopped[step.key],
      isDone,
      ring: ringOf(step, standing, judged?.look, sheet),
    };
  });
}
