import Dexie, { type EntityTable } from 'dexie';
import type { NameChosen } from './naming';
import { keptSchool } from './school';
import { happened, type BenchEvent, type Ruling } from './types';

/** What this version writes. Another one is told, never guessed at. */
const version = 2;

/**
 * A run sheet that is not saved yet: the ruling it was laid under and everything that happened. It lives on this device, one for each
 * person,
 * item and round, so that a closed lid, a reload or a dropped network loses nothing and nobody inherits another's readings.
 */
export interface Draft {
  key: string;
  version: number;
  personId: string;
  roundId: string;
  itemId: string;
  tag: string;
  name: string;
  /** Made once; saving twice with it stores once. */
  saveId: string;
  ruling: Ruling;
  events: BenchEvent[];
  parked: boolean;
  updatedAt: string;
  /** Its tag was asked for, and the answer has not come yet. */
  naming?: NameChosen;
}

/** A kept sheet that this version cannot read: moved aside whole, so that a new sheet does not write over it. */
export interface Unreadable {
  id: number;
  personId: string;
  itemId: string;
  tag: string;
  kept: unknown;
}

class Drafts extends Dexie {
  drafts!: EntityTable<Draft, 'key'>;
  unreadable!: EntityTable<Unreadable, 'id'>;
  constructor() {
    super('osierwand');
    this.version(1).stores({ drafts: 'key, personId, itemId' });
    this.version(2).stores({ unreadable: '++id, personId, itemId' });
  }
}

let database: Drafts | null = null;
const open = () => (database ??= new Drafts());

/** For tests: a fresh database. */
export async function forgetDrafts() {
  await open().delete();
  database = null;
}

export const keyOf = (personId: string, roundId: string, itemId: string) =>
  `${personId}/${roundId}/${itemId}`;

/** A sheet just laid on the bench. Whoever has a tester and a meter in hand measures with what they chose last. */
export function newDraft(personId: string, ruling: Ruling): Draft {
  const school = ruling.kit?.meter ? keptSchool() : null;
  return {
    key: keyOf(personId, ruling.round.id, ruling.item.id),
    version,
    personId,
    roundId: ruling.round.id,
    itemId: ruling.item.id,
    tag: ruling.item.tag,
    name: ruling.item.name,
    saveId: crypto.randomUUID(),
    ruling,
    events: school && school !== ruling.school ? [happened({ kind: 'schoolChosen', school })] : [],
    parked: false,
    updatedAt: '',
  };
}

/** Storage did not take it: full, broken or forbidden. What is on the screen is still there. */
export class NotStored extends Error {
  readonly isFull: boolean;
  constructor(cause: unknown) {
    const isFull =
      cause instanceof Error &&
      /quota/i.test(`${cause.name} ${(cause as { inner?: Error }).inner?.name ?? ''}`);
    super(
      isFull
        ? 'This device has no room left, so a reload would lose what is on this screen. Save now, or free some room.'
        : 'This device does not keep what is entered, so a reload would lose it. Save before you leave this page.',
    );
    this.isFull = isFull;
  }
}

function isDraft(it: unknown): it is Draft {
  if (typeof it !== 'object' || it === null) return false;
  const draft = it as Partial<Draft>;
  const texts = [draft.key, draft.personId, draft.roundId, draft.itemId, draft.tag, draft.saveId];
  return (
    draft.version === version &&
    texts.every((text) => typeof text === 'string') &&
    typeof draft.ruling === 'object' &&
    draft.ruling !== null &&
    Array.isArray(draft.events) &&
    draft.events.every((event) => typeof event?.id === 'string' && typeof event?.kind === 'string')
  );
}

/** The draft of this person, item and round; null when there is none, or one that was moved aside. */
export async function readDraft(personId: string, roundId: string, itemId: string): Promise<Draft | null> {
  try {
    await moveAside(personId);
    return (await open().drafts.get(keyOf(personId, roundId, itemId))) ?? null;
  } catch {
    return null;
  }
}

/** Takes what cannot be read out of the way, whole; and puts back what an older page, open beside this one, could not read. */
async function moveAside(personId: string): Promise<void> {
  const { drafts, unreadable } = open();
  await open().transaction('rw', drafts, unreadable, async () => {
    for (const { id, kept } of await unreadable.where('personId').equals(personId).toArray()) {
      if (!isDraft(kept) || (await drafts.get(kept.key))) continue;
      await drafts.add(kept);
      await unreadable.delete(id);
    }
    for (const kept of await drafts.where('key').startsWith(`${personId}/`).toArray()) {
      if (isDraft(kept)) continue;
      const { key, itemId, tag } = kept as Draft;
      await unreadable.add({
        personId,
        itemId: String(itemId ?? key.split('/')[2]),
        tag: String(tag ?? ''),
        kept,
      });
      await drafts.delete(key);
    }
  });
}

/** Sheets of this person that this version cannot read, of one item or of all. */
export async function unreadableDrafts(personId: string, itemId?: string): Promise<Unreadable[]> {
  try {
    await moveAside(personId);
    const all = await open().unreadable.where('personId').equals(personId).toArray();
    return all.filter((it) => itemId === undefined || it.itemId === itemId);
  } catch {
    return [];
  }
}

export const removeUnreadable = (id: number): Promise<void> => open().unreadable.delete(id);

export async function storeDraft(draft: Draft): Promise<void> {
  try {
    await open().drafts.put({ ...draft, version, updatedAt: new Date().toISOString() });
  } catch (failure) {
    throw new NotStored(failure);
  }
}

/** What was measured without a tag is an item's sheet from now on: both at once, or neither. */
export async function moveDraft(fromKey: string, to: Draft): Promise<void> {
  const { drafts } = open();
  try {
    await open().transaction('rw', drafts, async () => {
      await drafts.put({ ...to, version, updatedAt: new Date().toISOString() });
      if (fromKey !== to.key) await drafts.delete(fromKey);
    });
  } catch (failure) {
    throw new NotStored(failure);
  }
}

export async function removeDraft(key: string): Promise<void> {
  try {
    await open().drafts.delete(key);
  } catch {
    // It was saved or discarded at the server; a leftover is recognised there by its number.
  }
}

/** Kinds of events that are no work of their own. */
const idle = new Set(['parked', 'resumed', 'scopeChosen', 'schoolChosen', 'leadParted']);

export const hasWork = (events: readonly BenchEvent[]) => events.some((event) => !idle.has(event.kind ?? ''));

/** Every half-done run sheet of this person on this device. */
export async function openDrafts(personId: string): Promise<Draft[]> {
  try {
    const all = await open().drafts.where('personId').equals(personId).toArray();
    return all.filter((draft) => isDraft(draft) && hasWork(draft.events));
  } catch {
    return [];
  }
}

/** How many sheets of other people lie on this device: they are kept for them, and never shown. */
export async function foreignDrafts(personId: string): Promise<number> {
  try {
    return await open().drafts.where('personId').notEqual(personId).count();
  } catch {
    return 0;
  }
}

/** One item on the bench at a time: another item that is neither saved nor parked keeps the bench. */
export async function inTheWay(personId: string, itemId: string): Promise<Draft | undefined> {
  return (await openDrafts(personId)).find((draft) => draft.itemId !== itemId && !draft.parked);
}
