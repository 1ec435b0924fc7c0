import type { Schema } from '../api/client';

export type Procedure = Schema['Procedure'];
export type Step = Schema['ProcedureStep'];
export type Module = Schema['ProcedureModule'];

/** A line that can be edited: its key for the list, what it is in words, and the step itself. */
export interface Line {
  id: number;
  words: string;
  step: Step;
}

let counted = 0;
export const asLine = (step: Step, words: string): Line => ({ id: ++counted, words, step });

export const linesOf = (procedure: Procedure, words: readonly string[]) =>
  procedure.steps.map((step, at) => asLine(step, words[at] ?? ''));

/** The same lines with one of them moved by so many places; at an end it stays. */
export function moved<T>(lines: readonly T[], at: number, by: number): T[] {
  const to = at + by;
  if (to < 0 || to >= lines.length) return [...lines];
  const next = [...lines];
  const [line] = next.splice(at, 1);
  next.splice(to, 0, line!);
  return next;
}

/** A measured step that is left out, or one that is done after all. */
export const turned = (step: Step): Step =>
  step.do === 'measure'
    ? { do: 'leaveOut', step: step.step, reason: '' }
    : step.do === 'leaveOut'
      ? { do: 'measure', step: step.step }
      : step;
