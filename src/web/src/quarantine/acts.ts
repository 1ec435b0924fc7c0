import type { Schema } from '../api/client';

export type ActKind = Schema['ActKind'];

/** What a press says, and what the dialog is called. What may be done, and what is usual, the server says. */
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
