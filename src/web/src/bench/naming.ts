import { ask, api, type Schema } from '../api/client';
import { type Draft, hasWork, keyOf, moveDraft, readDraft } from './drafts';
import { lockTab } from './tabLock';
import type { Ruling } from './types';

/** What was chosen for a sheet without a tag; its events are those of the sheet. */
export type NameChosen = Omit<Schema['NameItem'], 'events'>;

/** Why the sheet of a known item cannot be taken up on this device, in words for the technician. */
class Occupied extends Error {}

/**
 * Asks the server for the name and makes the sheet that item's. The choice is kept with the draft before it is asked for: where the answer
 * gets lost, it is asked for again when the sheet is opened, and answered the same.
 */
export async function nameSheet(
  draft: Draft,
  chosen: NameChosen,
  ruled: (itemId: string) => Promise<Ruling>,
): Promise<Draft> {
  const { known } = chosen;
  const isOther = known != null && known !== draft.itemId;
  // Two sheets of one item would each hide what the other says.
  const there = isOther ? await readDraft(draft.personId, draft.roundId, known) : null;
  if (there && hasWork(there.events))
    throw new Occupied(
      `A half-done sheet of ${there.tag} lies on this device already. Park this one, end that one, and scan the tag then.`,
    );
  const lock = isOther ? await lockTab(keyOf(draft.personId, draft.roundId, known), false, () => {}) : null;
  if (isOther && !lock)
    throw new Occupied(
      'The sheet of this item is open in another tab. Close it there, and scan the tag again.',
    );
  try {
    const named = await ask(
      api.POST('/api/v1/bench/{itemId}/name', {
        params: { path: { itemId: draft.itemId } },
        body: { ...chosen, events: [...draft.events] },
      }),
    );
    const renamed: Draft = {
      ...draft,
      key: keyOf(draft.personId, draft.roundId, named.itemId),
      itemId: named.itemId,
      tag: named.tag,
      name: named.name,
      events: [...named.events],
      // What changed between the two is what the naming itself has just told.
      ruling: await ruled(named.itemId).catch(() => draft.ruling),
    };
    delete renamed.naming;
    await moveDraft(draft.key, renamed);
    return renamed;
  } finally {
    lock?.release();
  }
}
