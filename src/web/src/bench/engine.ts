import { api, ask } from '../api/client';
import type { BenchEvent, BenchView, Ruling } from './types';
import { during } from '../frame/idle';
import type { Answer, Call } from './engine.worker';

/** Where the engine lies; empty while developing without one. */
const home = import.meta.env.VITE_ENGINE ?? '';

/** What judges: the engine in the browser, or the server when there is none. Both run the same assembly. */
export interface Judge {
  readonly kind: 'engine' | 'server';
  lay(ruling: Ruling, events: readonly BenchEvent[]): Promise<BenchView>;
  append(events: readonly BenchEvent[], knownSheet: string): Promise<BenchView>;
  /** Why a typed reading would not be understood; null when it would. */
  faultOf(step: string, text: string): Promise<string | null>;
  /** The sheet is left; nothing is answered for it any more. */
  close(): void;
}

type Waiting = {
  handle: string | null;
  resolve: (text: string) => void;
  reject: (failure: Error) => void;
};

/** What both kinds of worker have in common. */
type Line = Pick<MessagePort, 'postMessage' | 'onmessage'>;

/** Milliseconds after which an engine that owes an answer is taken for dead; a slow phone answers in a tenth of it. */
const patience = 20_000;

/** The worker, started once, after the first paint, and shared with the other pages of this browser where it can. */
export class EngineHost {
  private line: Line | null = null;
  private started: Promise<boolean> | null = null;
  private readonly waiting = new Map<number, Waiting>();
  private readonly connect: (onBroken: () => void) => Line | null;
  private number = 0;
  isReady = false;

  constructor(connect: (onBroken: () => void) => Line | null) {
    this.connect = connect;
  }

  /** Resolves to whether there is an engine; it never throws. */
  start(): Promise<boolean> {
    this.started ??= new Promise((resolve) => {
      const give = (up: boolean) => {
        this.isReady = up;
        if (!up) this.drop(() => true, 'The engine did not start.');
        resolve(up);
      };
      try {
        this.line = this.connect(() => give(false));
      } catch {
        this.line = null;
      }
      if (!this.line) return give(false);
      this.line.onmessage = ({ data }: MessageEvent<Answer>) => {
        if (data.id === 0) return give(data.error === undefined);
        const waits = this.waiting.get(data.id);
        this.waiting.delete(data.id);
        if (data.error === undefined) waits?.resolve(data.result ?? '');
        else waits?.reject(new Error(data.error));
      };
    });
    return this.started;
  }

  /** @param handle Of the sheet it is asked for; null where it is about none. */
  call(handle: string | null, method: Call['method'], ...args: string[]): Promise<string> {
    const id = ++this.number;
    return during(
      new Promise<string>((resolve, reject) => {
        if (!this.line) return reject(new Error('There is no engine.'));
        const dead = setTimeout(() => this.giveUp(), patience);
        const ending =
          <T>(end: (answer: T) => void) =>
          (answer: T) => {
            clearTimeout(dead);
            end(answer);
          };
        this.waiting.set(id, { handle, resolve: ending(resolve), reject: ending(reject) });
        this.line.postMessage({
          id,
          method,
          args: handle === null ? args : [handle, ...args],
        } satisfies Call);
      }),
    );
  }

  /** The sheet is left: what is still answered for it is nobody's any more. */
  close(handle: string) {
    this.drop((waits) => waits.handle === handle, 'The sheet was closed.');
    if (this.isReady)
      this.line?.postMessage({ id: ++this.number, method: 'Close', args: [handle] } satisfies Call);
  }

  /** A browser may end a shared worker and tells nobody: what it owes is refused, and whoever starts it next gets a new one. */
  private giveUp() {
    if (this.line) this.line.onmessage = null;
    this.line = null;
    this.started = null;
    this.isReady = false;
    this.drop(() => true, 'The engine does not answer.');
  }

  private drop(which: (waits: Waiting) => boolean, why: string) {
    for (const [id, waits] of this.waiting) {
      if (!which(waits)) continue;
      this.waiting.delete(id);
      waits.reject(new Error(why));
    }
  }
}

/** A worker of all pages; one of this page where the browser has no other. */
function connectWorker(onBroken: () => void): Line | null {
  if (!home || typeof WebAssembly === 'undefined') return null;
  if (typeof SharedWorker !== 'undefined') {
    const shared = new SharedWorker(new URL('./engine.worker.ts', import.meta.url), {
      type: 'module',
      name: home,
    });
    shared.onerror = onBroken;
    return shared.port;
  }
  if (typeof Worker === 'undefined') return null;
  const own = new Worker(new URL('./engine.worker.ts', import.meta.url), { type: 'module', name: home });
  own.onerror = onBroken;
  return own as unknown as Line;
}

export const engineHost = new EngineHost(connectWorker);

/** Fetched when the page has been painted and the line is quiet: while somebody signs in. */
export function warmEngine() {
  const start = () => void engineHost.start();
  if ('requestIdleCallback' in window) requestIdleCallback(start, { timeout: 1500 });
  else setTimeout(start, 300);
}

const viewOf = (text: string): BenchView => {
  if (text.startsWith('!')) throw new Error(text.slice(1));
  return JSON.parse(text) as BenchView;
};

/** What the engine answers for a handle it does not hold (any more). */
const gone = '?';

/** One sheet in the engine, under a handle of its own. */
export function inEngine(host: EngineHost, handle: string = crypto.randomUUID()): Judge {
  let ruling = '';
  let events: BenchEvent[] = [];
  /** Whether the engine is known to hold all events: after a call that failed nobody knows, and it is opened again. */
  let isWhole = false;
  const open = async () => {
    const view = viewOf(await host.call(handle, 'Open', ruling, JSON.stringify(events)));
    isWhole = true;
    return view;
  };
  return {
    kind: 'engine',
    lay: (laid, happened) => {
      ruling = JSON.stringify(laid);
      events = [...happened];
      return open();
    },
    append: async (more, knownSheet) => {
      events.push(...more);
      if (!isWhole) return open();
      isWhole = false;
      const text = await host.call(handle, 'Append', JSON.stringify(more), knownSheet);
      if (text === gone) return open();
      const view = viewOf(text);
      isWhole = true;
      return view;
    },
    faultOf: async (step, text) => (await host.call(handle, 'FaultOf', step, text)) || null,
    close: () => host.close(handle),
  };
}

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
    close: () => {},
  };
}

/**
 * The engine where it is ready; until then the server, so that nobody waits for what is still being fetched. Where neither can now, the
 * engine is waited for; one that refuses a ruling leaves it to the server.
 */
export async function judgeFor(
  ruling: Ruling,
  events: readonly BenchEvent[],
  onOtherRuling: (fingerprint: string) => void,
): Promise<{ judge: Judge; view: BenchView }> {
  const starting = engineHost.start();
  const server = onServer(onOtherRuling);
  let refusal: unknown;
  if (!engineHost.isReady)
    try {
      return { judge: server, view: await server.lay(ruling, events) };
    } catch (failure) {
      refusal = failure;
    }
  if (await starting) {
    const judge = inEngine(engineHost);
    try {
      return { judge, view: await judge.lay(ruling, events) };
    } catch {
      // Another version, or a ruling it cannot read: the server can.
      judge.close();
    }
  }
  if (refusal) throw refusal;
  return { judge: server, view: await server.lay(ruling, events) };
}

/** What changed between two rulings, a line each; empty where no engine can tell. */
export async function differences(before: Ruling, after: Ruling): Promise<string[]> {
  if (!(await engineHost.start())) return [];
  const text = await engineHost.call(null, 'Differences', JSON.stringify(before), JSON.stringify(after));
  return text ? text.split('\n') : [];
}
