import { describe, expect, it } from 'vitest';
import { cellBeside } from './matrixWalk';

const row = (...cells: string[]) => ({ name: '', detail: '', cells });
const matrix = { rows: [row('a', 'b', '', 'd'), row('e', '', '', 'h'), row('', 'j', '', 'l')] };

describe('walking the matrix', () => {
  it.each([
    ['a', 0, 1, 'b'],
    ['b', 0, 1, 'd'],
    ['d', 0, -1, 'b'],
    ['a', 1, 0, 'e'],
    ['b', 1, 0, 'j'],
    ['l', -1, 0, 'h'],
  ])('goes from %s by %i down and %i across to %s, over what is not asked for', (from, down, across, to) =>
    expect(cellBeside(matrix, from, down, across)).toBe(to),
  );

  it.each([
    ['a', -1, 0],
    ['a', 0, -1],
    ['l', 1, 0],
    ['e', 1, 0],
    ['h', 0, 1],
  ])('stays at %s where nothing lies by %i down and %i across', (from, down, across) =>
    expect(cellBeside(matrix, from, down, across)).toBeNull(),
  );

  it('knows nothing of a step that is no cell, or of a sheet without a matrix', () => {
    expect(cellBeside(matrix, 'visual', 1, 0)).toBeNull();
    expect(cellBeside(null, 'a', 1, 0)).toBeNull();
  });
});
