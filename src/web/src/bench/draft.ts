import { useCallback, useState } from 'react';
import type { Schema } from '../api/client';

/** A run sheet that is not saved yet. It lives on this device, so that a closed lid, a reload or a dropped network loses nothing. */
export interface Draft {
  itemId: string;
  roundId: string;
  tag: string;
  name: string;
  /** Made once; saving twice with it stores once. */
  saveId: string;
  revision: number;
  scope: Schema['Scope'];
  look: Schema['LookEntry'][];
  entries: Schema['Entry'][];
  parked: boolean;
}

const prefix = 'osierwand.bench.';
const keyOf = (itemId: string) => prefix + itemId;

function read(itemId: string): Draft | null {
  const text = localStorage.getItem(keyOf(itemId));
  if (!text) return null;
  try {
    return JSON.parse(text) as Draft;
  } catch {
    return null;
  }
}

export const hasWork = (draft: Draft) => draft.look.length > 0 || draft.entries.length > 0;

/** Every half-done run sheet of this device. */
export function openDrafts(): Draft[] {
  return Object.keys(localStorage)
    .filter((key) => key.startsWith(prefix))
    .map((key) => read(key.slice(prefix.length)))
    .filter((draft): draft is Draft => draft !== null && hasWork(draft));
}

/** One item on the bench at a time: another item that is neither saved nor parked keeps the bench. */
export const inTheWay = (itemId: string) =>
  openDrafts().find((draft) => draft.itemId !== itemId && !draft.parked);

export function store(draft: Draft) {
  localStorage.setItem(keyOf(draft.itemId), JSON.stringify(draft));
}

export function park(draft: Draft) {
  store({ ...draft, parked: true });
}

export function clear(itemId: string) {
  localStorage.removeItem(keyOf(itemId));
}

const fresh = (sheet: Schema['BenchSheet']): Draft => ({
  itemId: sheet.item.id,
  roundId: sheet.round.id,
  tag: sheet.item.tag,
  name: sheet.item.name,
  saveId: crypto.randomUUID(),
  revision: sheet.item.revision,
  scope: sheet.scope,
  look: [],
  entries: [],
  parked: false,
});

/** The draft of the item on the bench, taken up again where it was left. */
export function useDraft(sheet: Schema['BenchSheet']) {
  const [draft, setDraft] = useState<Draft>(() => {
    const kept = read(sheet.item.id);
    // A draft of another round was judged by other rules; its readings do not carry over.
    return kept && kept.roundId === sheet.round.id ? { ...kept, parked: false } : fresh(sheet);
  });
  const [resumed] = useState(() => hasWork(draft));
  const change = useCallback((edit: (draft: Draft) => Draft) => {
    setDraft((before) => {
      const after = edit(before);
      store(after);
      return after;
    });
  }, []);
  return { draft, change, resumed };
}

export const workOf = (draft: Draft): Schema['BenchWork'] => ({
  roundId: draft.roundId,
  scope: draft.scope,
  look: draft.look,
  entries: draft.entries,
});
