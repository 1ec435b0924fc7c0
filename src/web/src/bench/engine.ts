import { api, ask } from '../api/client';
import type { BenchEvent, BenchView, Ruling } from './types';
import type { Call } from './engine.worker';

/** Where the engine lies; empty while developing without one. */
const home = import.meta.env.VITE_ENGINE ?? '';

/** What judges: the engine in the browser, or the server when there is none. Both run the same assembly. */
export interface Judge {
  readonly kind: 'engine' | 'server';
  lay(ruling: Ruling, events: readonly BenchEvent[]): Promise<BenchView>;
  append(events: readonly BenchEvent[], knownSheet: string): Promise<BenchView>;
  /** Why a typed reading would not be understood; null when it would. */
  faultOf(step: string, text: string): Promise<string | null>;
}

type Waiting = { resolve: (text: string) => void; reject: (failure: Error) => void };

/** The worker, started once, after the first paint. */
class EngineHost {
  private worker: Worker | null = null;
  private started: Promise<boolean> | null = null;
  private readonly waiting = new Map<number, Waiting>();
  private number = 0;
  isReady = false;

  /** Resolves to whether there is an engine; it never throws. */
  start(): Promise<boolean> {
    this.started ??= new Promise((resolve) => {
      if (!home || typeof Worker === 'undefined' || typeof WebAssembly === 'undefined') return resolve(false);
      const give = (up: boolean) => {
        this.isReady = up;
        if (!up) this.fail(new Error('The engine did not start.'));
        resolve(up);
      };
      try {
        this.worker = new Worker(new URL('./engine.worker.ts', import.meta.url), {
          type: 'module',
          name: home,
        });
      } catch {
        return give(false);
      }
      this.worker.onerror = () => give(false);
      this.worker.onmessage = ({ data }: MessageEvent<{ id: number; result?: string; error?: string }>) => {
        if (data.id === 0) return give(data.error === undefined);
        const waits = this.waiting.get(data.id);
        this.waiting.delete(data.id);
        if (data.error === undefined) waits?.resolve(data.result ?? '');
        else waits?.reject(new Error(data.error));
      };
    });
    return this.started;
  }

  call(method: Call['method'], ...args: string[]): Promise<string> {
    const id = ++this.number;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject });
      this.worker?.postMessage({ id, method, args } satisfies Call);
    });
  }

  private fail(why: Error) {
    this.waiting.forEach((it) => it.reject(why));
    this.waiting.clear();
  }
}

export const engineHost = new EngineHost();

/** Fetched when the page has been painted and the line is quiet. */
export function warmEngine() {
  const start = () => void engineHost.start();
  if ('requestIdleCallback' in window) requestIdleCallback(start, { timeout: 1500 });
  else setTimeout(start, 300);
}

const viewOf = (text: string): BenchView => {
  if (text.startsWith('!')) throw new Error(text.slice(1));
  return JSON.parse(text) as BenchView;
};

const inBrowser: Judge = {
  kind: 'engine',
  lay: async (ruling, events) =>
    viewOf(await engineHost.call('Lay', JSON.stringify(ruling), JSON.stringify(events))),
  append: async (events, knownSheet) =>
    viewOf(await engineHost.call('Append', JSON.stringify(events), knownSheet)),
  faultOf: async (step, text) => (await engineHost.call('FaultOf', step, text)) || null,
};

/** The server judges by the ruling that holds there now; the bench is told when that is another one. */
function onServer(onOtherRuling: (fingerprint: string) => void): Judge {
  let [item, round] = ['', ''];
  let events: BenchEvent[] = [];
  const askFor = async (knownSheet?: string, trial?: { step: string; text: string }) => {
    const answer = await ask(
      api.POST('/api/v1/bench/{itemId}/view', {
        params: { path: { itemId: item } },
        body: { roundId: round, events, ...(knownSheet ? { knownSheet } : {}), ...(trial ? { trial } : {}) },
      }),
    );
    onOtherRuling(answer.ruling);
    return answer;
  };
  return {
    kind: 'server',
    lay: async (ruling, happened) => {
      [item, round] = [ruling.item.id, ruling.round.id];
      events = [...happened];
      return (await askFor()).view;
    },
    append: async (more, knownSheet) => {
      events = [...events, ...more];
      return (await askFor(knownSheet)).view;
    },
    faultOf: async (step, text) => (await askFor(undefined, { step, text })).trialFault ?? null,
  };
}

/** The engine where there is one by now, else the server; an engine that refuses a ruling leaves it to the server as well. */
export async function judgeFor(
  ruling: Ruling,
  events: readonly BenchEvent[],
  onOtherRuling: (fingerprint: string) => void,
): Promise<{ judge: Judge; view: BenchView }> {
  const server = onServer(onOtherRuling);
  if (await engineHost.start()) {
    try {
      return { judge: inBrowser, view: await inBrowser.lay(ruling, events) };
    } catch {
      // Another version, or a ruling it cannot read: the server can.
    }
  }
  return { judge: server, view: await server.lay(ruling, events) };
}

/** What changed between two rulings, a line each; empty where no engine can tell. */
export async function differences(before: Ruling, after: Ruling): Promise<string[]> {
  if (!engineHost.isReady) return [];
  const text = await engineHost.call('Differences', JSON.stringify(before), JSON.stringify(after));
  return text ? text.split('\n') : [];
}
