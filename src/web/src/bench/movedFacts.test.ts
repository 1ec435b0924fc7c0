import { describe, expect, it } from 'vitest';
import { withMovedFacts } from './movedFacts';
import type { BenchEvent, Ruling } from './types';

const ruled = (klass: string) => ({ item: { equipment: { class: klass } } }) as unknown as Ruling;
const work = [{ kind: 'looked', id: '1', at: '', points: [] }] as unknown as BenchEvent[];

describe('facts corrected beside a sheet', () => {
  it('are told with what the sheet had judged by', () => {
    const told = withMovedFacts(work, ruled('I'), ruled('II'));
    expect(told).toHaveLength(2);
    expect(told[1]).toMatchObject({ kind: 'factsMoved', was: { class: 'I' } });
  });

  it('are not told where nothing was corrected, or nothing was done yet', () => {
    expect(withMovedFacts(work, ruled('I'), ruled('I'))).toBe(work);
    const none: BenchEvent[] = [];
    expect(withMovedFacts(none, ruled('I'), ruled('II'))).toBe(none);
  });
});
