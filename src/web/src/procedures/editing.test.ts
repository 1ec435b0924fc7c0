import { describe, expect, it } from 'vitest';
import { asLine, moved, turned } from './editing';

describe('a procedure in the editor', () => {
  it('moves a line by one and leaves the rest as it was', () => {
    expect(moved(['a', 'b', 'c'], 0, 1)).toEqual(['b', 'a', 'c']);
    expect(moved(['a', 'b', 'c'], 2, -1)).toEqual(['a', 'c', 'b']);
  });

  it('moves nothing beyond an end', () => {
    expect(moved(['a', 'b'], 0, -1)).toEqual(['a', 'b']);
    expect(moved(['a', 'b'], 1, 1)).toEqual(['a', 'b']);
  });

  it('leaves a step out without a reason of its own making, and takes it back', () => {
    const left = turned({ do: 'measure', step: 'earthContinuity', seconds: 5 });
    expect(left).toEqual({ do: 'leaveOut', step: 'earthContinuity', reason: '' });
    expect(turned(left)).toEqual({ do: 'measure', step: 'earthContinuity' });
    expect(turned({ do: 'pause', says: 'on', seconds: 0 })).toEqual({ do: 'pause', says: 'on', seconds: 0 });
  });

  it('gives every line a number of its own', () => {
    const step = { do: 'pause', says: 'on', seconds: 0 } as const;
    expect(asLine(step, '').id).not.toBe(asLine(step, '').id);
  });
});
