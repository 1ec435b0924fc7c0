import { describe, expect, it } from 'vitest';
import type { Schema } from '../api/client';
import type { Draft } from './draft';
import { stepStates } from './states';

const step = (key: string, more: Partial<Schema['StepCard']> = {}) =>
  ({ key, test: 'earthContinuity', notMeasured: null, ...more }) as Schema['StepCard'];
const sheet = (...steps: Schema['StepCard'][]) =>
  ({
    steps,
    look: [{ id: 'a' }, { id: 'b' }],
    fuse: { summary: '', findings: [] },
  }) as unknown as Schema['BenchSheet'];
const entry = (stepKey: string, more: Partial<Schema['Entry']> = {}) =>
  ({ stepKey, source: 'typed', at: '', ...more }) as Schema['Entry'];
const judged = (status: Schema['Status'], use = 0.3, nearLimit = false) =>
  ({ status, use, nearLimit }) as Schema['JudgedEntry'];
const draft = (entries: Schema['Entry'][], look: Schema['LookEntry'][] = []) => ({ entries, look }) as Draft;
const work = (entries: Schema['JudgedEntry'][], more: Partial<Schema['JudgedWork']> = {}) =>
  ({ entries, stopped: {}, look: 'pass', ...more }) as Schema['JudgedWork'];

describe('what stands for a step', () => {
  it('is the worst of several points, whatever their order', () => {
    const points = [
      entry('e', { point: 'case' }),
      entry('e', { point: 'base' }),
      entry('e', { point: 'lid' }),
    ];
    const [state] = stepStates(
      sheet(step('e')),
      draft(points),
      work([judged('pass', 0.4), judged('fail', 1.4), judged('pass', 0.95, true)]),
    );
    expect(state!.standing?.entry.point).toBe('base');
    expect(state!.ring).toBe('fail');
  });

  it('is the one that uses most of its limit when none is worse', () => {
    const [state] = stepStates(
      sheet(step('e')),
      draft([entry('e', { point: 'case' }), entry('e', { point: 'base' })]),
      work([judged('pass', 0.7), judged('pass', 0.2)]),
    );
    expect(state!.standing?.entry.point).toBe('case');
  });

  it('is never a voided reading, nor one judged by a second standard', () => {
    const entries = [
      entry('e', { void: 'clip was off' }),
      entry('e'),
      entry('e', { standard: 'en-50699-2020' }),
    ];
    const [state] = stepStates(
      sheet(step('e')),
      draft(entries),
      work([judged('void'), judged('pass'), judged('fail', 2)]),
    );
    expect(state!.standing?.entry).toBe(entries[1]);
    expect(state!.isDone).toBe(true);
  });
});

describe('whether a step is done', () => {
  it('waits for a reading that decides', () => {
    const at = (status: Schema['Status']) =>
      stepStates(sheet(step('e')), draft([entry('e')]), work([judged(status)]))[0]!;
    expect(at('undecided').isDone).toBe(false);
    expect(at('undecided').ring).toBe('undecided');
    expect(at('fail').isDone).toBe(true);
    expect(stepStates(sheet(step('e')), draft([]), undefined)[0]!.isDone).toBe(false);
  });

  it('passes over what cannot be measured, and says so by its ring', () => {
    const [state] = stepStates(sheet(step('l', { notMeasured: 'beyond a meter' })), draft([]), work([]));
    expect([state!.isDone, state!.ring]).toEqual([true, 'notTested']);
  });

  it('takes the look for done when every point is answered, or one has failed it', () => {
    const look = sheet(step('visual', { test: 'visual' }));
    const good = { pointId: 'a', answer: 'good', words: null } as Schema['LookEntry'];
    expect(stepStates(look, draft([], [good]), work([], { look: 'notDone' }))[0]!.isDone).toBe(false);
    expect(stepStates(look, draft([], [good, good]), work([]))[0]!.isDone).toBe(true);
    expect(stepStates(look, draft([], [good]), work([], { look: 'fail' }))[0]!.isDone).toBe(true);
  });

  it('shows why a stopped step is not done', () => {
    const [state] = stepStates(
      sheet(step('i')),
      draft([]),
      work([], { stopped: { i: 'The earth path failed.' } }),
    );
    expect(state!.stopped).toBe('The earth path failed.');
  });
});
