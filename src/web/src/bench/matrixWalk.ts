import type { Schema } from '../api/client';

/** The next cell of the matrix in a direction, over those that the standard does not ask for. */
export function cellBeside(
  matrix: Pick<Schema['MatrixCard'], 'rows'> | null,
  key: string,
  down: number,
  across: number,
): string | null {
  const rows = matrix?.rows ?? [];
  let row = rows.findIndex((it) => it.cells.includes(key));
  let column = rows[row]?.cells.indexOf(key) ?? -1;
  while (row >= 0) {
    row += down;
    column += across;
    const cell = rows[row]?.cells[column];
    if (cell === undefined) return null;
    if (cell !== '') return cell;
  }
  return null;
}
