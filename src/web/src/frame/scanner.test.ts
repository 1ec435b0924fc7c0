import { describe, expect, test } from 'vitest';
import { announceScan, onScan, type Press, tagOf } from './scanner';

const settings = { prefix: '', suffix: 'Enter' as const, slowestMs: 90 };
const typed = (text: string, gaps: number | number[]): Press[] => {
  let at = 1000;
  return [...text].map((key, i) => {
    if (i > 0) at += typeof gaps === 'number' ? gaps : gaps[(i - 1) % gaps.length]!;
    return { key, at };
  });
};

describe('a scanner is told from a hand', () => {
  test.each([
    ['a fast one', 'LMR-0214', 8, true],
    ['a slow one on a busy machine', 'LMR-0214', 40, true],
    ['a slow one, 75 ms a key', '70010001', 75, true],
    ['a quick even hand', '70010001', 110, false],
    ['a reading typed quickly', '0.31mA', [95, 140, 80, 120], false],
    ['a hand that is fast and uneven', '70010001', [60, 110, 75, 120], false],
    ['two keys that came together', '500', 5, false],
    ['nothing', '', 5, false],
  ])('%s', (_, text, gaps, isScan) => expect(tagOf(typed(text, gaps), settings)).toBe(isScan ? text : null));

  test('a prefix settles it, whatever the rhythm', () => {
    const withPrefix = { ...settings, prefix: '~' };
    expect(tagOf(typed('~70010001', 180), withPrefix)).toBe('70010001');
    expect(tagOf(typed('~', 180), withPrefix)).toBeNull();
  });

  test('whoever listens hears the tag until they stop', () => {
    const heard: string[] = [];
    const stop = onScan((tag) => heard.push(tag));
    announceScan('LMR-0214');
    stop();
    announceScan('LMR-0215');
    expect(heard).toEqual(['LMR-0214']);
  });
});
