import { describe, expect, test } from 'vitest';
import { announceScan, onScan, Rhythm } from './scanner';

const typed = (gapMs: number, keys: number) => {
  const rhythm = new Rhythm();
  for (let i = 0; i < keys; i++) rhythm.key(1000 + i * gapMs);
  return rhythm;
};

describe('a scanner is told from a hand', () => {
  test.each([
    [8, 8, true],
    [40, 8, true], // a slow scanner on a busy machine
    [90, 8, false], // a quick hand on the number pad
    [5, 3, false], // too short for a tag: two keys that came together
    [5, 0, false],
  ])('%i ms between %i keys', (gap, keys, isScan) => expect(typed(gap, keys).wasScan).toBe(isScan));

  test('one late key does not make a scan a reading', () => {
    const rhythm = new Rhythm();
    [0, 8, 16, 60, 68, 76, 84].forEach((at) => rhythm.key(at));
    expect(rhythm.wasScan).toBe(true);
  });

  test('the next field starts afresh', () => {
    const rhythm = typed(8, 8);
    rhythm.reset();
    expect(rhythm.wasScan).toBe(false);
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
