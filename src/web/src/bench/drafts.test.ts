import 'fake-indexeddb/auto';
import Dexie from 'dexie';
import { afterEach, describe, expect, test } from 'vitest';
import {
  type Draft,
  foreignDrafts,
  forgetDrafts,
  inTheWay,
  moveDraft,
  keyOf,
  NotStored,
  openDrafts,
  readDraft,
  removeDraft,
  removeUnreadable,
  storeDraft,
  unreadableDrafts,
} from './drafts';
import { happened, type Ruling } from './types';

const looked = happened({ kind: 'looked', points: [{ pointId: 'plug', answer: 'good', words: null }] });
const draft = (personId: string, itemId: string, more: Partial<Draft> = {}): Draft => ({
  key: keyOf(personId, 'r', itemId),
  version: 2,
  personId,
  roundId: 'r',
  itemId,
  tag: itemId.toUpperCase(),
  name: 'Kettle',
  saveId: 's',
  ruling: { packId: 'uk-cop-5' } as Ruling,
  events: [looked],
  parked: false,
  updatedAt: '',
  ...more,
});

afterEach(forgetDrafts);

describe('half-done run sheets', () => {
  test('are found again after a reload, by their own person, round and item', async () => {
    await storeDraft(draft('ida', 'a'));
    expect((await readDraft('ida', 'r', 'a'))?.events).toEqual([looked]);
    expect(await readDraft('rufus', 'r', 'a')).toBeNull();
    expect(await readDraft('ida', 'another round', 'a')).toBeNull();
  });

  test('without a tag become an item’s sheet: the work is there and the loose one is gone', async () => {
    const loose = draft('ida', 'loose', { naming: { roundId: 'r', tag: 'A' } as Draft['naming'] & object });
    await storeDraft(loose);
    expect((await readDraft('ida', 'r', 'loose'))?.naming?.tag).toBe('A');
    await moveDraft(loose.key, draft('ida', 'a'));
    expect((await readDraft('ida', 'r', 'a'))?.events).toEqual([looked]);
    expect(await readDraft('ida', 'r', 'loose')).toBeNull();
    // A new tag leaves the sheet where it is.
    await moveDraft(keyOf('ida', 'r', 'a'), draft('ida', 'a', { tag: 'B' }));
    expect((await openDrafts('ida')).map((it) => it.tag)).toEqual(['B']);
  });

  test('that cannot be moved stay where they are', async () => {
    const loose = draft('ida', 'loose');
    await storeDraft(loose);
    const broken = { ...draft('ida', 'a'), events: [() => 'no event'] } as unknown as Draft;
    await expect(moveDraft(loose.key, broken)).rejects.toThrow(NotStored);
    expect((await readDraft('ida', 'r', 'loose'))?.events).toEqual([looked]);
  });

  test('of another person are counted and never shown', async () => {
    await storeDraft(draft('ida', 'a'));
    expect(await openDrafts('rufus')).toEqual([]);
    expect(await foreignDrafts('rufus')).toBe(1);
    expect(await inTheWay('rufus', 'b')).toBeUndefined();
  });

  test('are no work until something was looked at or read', async () => {
    await storeDraft(
      draft('ida', 'a', { events: [happened({ kind: 'scopeChosen', scope: 'formalVisual' })] }),
    );
    expect(await openDrafts('ida')).toEqual([]);
  });

  test('keep the bench for themselves until saved or parked', async () => {
    await storeDraft(draft('ida', 'a'));
    expect(await inTheWay('ida', 'a')).toBeUndefined();
    expect((await inTheWay('ida', 'b'))?.tag).toBe('A');
    await storeDraft(draft('ida', 'a', { parked: true }));
    expect(await inTheWay('ida', 'b')).toBeUndefined();
    expect(await openDrafts('ida')).toHaveLength(1);
    await removeDraft(keyOf('ida', 'r', 'a'));
    expect(await openDrafts('ida')).toEqual([]);
  });

  test('of another version, or broken, are moved aside whole, told, and never written over', async () => {
    await storeDraft(draft('ida', 'a'));
    const raw = new Dexie('osierwand');
    await raw.open();
    await raw.table('drafts').put({ ...draft('ida', 'b'), version: 1 });
    await raw.table('drafts').put({ ...draft('ida', 'c'), events: 'half' });
    raw.close();
    expect(await readDraft('ida', 'r', 'b')).toBeNull();
    await storeDraft(draft('ida', 'b'));
    expect((await openDrafts('ida')).map((it) => it.itemId)).toEqual(['a', 'b']);
    const aside = await unreadableDrafts('ida');
    expect(aside.map((it) => [it.tag, (it.kept as Draft).version, (it.kept as Draft).events])).toEqual([
      ['B', 1, [looked]],
      ['C', 2, 'half'],
    ]);
    expect(await unreadableDrafts('rufus')).toEqual([]);
    await removeUnreadable(aside[0]!.id);
    expect((await unreadableDrafts('ida')).map((it) => it.itemId)).toEqual(['c']);
    expect(await unreadableDrafts('ida', 'b')).toEqual([]);
  });

  test('that only an older page could not read come back', async () => {
    await storeDraft(draft('ida', 'a'));
    const raw = new Dexie('osierwand');
    await raw.open();
    await raw.table('unreadable').add({ personId: 'ida', itemId: 'b', tag: 'B', kept: draft('ida', 'b') });
    raw.close();
    expect((await readDraft('ida', 'r', 'b'))?.events).toEqual([looked]);
    expect(await unreadableDrafts('ida')).toEqual([]);
  });

  test('that the device does not take are told, not lost in silence', async () => {
    const unstorable = draft('ida', 'a', { ruling: { broken: () => 1 } as unknown as Ruling });
    await expect(storeDraft(unstorable)).rejects.toBeInstanceOf(NotStored);
  });
});
