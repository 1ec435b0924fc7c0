// @vitest-environment happy-dom
import { beforeEach, expect, test, vi } from 'vitest';

const cafe = { id: 'cafe', name: 'Summit café', standard: 'UK code' };
const ward = { id: 'ward', name: 'Ward', standard: 'IEC 62353' };

/** As a page finds it that was just loaded. */
async function loaded() {
  vi.resetModules();
  const { roundTold, forgetRound } = await import('./roundInHand');
  return {
    roundTold,
    forgetRound,
    kept: () => JSON.parse(localStorage.getItem('osierwand.round') ?? 'null') as unknown,
  };
}

beforeEach(() => localStorage.clear());

test('where no round is in hand, the one the server tells is taken', async () => {
  const { roundTold, kept } = await loaded();
  roundTold(null, cafe);
  expect(kept()).toEqual(cafe);
});

test('an answer for a round that is not in hand any more changes nothing', async () => {
  localStorage.setItem('osierwand.round', JSON.stringify(ward));
  const { roundTold, kept } = await loaded();
  roundTold('cafe', cafe);
  roundTold(null, cafe);
  expect(kept()).toEqual(ward);
});

test('a round that is open no more gives way to the one the server tells instead', async () => {
  localStorage.setItem('osierwand.round', JSON.stringify(ward));
  const { roundTold, kept } = await loaded();
  roundTold('ward', cafe);
  expect(kept()).toEqual(cafe);
});

test('what is kept of another version, or broken, is no round', async () => {
  for (const broken of ['{', '7', '{"id":7}', '{"id":"cafe"}']) {
    localStorage.setItem('osierwand.round', broken);
    const { roundTold, kept } = await loaded();
    roundTold(null, cafe);
    expect(kept()).toEqual(cafe);
  }
});

test('after sign-out the next person chooses anew', async () => {
  const { roundTold, forgetRound, kept } = await loaded();
  roundTold(null, cafe);
  forgetRound();
  expect(kept()).toBeNull();
});
