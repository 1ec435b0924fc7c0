import { describe, expect, test } from 'vitest';
import { keyDeed, type KeyboardAt, type KeyDeed } from './keyboard';

const sheet: KeyboardAt = {
  isCovered: false,
  isBusy: false,
  focus: 'sheet',
  takesNumber: false,
  saysBad: null,
  stray: '',
};
const answered = { ...sheet, saysBad: /^(ol|>.*)$/i };
const reading = { ...sheet, takesNumber: true };

/** Strikes one key after the other; what is kept is carried on as the bench does. */
function strike(keys: readonly string[], from: KeyboardAt): { deeds: KeyDeed[]; stray: string } {
  let { stray } = from;
  const done = keys.map((key) => {
    const deed = keyDeed(key, { ...from, stray });
    if (deed.do === 'keep') stray = deed.stray;
    return deed;
  });
  return { deeds: done, stray };
}

const acts = ({ do: it }: KeyDeed) => !['nothing', 'keep', 'refuse'].includes(it);

describe('the keyboard has one owner', () => {
  test.each([
    ['Enter', sheet, 'primary'],
    ['*', sheet, 'again'],
    ['-', sheet, 'bad'],
    ['-', reading, 'read'],
    ['/', sheet, 'notTested'],
    ['5', reading, 'read'],
    ['>', reading, 'read'],
    ['5', sheet, 'keep'],
    ['b', reading, 'keep'],
    ['b', { ...sheet, focus: 'emptyScan' }, 'nothing'],
    ['Enter', { ...sheet, focus: 'emptyScan' }, 'primary'],
    ['Enter', { ...sheet, focus: 'hold' }, 'nothing'],
    ['*', { ...sheet, focus: 'hold' }, 'again'],
    ['Enter', { ...sheet, focus: 'control' }, 'nothing'],
    ['5', { ...reading, focus: 'control' }, 'nothing'],
    ['Enter', { ...sheet, isCovered: true }, 'nothing'],
    ['5', { ...reading, isCovered: true }, 'nothing'],
    ['Enter', { ...sheet, isBusy: true }, 'nothing'],
    ['Tab', sheet, 'nothing'],
    ['Shift', sheet, 'nothing'],
  ] as const)('%s', (key, at, does) => {
    expect(keyDeed(key, at).do).toBe(does);
  });

  test.each(['0.9', '0.3', 'tested', 'B-77', '-0.5'])(
    '%s and Enter say nothing good of an answer',
    (typed) => {
      const { deeds, stray } = strike([...(typed === '-0.5' ? '0-0.5' : typed), 'Enter'], answered);
      expect(deeds.filter(acts)).toEqual([]);
      expect(deeds.at(-1)).toEqual({ do: 'refuse', stray });
      expect(keyDeed('Enter', { ...answered, stray }).do, 'however often').toBe('refuse');
    },
  );

  test.each(['OL', '>500'])('%s proposes bad where good or bad is asked', (typed) => {
    expect(strike([...typed, 'Enter'], answered).deeds.at(-1)).toEqual({ do: 'proposeBad', stray: typed });
    expect(strike([...typed, 'Enter'], sheet).deeds.at(-1)!.do, 'nowhere else').toBe('refuse');
  });

  test('what was typed is taken back by Backspace or at once by Esc, and then Enter goes on', () => {
    for (const back of [['Backspace', 'Backspace', 'Backspace'], ['Escape']])
      expect(strike(['0', '.', '3', ...back, 'Enter'], answered).deeds.at(-1)!.do).toBe('primary');
  });

  test('random keys over anything open change nothing behind it, and no typed text ever goes on', () => {
    const keys = ['Enter', '0', '.', '9', 'o', '*', '-', '/', '?', 'ArrowDown', 'Escape', 'Backspace', ' '];
    let seed = 27;
    const dice = (sides: number) => (seed = (seed * 1103515245 + 12345) % 2147483648) % sides;
    for (let n = 0; n < 2000; n++) {
      const struck = Array.from({ length: 1 + dice(12) }, () => keys[dice(keys.length)]!);
      for (const at of [
        { ...sheet, isCovered: true },
        { ...reading, isCovered: true },
        { ...reading, focus: 'control' as const },
        { ...answered, isBusy: true },
      ])
        expect(strike(struck, at).deeds.every((deed) => deed.do === 'nothing')).toBe(true);
      let { stray } = answered;
      for (const key of struck) {
        const deed = keyDeed(key, { ...answered, stray });
        if (stray !== '') expect(deed.do).not.toBe('primary');
        if (deed.do === 'keep') stray = deed.stray;
      }
    }
  });
});
