import { beforeEach, expect, it, vi } from 'vitest';
import { BenchRun } from './benchRun';
import type { Judge } from './engine';
import type { BenchEvent, BenchView, Ruling } from './types';

/** What the judges of a test do: each call waits until the test lets it go. */
const { waiting, engine } = vi.hoisted(() => ({
  waiting: [] as { kind: string; what: string; ids: string[]; go: (failure?: Error) => void }[],
  engine: { isReady: false, start: (): Promise<boolean> => Promise.resolve(false) },
}));

function judge(kind: 'engine' | 'server'): Judge {
  let known: string[] = [];
  const answer = (what: string) =>
    new Promise<BenchView>((resolve, reject) => {
      const ids = [...known];
      const view = {
        sheetId: 's',
        sheet: { steps: [] },
        ruling: 'r',
        state: ids.join(),
        now: { refused: [] },
      };
      const go = (failure?: Error) => (failure ? reject(failure) : resolve(view as unknown as BenchView));
      waiting.push({ kind, what, ids, go });
    });
  return {
    kind,
    lay: (_, events) => {
      known = events.map((one) => one.id);
      return answer('lay');
    },
    append: (events) => {
      known.push(...events.map((one) => one.id));
      return answer('append');
    },
    faultOf: () => Promise.resolve(null),
    close: () => {},
  };
}

vi.mock('./engine', () => ({
  engineHost: engine,
  differences: () => Promise.resolve([]),
  judgeFor: async (ruling: Ruling, events: BenchEvent[]) => {
    const made = judge(engine.isReady ? 'engine' : 'server');
    return { judge: made, view: await made.lay(ruling, events) };
  },
}));
vi.mock('./drafts', async (original) => ({
  ...(await original<object>()),
  storeDraft: () => Promise.resolve(),
  removeDraft: () => Promise.resolve(),
}));

const settled = () => new Promise((resolve) => setTimeout(resolve));
const event = (id: string) => ({ id, at: '', kind: 'confirmed', step: 'x' }) as unknown as BenchEvent;
const draft = {
  itemId: 'i',
  roundId: 'r',
  events: [],
  ruling: { item: { id: 'i' }, round: { id: 'r' }, kit: null },
};

async function opened() {
  const opening = BenchRun.open(draft as never, null);
  await settled();
  waiting.shift()!.go();
  return opening;
}

beforeEach(() => {
  waiting.length = 0;
  engine.isReady = false;
  engine.start = () => Promise.resolve(false);
});

it('has what happened pending until it is judged', async () => {
  const run = await opened();
  const [first, second] = [run.happen(event('1')), run.happen(event('2'))];
  expect(run.get().pending).toBe(2);
  await settled();
  waiting.shift()!.go();
  await first;
  expect([run.get().pending, run.get().state]).toEqual([1, '1']);
  await settled();
  waiting.shift()!.go();
  await second;
  expect([run.get().pending, run.get().state]).toEqual([0, '1,2']);
});

it('moves to the engine once it is ready, and what happens meanwhile is pending until the engine has judged it', async () => {
  let ready: (up: boolean) => void = () => {};
  engine.start = () => new Promise((resolve) => (ready = resolve));
  const run = await opened();
  expect(run.judgedBy).toBe('server');
  engine.isReady = true;
  ready(true);
  await settled();
  expect(waiting[0]).toMatchObject({ kind: 'engine', what: 'lay', ids: [] });
  const happened = run.happen(event('1'));
  waiting.shift()!.go();
  await settled();
  expect([run.judgedBy, run.get().pending]).toEqual(['engine', 1]);
  expect(waiting[0]).toMatchObject({ kind: 'engine', what: 'append', ids: ['1'] });
  waiting.shift()!.go();
  await happened;
  expect([run.get().pending, run.get().state]).toEqual([0, '1']);
});

it('keeps what could not be judged pending, and judges it with what happens next', async () => {
  const run = await opened();
  const first = run.happen(event('1'));
  await settled();
  waiting.shift()!.go(new Error('no line'));
  await expect(first).rejects.toThrow('no line');
  expect([run.get().pending, run.get().trouble?.message]).toEqual([1, 'no line']);
  const second = run.happen(event('2'));
  await settled();
  waiting.shift()!.go();
  await second;
  expect([run.get().pending, run.get().state, run.get().trouble]).toEqual([0, '1,2', null]);
});

it('shows nothing of an answer that comes after the page was left', async () => {
  const run = await opened();
  const late = run.judgeAgain();
  await settled();
  run.close();
  waiting.shift()!.go();
  await late;
  expect(run.get().state).toBe('');
});
