import type { HubConnection } from '@microsoft/signalr';
import { begin } from '../frame/idle';
import type { BenchEvent } from './types';

export interface LiveReport {
  text: string;
  si: number | null;
  isBound: boolean;
  qualifier: string | null;
  elapsed: number;
  seconds: number;
  isSettled: boolean;
  leastSi: number | null;
  mostSi: number | null;
  mains: number | null;
  loadA: number | null;
  /** A load is drawn: the item runs. */
  runs: boolean;
  pathSeen: boolean | null;
  /** When the instrument showed it, by its own clock. */
  at: string | null;
  /** What it shows beside the figure, in words. */
  said: string | null;
  /** The event to keep: of discharges that are watched one each; else once and last: the reading, or what was found out instead. */
  kept: BenchEvent | null;
}

/** Exactly what the hub wants to know before it starts anything. */
export interface MeasureRequest {
  itemId: string;
  roundId: string;
  ruling: string;
  step: string;
  point: string | null;
  startedBy: 'press' | 'hold';
  eventId: string;
  events: readonly BenchEvent[];
  /** Read until it has been held long enough: an earth path while its flex is moved. */
  isHeld: boolean;
}

/** The display as it has moved since the start of the last measurement, for the trace that is drawn of it. */
export interface Moved {
  step: string;
  points: readonly { t: number; si: number }[];
}

/**
 * The instrument as this tab knows it. "stopping" lasts until the server has let go; "lost" says that the line broke while something ran,
 * so
 * that what was switched on must be looked at, not believed to be off.
 */
export type Line =
  | { is: 'idle'; trouble: string | null }
  | { is: 'connecting'; step: string }
  | { is: 'running'; step: string; isHeld: boolean; live: LiveReport | null; at: number }
  | { is: 'stopping'; step: string }
  | { is: 'lost'; step: string; trouble: string };

export interface Stream {
  dispose(): void;
}

/** What the client needs of the line to the server: replaced in tests. */
export interface Hub {
  open(): Promise<void>;
  measure(
    request: MeasureRequest,
    on: { report(it: LiveReport): void; done(): void; failed(failure: unknown): void },
  ): Stream;
  /** What is measured has been held long enough. */
  finish(): Promise<void>;
  close(): Promise<void>;
}

const unreachable = 'The server cannot be reached, so nothing was measured. What you entered is kept.';

/** What the hub's exception says to the technician, without the library's preamble. */
export const spoken = (failure: unknown) => {
  const text = failure instanceof Error ? failure.message : String(failure);
  if (/HubException: /.test(text)) return text.replace(/^.*HubException: /s, '');
  return /error on the server/.test(text)
    ? 'The instrument did not deliver. Measure again, or type the reading.'
    : null;
};

/** A trace of more points shows no more. */
const mostPoints = 1500;

/** How long a stop may take to be confirmed before it is taken as done. */
const stopPatienceMs = 1500;

export class InstrumentClient {
  private readonly hub: Hub;
  private readonly listeners = new Set<() => void>();
  private line: Line = { is: 'idle', trouble: null };
  private stream: Stream | null = null;
  /** Each start has a number; whatever comes from an earlier one is too late. */
  private turn = 0;
  private onKept: ((it: BenchEvent) => void) | null = null;
  private moved: Moved | null = null;
  private endOfWork: (() => void) | null = null;

  constructor(hub: Hub) {
    this.hub = hub;
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  readonly get = () => this.line;
  readonly getMoved = () => this.moved;

  get isBusy() {
    return this.line.is === 'connecting' || this.line.is === 'running' || this.line.is === 'stopping';
  }

  /** Starts one step. Nothing happens while another one runs, connects or stops. */
  async start(request: MeasureRequest, onKept: (it: BenchEvent) => void): Promise<void> {
    if (this.isBusy) return;
    const turn = ++this.turn;
    this.onKept = onKept;
    this.moved = { step: request.step, points: [] };
    this.set({ is: 'connecting', step: request.step });
    try {
      await this.hub.open();
    } catch {
      if (turn === this.turn) this.set({ is: 'idle', trouble: unreachable });
      return;
    }
    // Stopped while the line was still opening: nothing was asked of the instrument, and nothing is.
    if (turn !== this.turn) return;
    const running = { is: 'running' as const, step: request.step, isHeld: request.isHeld };
    this.set({ ...running, live: null, at: Date.now() });
    const mine = () => turn === this.turn;
    this.stream = this.hub.measure(request, {
      report: (it) => {
        if (!mine()) return;
        this.move(it);
        this.set({ ...running, live: it, at: Date.now() });
        if (it.kept) this.onKept?.(it.kept);
      },
      done: () => mine() && this.end(null),
      failed: (failure) => {
        if (!mine()) return;
        const said = spoken(failure);
        this.stream = null;
        if (said !== null) this.end(said);
        else
          this.set({
            is: 'lost',
            step: request.step,
            trouble:
              'The line broke while something ran. No reading was taken. The instrument stops by itself; look at it before you touch anything.',
          });
      },
    });
  }

  /** The value it has now is the reading; only what is held for as long as one likes. */
  finish() {
    if (this.line.is === 'running' && this.line.isHeld) void this.hub.finish().catch(() => {});
  }

  /** Stops in every state; safe to call at any time, as often as one likes. */
  stop() {
    const { line } = this;
    if (line.is === 'lost') this.set({ is: 'idle', trouble: null });
    if (line.is === 'connecting') {
      this.turn++;
      this.set({ is: 'idle', trouble: null });
    }
    if (line.is !== 'running') return;
    const turn = ++this.turn;
    this.set({ is: 'stopping', step: line.step });
    this.stream?.dispose();
    this.stream = null;
    setTimeout(() => turn === this.turn && this.set({ is: 'idle', trouble: null }), stopPatienceMs);
    void this.settle(turn);
  }

  /** Another item lies on the bench: what was said of the last one is not said of this. */
  forget() {
    this.moved = null;
    if (this.line.is === 'idle' && this.line.trouble !== null) this.set({ is: 'idle', trouble: null });
  }

  /** Stops and forgets who listened: the page goes away, or somebody signs out. */
  async leave() {
    this.onKept = null;
    this.stop();
    await this.hub.close();
  }

  private async settle(turn: number) {
    // A message of the stream's end has left by the next turn of the loop; the server aborts on it.
    await new Promise((resolve) => setTimeout(resolve, 120));
    if (turn === this.turn) this.set({ is: 'idle', trouble: null });
  }

  private move(it: LiveReport) {
    if (!this.moved || it.si === null || it.isBound || this.moved.points.length >= mostPoints) return;
    this.moved = { ...this.moved, points: [...this.moved.points, { t: it.elapsed, si: it.si }] };
  }

  private end(trouble: string | null) {
    this.stream = null;
    this.set({ is: 'idle', trouble });
  }

  private set(line: Line) {
    this.line = line;
    if (this.isBusy) this.endOfWork ??= begin();
    else {
      this.endOfWork?.();
      this.endOfWork = null;
    }
    this.listeners.forEach((listener) => listener());
  }
}

/** The real line; the library is fetched when a measurement first needs it. */
class SignalRHub implements Hub {
  private connection: HubConnection | null = null;
  private opening: Promise<void> | null = null;

  open(): Promise<void> {
    if (this.connection?.state === 'Connected') return Promise.resolve();
    this.opening ??= (async () => {
      try {
        const { HubConnectionBuilder, LogLevel } = await import('@microsoft/signalr');
        const made = new HubConnectionBuilder()
          .withUrl('/hubs/bench')
          .configureLogging(LogLevel.None)
          .build();
        await made.start();
        this.connection = made;
      } finally {
        this.opening = null;
      }
    })();
    return this.opening;
  }

  measure(request: MeasureRequest, on: Parameters<Hub['measure']>[1]): Stream {
    return this.connection!.stream<LiveReport>('Measure', request).subscribe({
      next: on.report,
      complete: on.done,
      error: on.failed,
    });
  }

  async finish() {
    await this.connection?.invoke('Finish');
  }

  async close() {
    const { connection } = this;
    this.connection = null;
    await connection?.stop();
  }
}

/** One for the tab: there is one pair of hands. */
export const instrument = new InstrumentClient(new SignalRHub());
