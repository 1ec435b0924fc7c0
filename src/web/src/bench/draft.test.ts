import { beforeEach, describe, expect, test, vi } from 'vitest';
import { clear, type Draft, inTheWay, openDrafts, park, store } from './draft';

/** As browsers keep it: the keys are own properties of the object. */
class Storage {
  getItem(key: string) {
    return (this as unknown as Record<string, string>)[key] ?? null;
  }
  setItem(key: string, value: string) {
    (this as unknown as Record<string, string>)[key] = value;
  }
  removeItem(key: string) {
    delete (this as unknown as Record<string, string>)[key];
  }
}

const draft = (itemId: string, more: Partial<Draft> = {}): Draft => ({
  itemId,
  roundId: 'r',
  tag: itemId.toUpperCase(),
  name: 'Kettle',
  saveId: 's',
  revision: 0,
  scope: 'combined',
  look: [{ pointId: 'plug', answer: 'good', words: null }],
  entries: [],
  parked: false,
  ...more,
});

beforeEach(() => vi.stubGlobal('localStorage', new Storage()));

describe('half-done run sheets', () => {
  test('are found again after a reload', () => {
    store(draft('a'));
    expect(openDrafts().map((it) => it.tag)).toEqual(['A']);
  });

  test('are no work until something was looked at or read', () => {
    store(draft('a', { look: [] }));
    expect(openDrafts()).toEqual([]);
    expect(inTheWay('b')).toBeUndefined();
  });

  test('keep the bench for themselves until saved or parked', () => {
    store(draft('a'));
    expect(inTheWay('a')).toBeUndefined();
    expect(inTheWay('b')?.tag).toBe('A');
    park(draft('a'));
    expect(inTheWay('b')).toBeUndefined();
    expect(openDrafts()).toHaveLength(1);
    clear('a');
    expect(openDrafts()).toEqual([]);
  });

  test('that cannot be read are passed over, not thrown about', () => {
    localStorage.setItem('osierwand.bench.x', '{ half');
    localStorage.setItem('another program', '{}');
    store(draft('a'));
    expect(openDrafts()).toHaveLength(1);
  });
});
