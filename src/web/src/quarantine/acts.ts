import type { Schema } from '../api/client';

export type ActKind = Schema['ActKind'];

/** What a press says, and what the dialog is called. */
export const actWords: Record<ActKind, { press: string; title: string; take: string }> = {
  madeSafe: { press: 'Make it safe', title: 'Red tag on, and nobody can use it', take: 'It is safe' },
  sentToRepair: { press: 'To repair', title: 'Where it goes', take: 'It is on its way' },
  repaired: { press: 'Repaired', title: 'What was mended', take: 'It is repaired' },
  scrapped: { press: 'Scrap', title: 'Made unusable for good', take: 'Scrap it' },
  returnedUntested: {
    press: 'Return untested',
    title: 'Back to the client, not for use',
    take: 'Return it with its warning',
  },
};

/** What is usually next, by how far it is; a repaired one goes to the bench. */
export const usual: Partial<Record<Schema['Stage'], ActKind>> = {
  notSafe: 'madeSafe',
  held: 'sentToRepair',
  inRepair: 'repaired',
  returned: 'madeSafe',
};

export const unusable: Record<Schema['MadeUnusable'], string> = {
  plugCut: 'Plug cut off',
  plugLocked: 'Lock on its plug',
  lockedAway: 'Locked away',
  lockedOff: 'Locked off at its isolator',
};

export const scrapped: Record<Schema['ScrappedHow'], string> = {
  flexCutOff: 'Flex cut off at the case',
  takenApart: 'Taken apart',
  handedToDisposal: 'Handed to disposal',
};
