import { createContext, useContext } from 'react';
import type { Schema } from '../api/client';
import type { ReadingNow } from './types';

/** A question that the desk asks; one at a time. */
export type Asking =
  | { what: 'again'; target: string; text: string; point?: string | null }
  | { what: 'bad'; step: string; answer: 'bad' | 'advice'; point?: string; words?: string }
  | { what: 'point'; step: string }
  | { what: 'borrow'; reading: ReadingNow }
  | { what: 'override'; reading: ReadingNow }
  | { what: 'earth'; step: string }
  | { what: 'lock'; stays: boolean }
  | { what: 'path'; reading: string }
  | { what: 'connected'; reading: string }
  | { what: 'findings' }
  | { what: 'name'; tag: string }
  | { what: 'leakage'; to: Schema['LeakagePolicy'] }
  | { what: 'standing' | 'repair' | 'interval' }
  | { what: 'order' | 'notTested' | 'isolateAgain' | 'facts' | 'discard' | 'handOver' | 'keys' };

/** What the hands do at the desk, beside what is true: which step was chosen, where the probe sits, what is being asked. */
export interface Desk {
  chosen: string | null;
  choose: (step: string | null) => void;
  /** Where the probe sits for the next reading of a step. */
  probe: { step: string; point: string } | null;
  setProbe: (probe: { step: string; point: string } | null) => void;
  ask: (asking: Asking) => void;
  /** Does what the step in hand asks for. */
  primary: () => void;
  measure: (step: string, startedBy: 'press' | 'hold', isHeld?: boolean) => void;
  /** The reading alone, for whoever pays for it. */
  showCustomer: () => void;
  save: (end: 'pass' | 'fail' | 'findings') => void;
  isSaving: boolean;
  say: (text: string) => void;
}

const Context = createContext<Desk | null>(null);
export const DeskProvider = Context.Provider;

export function useDesk(): Desk {
  const desk = useContext(Context);
  if (!desk) throw new Error('useDesk is only for the bench');
  return desk;
}
