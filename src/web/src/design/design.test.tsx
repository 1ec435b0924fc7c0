import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, test } from 'vitest';
import { showDue } from '../api/dates';
import { Rail } from './Rail';
import { Ring, type RingState } from './Ring';
import { dark, light } from './tokens';

const scale = {
  from: 0.01,
  to: 1,
  isLinear: false,
  ticks: [
    { at: 0.01, label: '0.01 Ω' },
    { at: 0.1, label: '0.1 Ω' },
    { at: 1, label: '1 Ω' },
  ],
};
const rail = (si: number, isFloor = false) =>
  renderToStaticMarkup(
    <Rail scale={scale} limit={0.1} isFloor={isFloor} rod={{ si, tone: 'pass' }} label="Earth: limit 0.1" />,
  );
const rodAt = (markup: string) =>
  Number(/stroke-width="5.5"/.test(markup) && /<line x1="([\d.]+)"[^>]*stroke-width="5.5"/.exec(markup)![1]);

describe('the reading rail', () => {
  test('stands values by their logarithm, the limit in the middle of two decades', () => {
    expect(rodAt(rail(0.1))).toBeCloseTo(160);
    expect(rodAt(rail(0.0316))).toBeCloseTo(80, 0);
  });
  test('keeps what is beyond its ends at its ends', () => {
    expect(rodAt(rail(1e-9))).toBe(3);
    expect(rodAt(rail(0))).toBe(3);
    expect(rodAt(rail(19.9))).toBe(317);
  });
  test('hatches the allowed side', () => {
    expect(rail(0.05)).toContain('<rect x="0" y="21" width="160"');
    expect(rail(0.05, true)).toContain('<rect x="160" y="21" width="160"');
  });
  test('says in words what it shows', () => expect(rail(0.05)).toContain('aria-label="Earth: limit 0.1"'));
});

test('every verdict has a shape of its own', () => {
  const states: RingState[] = [
    'pass',
    'passWithAdvice',
    'fail',
    'notTested',
    'findings',
    'undecided',
    'open',
    'running',
  ];
  const shapes = states.map((state) =>
    renderToStaticMarkup(<Ring state={state} progress={0.5} />).replace(
      /aria-label="[^"]*"|stroke="[^"]*"/g,
      '',
    ),
  );
  expect(new Set(shapes).size).toBe(states.length);
});

test.each([
  [null, 'never inspected'],
  [0, 'due today'],
  [1, '1 day over'],
  [6, '6 days over'],
  [-16, 'in 16 days'],
])('%s days over reads %s', (days, words) => expect(showDue(days)).toBe(words));

/** WCAG 2: relative luminance and contrast. */
const luminance = (hex: string) => {
  const [r, g, b] = [1, 3, 5]
    .map((at) => parseInt(hex.slice(at, at + 2), 16) / 255)
    .map((v) => (v <= 0.03928 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4));
  return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
};
const contrast = (a: string, b: string) => {
  const [high, low] = [luminance(a), luminance(b)].sort((x, y) => y - x);
  return (high! + 0.05) / (low! + 0.05);
};

describe.each([
  ['light', light],
  ['dark', dark],
])('%s colours reach AA', (_, palette) => {
  test.each(['ink', 'bark', 'muted', 'reed', 'slate', 'pass', 'advice', 'fail'] as const)('%s', (name) => {
    for (const ground of ['paper', 'surface', 'raised'] as const)
      expect(contrast(palette[name], palette[ground])).toBeGreaterThanOrEqual(4.5);
    expect(contrast(palette.ink, palette.failWash)).toBeGreaterThanOrEqual(4.5);
  });
});
