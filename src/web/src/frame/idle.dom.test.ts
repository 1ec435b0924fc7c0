// @vitest-environment happy-dom
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { begin, during } from './idle';

const isIdle = () => document.documentElement.dataset['idle'];

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

it('is at rest a moment after the last thing ended, and not between two that follow each other', () => {
  const first = begin();
  expect(isIdle()).toBe('false');
  const second = begin();
  first();
  vi.advanceTimersByTime(1000);
  expect(isIdle()).toBe('false');
  second();
  expect(isIdle()).toBe('false');
  const third = begin();
  vi.advanceTimersByTime(1000);
  expect(isIdle()).toBe('false');
  third();
  vi.advanceTimersByTime(1000);
  expect(isIdle()).toBe('true');
});

it('counts an end that is said twice once', () => {
  const [one, other] = [begin(), begin()];
  one();
  one();
  vi.advanceTimersByTime(1000);
  expect(isIdle()).toBe('false');
  other();
  vi.advanceTimersByTime(1000);
  expect(isIdle()).toBe('true');
});

it('is at rest after work that failed, too', async () => {
  await expect(during(Promise.reject(new Error('no')))).rejects.toThrow('no');
  vi.advanceTimersByTime(1000);
  expect(isIdle()).toBe('true');
});
