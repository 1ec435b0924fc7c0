import type { Schema } from '../api/client';

export type LookList = Schema['LookListPage'];
export type LookChange = Omit<Schema['ChangeLook'], 'revision'>;

/** A change that is not narrowed: it speaks of every item. */
export const ofAll = { kinds: [], classes: [], plugs: [], packs: [] };
