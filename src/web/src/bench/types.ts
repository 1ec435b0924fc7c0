import type { Schema } from '../api/client';
import { now } from '../api/clock';

/** The bench's words as the server describes them; the engine in the browser speaks the same. */
export type BenchEvent = Schema['BenchEvent'];
export type BenchView = Schema['BenchView'];
export type Sheet = Schema['SheetView'];
export type Now = Schema['StateView'];
export type Step = Schema['StepCard'];
export type StepNow = Schema['StepView'];
export type ReadingNow = Schema['ReadingView'];

/** A ruling is laid on the bench, kept and sent to the engine as it came; no screen looks into more of it than this. */
export type Ruling = Schema['Ruling'];

/** An event before it has a number and a time. */
type Bare<T> = T extends BenchEvent ? Omit<T, 'id' | 'at'> : never;
export type Happening = Bare<BenchEvent>;

export const happened = (it: Happening, id: string = crypto.randomUUID()): BenchEvent =>
  ({ ...it, id, at: now().toISOString() }) as BenchEvent;
