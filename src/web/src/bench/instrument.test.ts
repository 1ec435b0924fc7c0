import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { type Hub, InstrumentClient, type LiveReport, type MeasureRequest } from './instrument';

type On = Parameters<Hub['measure']>[1];

/** A line in the hand of the test: it opens when told, and says what it was asked. */
class Line implements Hub {
  opened!: () => void;
  refused!: (why: Error) => void;
  on: On | null = null;
  asked: string[] = [];
  disposed = 0;
  closed = 0;
  open = () =>
    new Promise<void>((resolve, reject) => {
      this.opened = resolve;
      this.refused = reject;
    });
  measure = (request: MeasureRequest, on: On) => {
    this.asked.push(request.step);
    this.on = on;
    return { dispose: () => void this.disposed++ };
  };
  finished = 0;
  finish = async () => void this.finished++;
  close = async () => void this.closed++;
}

const request = (step: string): MeasureRequest => ({
  itemId: 'i',
  roundId: 'r',
  ruling: 'x',
  step,
  point: null,
  startedBy: 'press',
  eventId: 'e',
  events: [],
  isHeld: false,
});
const report = (text: string, kept: LiveReport['kept'] = null): LiveReport => ({
  text,
  si: 1,
  isBound: false,
  qualifier: null,
  elapsed: 1,
  seconds: 3,
  isSettled: true,
  leastSi: null,
  mostSi: null,
  mains: null,
  loadA: null,
  runs: false,
  pathSeen: null,
  at: null,
  said: null,
  kept,
});
const reading = { kind: 'read', id: 'e', at: '', step: 'a' } as LiveReport['kept'];

let line: Line;
let client: InstrumentClient;
let kept: unknown[];
const start = async (step = 'a') => {
  const started = client.start(request(step), (it) => kept.push(it));
  line.opened();
  await started;
};

beforeEach(() => {
  vi.useFakeTimers();
  line = new Line();
  client = new InstrumentClient(line);
  kept = [];
});
afterEach(() => vi.useRealTimers());

test('what was said of one item is not said of the next', async () => {
  const started = client.start(request('a'), (it) => kept.push(it));
  line.refused(new Error('the probe finds a path to earth'));
  await started;
  expect(client.get()).toMatchObject({ is: 'idle', trouble: expect.any(String) });
  client.forget();
  expect(client.get()).toEqual({ is: 'idle', trouble: null });
});

describe('the instrument can be stopped in every state', () => {
  test('a measurement runs, shows its value, and gives one reading', async () => {
    await start();
    expect(client.get().is).toBe('running');
    line.on!.report(report('0.05 Ω'));
    line.on!.report(report('0.05 Ω', reading));
    line.on!.done();
    expect(kept).toEqual([reading]);
    expect(client.get()).toEqual({ is: 'idle', trouble: null });
  });

  test('stopped while the line is still opening, nothing is ever asked of the instrument', async () => {
    const started = client.start(request('a'), () => {});
    expect(client.get().is).toBe('connecting');
    client.stop();
    expect(client.get().is).toBe('idle');
    line.opened();
    await started;
    expect(line.asked).toEqual([]);
  });

  test('stopped while running, a late reading is not kept', async () => {
    await start();
    const { on } = line;
    client.stop();
    expect(client.get().is).toBe('stopping');
    on!.report(report('0.05 Ω', reading));
    vi.advanceTimersByTime(2000);
    await vi.runAllTimersAsync();
    expect(client.get().is).toBe('idle');
    expect(kept).toEqual([]);
    expect(line.disposed).toBe(1);
  });

  test('nothing starts while another one connects, runs or stops', async () => {
    const started = client.start(request('a'), () => {});
    await client.start(request('b'), () => {});
    line.opened();
    await started;
    await client.start(request('c'), () => {});
    client.stop();
    await client.start(request('d'), () => {});
    expect(line.asked).toEqual(['a']);
  });

  test('a line that breaks while something runs is lost, not idle, until somebody has looked', async () => {
    await start();
    line.on!.failed(new Error('WebSocket closed'));
    expect(client.get()).toMatchObject({ is: 'lost', step: 'a' });
    client.stop();
    expect(client.get().is).toBe('idle');
  });

  test('what the server says is said', async () => {
    await start();
    line.on!.failed(
      new Error('An unexpected error occurred. HubException: Not started. The earth path failed.'),
    );
    expect(client.get()).toEqual({ is: 'idle', trouble: 'Not started. The earth path failed.' });
  });

  test('what is found out instead of a reading is kept, and the words are told', async () => {
    const found = { kind: 'earthFound', id: 'e', at: '', step: 'a', words: 'case' } as LiveReport['kept'];
    await start();
    line.on!.report(report('', found));
    line.on!.failed(new Error('HubException: The probe finds a path to earth.'));
    expect(kept).toEqual([found]);
    expect(client.get()).toEqual({ is: 'idle', trouble: 'The probe finds a path to earth.' });
  });

  test('only what is held for as long as one likes can be finished', async () => {
    await start();
    client.finish();
    expect(line.finished).toBe(0);
    line.on!.done();
    const held = client.start({ ...request('b'), isHeld: true }, () => {});
    line.opened();
    await held;
    client.finish();
    expect(line.finished).toBe(1);
  });

  test('the trace holds what moved, no bound, and nothing of the measurement before', async () => {
    await start();
    line.on!.report({ ...report('0.05 Ω'), si: 0.05, elapsed: 1 });
    line.on!.report({ ...report('>24 Ω'), si: 24, isBound: true, elapsed: 2 });
    line.on!.report({ ...report('0.07 Ω'), si: 0.07, elapsed: 3 });
    expect(client.getMoved()).toEqual({
      step: 'a',
      points: [
        { t: 1, si: 0.05 },
        { t: 3, si: 0.07 },
      ],
    });
    line.on!.done();
    await start('b');
    expect(client.getMoved()).toEqual({ step: 'b', points: [] });
  });

  test('a line that does not open says that nothing was measured', async () => {
    const started = client.start(request('a'), () => {});
    line.refused(new Error('no'));
    await started;
    expect(client.get()).toMatchObject({
      is: 'idle',
      trouble: expect.stringContaining('nothing was measured'),
    });
  });

  test('leaving stops, listens no more and closes the line', async () => {
    await start();
    const { on } = line;
    await client.leave();
    on!.report(report('1', reading));
    expect([line.disposed, line.closed, kept.length]).toEqual([1, 1, 0]);
  });

  test('stopping twice, or when nothing runs, does no harm', async () => {
    client.stop();
    await start();
    client.stop();
    client.stop();
    await vi.runAllTimersAsync();
    expect(client.get()).toEqual({ is: 'idle', trouble: null });
  });
});
