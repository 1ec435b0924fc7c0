import type { Step } from './types';
import { createContext, useContext, useRef, useSyncExternalStore } from 'react';
import type { BenchRun, BenchShown } from './benchRun';
import { useDesk } from './desk';
import { instrument, type Line, type Moved } from './instrument';

const Run = createContext<BenchRun | null>(null);
export const RunProvider = Run.Provider;

export function useRun(): BenchRun {
  const run = useContext(Run);
  if (!run) throw new Error('useRun is only for the bench');
  return run;
}

/** One part of what is shown; who asks is drawn again only when that part is another one. */
export function useShown<T>(select: (shown: BenchShown) => T): T {
  const run = useRun();
  const last = useRef<{ part: T; text: string } | null>(null);
  return useSyncExternalStore(run.subscribe, () => {
    const part = select(run.get());
    if (last.current && Object.is(last.current.part, part)) return last.current.part;
    const text = JSON.stringify(part) ?? '';
    if (last.current?.text === text) return last.current.part;
    last.current = { part, text };
    return part;
  });
}

/** One part of the instrument's state; the live value moves many times a second and draws nothing but itself. */
export function useLine<T>(select: (line: Line) => T): T {
  return useSyncExternalStore(instrument.subscribe, () => select(instrument.get()));
}

/** How the display moved in the last measurement. */
export const useMoved = (): Moved | null => useSyncExternalStore(instrument.subscribe, instrument.getMoved);

/** The step in hand, or the one that runs. */
export function useStepInHand(): Step | undefined {
  const desk = useDesk();
  const running = useLine((line) => (line.is === 'idle' ? null : line.step));
  return useShown(({ sheet, now }) => {
    const key = running ?? desk.chosen ?? now.current;
    return sheet.steps.find((it) => it.key === key);
  });
}
