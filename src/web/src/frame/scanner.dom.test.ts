// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import { onScan, setScanner, watchScanner } from './scanner';

/** Keys as the browser hands them on, each with the time at which it was struck. */
function strike(
  target: EventTarget,
  text: string,
  at: number,
  gap: number | ((i: number) => number),
): number {
  for (const [i, key] of [...text, 'Enter'].entries()) {
    if (i > 0) at += typeof gap === 'number' ? gap : gap(i);
    const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
    Object.defineProperty(event, 'timeStamp', { value: at });
    const isTaken = !target.dispatchEvent(event);
    if (!isTaken && target instanceof HTMLInputElement && key.length === 1) target.value += key;
  }
  return at;
}

describe('a scan is heard whole, wherever the focus is', () => {
  let heard: string[] = [];
  let cuts = 0;
  let stop: (() => void)[] = [];
  beforeEach(() => {
    document.body.innerHTML = '<input id="reading" value="0.0">';
    heard = [];
    cuts = 0;
    localStorage.clear();
    const hear = onScan(
      (tag) => heard.push(tag),
      () => (cuts += 1),
    );
    stop = [watchScanner(), hear];
  });
  afterEach(() => stop.forEach((it) => it()));
  const field = () => document.getElementById('reading') as HTMLInputElement;

  test('in a field it leaves no letter behind', () => {
    strike(field(), 'LMR-0214', 1000, 8);
    expect(heard).toEqual(['LMR-0214']);
    expect(field().value).toBe('0.0');
  });

  test.each([
    ['after its first key', (i: number) => (i === 1 ? 400 : 8)],
    ['in its middle', (i: number) => (i === 4 ? 700 : 8)],
  ])('a busy device that holds it back %s does not make another tag of the rest', (_, gap) => {
    strike(document.body, 'LMR-0214', 1000, gap);
    expect(heard).toEqual(['LMR-0214']);
  });

  test('held back in the middle of a field it is one scan, and leaves the field as it was', () => {
    strike(field(), 'LMR-0214', 1000, (i) => (i === 4 ? 700 : 8));
    expect(heard).toEqual(['LMR-0214']);
    expect(field().value).toBe('0.0');
  });

  test('where nobody can tell where it began, it is asked for again and looked up nowhere', () => {
    strike(field(), 'LMR-0214', 1000, (i) => (i === 1 ? 400 : 8));
    expect([heard, cuts]).toEqual([[], 1]);
  });

  test('with a prefix it tells itself where it began', () => {
    setScanner({ prefix: '~', suffix: 'Enter', slowestMs: 90 });
    strike(field(), '5~LMR-0214', 1000, (i) => (i === 1 ? 400 : 8));
    expect([heard, cuts]).toEqual([['LMR-0214'], 0]);
    expect(field().value).toBe('0.05');
  });

  test('held back twice or too long it is no scan, and never the tag of its end', () => {
    strike(document.body, 'LMR-0214', 1000, (i) => (i === 2 || i === 5 ? 400 : 8));
    expect(heard).toEqual([]);
  });

  test('a key of the bench’s own before a scan is not part of it', () => {
    for (const key of ['*', '?', '/']) {
      const event = new KeyboardEvent('keydown', { key, bubbles: true });
      Object.defineProperty(event, 'timeStamp', { value: 1000 });
      document.body.dispatchEvent(event);
      strike(document.body, 'LMR-0214', 1500, 8);
    }
    expect(heard).toEqual(['LMR-0214', 'LMR-0214', 'LMR-0214']);
  });

  test('a reading typed by hand stays in its field, and a scan after it does not take it along', () => {
    const at = strike(field(), '12', 1000, 180);
    expect(heard).toEqual([]);
    expect(field().value).toBe('0.012');
    strike(field(), '70010001', at + 400, 8);
    expect(heard).toEqual(['70010001']);
    expect(field().value).toBe('0.012');
  });
});
