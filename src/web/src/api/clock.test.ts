import { afterEach, describe, expect, it, vi } from 'vitest';
import { hearServerTime, now } from './clock';

afterEach(() => {
  vi.useRealTimers();
  hearServerTime(new Date().toUTCString());
});

describe('the clock of a bench', () => {
  it('dates by the server when this device is far ahead or behind', () => {
    vi.useFakeTimers({ now: new Date('2031-05-01T10:00:00Z') });
    hearServerTime('Wed, 25 Nov 2026 22:00:00 GMT');
    expect(now().toISOString()).toBe('2026-11-25T22:00:00.000Z');
    vi.advanceTimersByTime(90_000);
    expect(now().toISOString()).toBe('2026-11-25T22:01:30.000Z');
  });

  it('leaves a clock alone that is right to half a minute', () => {
    vi.useFakeTimers({ now: new Date('2026-11-25T22:00:20Z') });
    hearServerTime('Wed, 25 Nov 2026 22:00:00 GMT');
    expect(now().toISOString()).toBe('2026-11-25T22:00:20.000Z');
  });

  it('keeps what it knows when an answer tells no time', () => {
    vi.useFakeTimers({ now: new Date('2026-11-25T23:00:00Z') });
    hearServerTime('Wed, 25 Nov 2026 22:00:00 GMT');
    hearServerTime(null);
    hearServerTime('soon');
    expect(now().toISOString()).toBe('2026-11-25T22:00:00.000Z');
  });
});
