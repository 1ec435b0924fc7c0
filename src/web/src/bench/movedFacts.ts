import { hasWork } from './drafts';
import { happened, type BenchEvent, type Ruling } from './types';

/**
 * The sheet's events, and that the item was corrected beside it, where it was: what failed by the earlier facts stays known. Which of it
 * matters is for the engine to say.
 */
export function withMovedFacts(events: BenchEvent[], before: Ruling, fresh: Ruling): BenchEvent[] {
  const was = before.item.equipment;
  const isSame = JSON.stringify(was) === JSON.stringify(fresh.item.equipment);
  return isSame || !hasWork(events) ? events : [...events, happened({ kind: 'factsMoved', was })];
}
