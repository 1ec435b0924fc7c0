import { ask, api, Problem, type Schema } from '../api/client';
import { during } from '../frame/idle';
import { withMovedFacts } from './movedFacts';
import { hasWork, NotStored, removeDraft, storeDraft, type Draft } from './drafts';
import { differences, engineHost, judgeFor, type Judge } from './engine';
import { type NameChosen, nameSheet } from './naming';
import {
  happened,
  type BenchEvent,
  type BenchView,
  type Happening,
  type Now,
  type Ruling,
  type Sheet,
} from './types';

export interface BenchShown {
  /** As it was laid last: after a null or another kit it is laid anew. */
  laid: Ruling;
  sheet: Sheet;
  now: Now;
  /** Fingerprints: of the ruling laid down, and of what is shown. */
  ruling: string;
  state: string;
  /** Events that are stored and not judged yet. While any is, nothing may start. */
  pending: number;
  /** Why what happened could not be judged; it is kept all the same. */
  trouble: Error | null;
  /** Storage did not take the last event. */
  storage: NotStored | null;
  /** What changed since the sheet was laid, told once. */
  changed: string[];
  /** The server rules otherwise by now; the sheet is laid anew before it can be saved. */
  isOutdated: boolean;
}

/** The kit's number in a ruling of somebody who chose none. */
export const noKit = '00000000-0000-0000-0000-000000000000';

/**
 * One sheet on the bench: stores what happens, has it judged, and shows the answer. It decides nothing. An external store, so that each row
 * draws itself and no other.
 */
export class BenchRun {
  private readonly listeners = new Set<() => void>();
  private queue: Promise<unknown> = Promise.resolve();
  private draft: Draft;
  private shown: BenchShown;
  private judge: Judge;
  private isWriting = true;
  private isClosed = false;
  /** How many of the draft's events are in what is shown: the others are pending, and nothing starts before them. */
  private judged = 0;
  readonly resumed: boolean;

  private constructor(
    draft: Draft,
    judge: Judge,
    view: BenchView,
    changed: string[],
    /** An earlier sheet of this item lies aside because it cannot be read. */
    readonly hasUnreadable: boolean,
  ) {
    this.draft = draft;
    this.judge = judge;
    this.resumed = hasWork(draft.events);
    this.judged = draft.events.length;
    this.shown = {
      laid: draft.ruling,
      sheet: view.sheet!,
      now: view.now,
      ruling: view.ruling,
      state: view.state,
      pending: 0,
      trouble: null,
      storage: null,
      changed,
      isOutdated: false,
    };
    this.sheetId = view.sheetId;
  }

  private sheetId: string;

  /** @param fresh What the server rules today; null when it cannot be reached, then the draft's own ruling stands. */
  static async open(draft: Draft, fresh: Ruling | null, hasUnreadable = false): Promise<BenchRun> {
    const isOther = fresh !== null && JSON.stringify(steady(fresh)) !== JSON.stringify(steady(draft.ruling));
    const changed = isOther && hasWork(draft.events) ? await differences(draft.ruling, fresh) : [];
    const laid = fresh
      ? { ...draft, ruling: fresh, events: withMovedFacts(draft.events, draft.ruling, fresh) }
      : draft;
    let run: BenchRun | null = null;
    const { judge, view } = await judgeFor(laid.ruling, laid.events, (ruling) => run?.compare(ruling));
    run = new BenchRun(laid, judge, view, changed, hasUnreadable);
    if (judge.kind === 'server') void run.moveToEngine();
    return run;
  }

  /** The server judges while the engine is on its way; once that is there, no reading waits for the network. */
  private async moveToEngine() {
    if (!(await engineHost.start())) return;
    this.queue = this.queue.then(async () => {
      if (!this.isClosed && this.judge.kind === 'server') await this.rejudge().catch(() => {});
    });
  }

  /** The page is left: whatever is answered from now on is for nobody. */
  close() {
    this.isClosed = true;
    this.judge.close();
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  readonly get = () => this.shown;
  get events(): readonly BenchEvent[] {
    return this.draft.events;
  }
  get itemId() {
    return this.draft.itemId;
  }
  get roundId() {
    return this.draft.roundId;
  }
  get key() {
    return this.draft.key;
  }
  /** Facts corrected on this sheet that were let count. */
  get corrections() {
    const refused = new Set(this.shown.now.refused.map((it) => it.id));
    return this.draft.events.flatMap((it) => ('changes' in it && !refused.has(it.id) ? [it] : []));
  }
  get hasWork() {
    return hasWork(this.draft.events);
  }
  get judgedBy() {
    return this.judge.kind;
  }

  /** Something happened: kept first, judged then. Resolves when it is judged. */
  happen(...made: (Happening | BenchEvent)[]): Promise<void> {
    const events = made.map((it) => ('id' in it ? it : happened(this.withKit(it))));
    this.draft = { ...this.draft, events: [...this.draft.events, ...events] };
    const upTo = this.draft.events.length;
    this.set({ pending: upTo - this.judged });
    const stored = this.store();
    const judged = this.queue.then(async () => {
      await stored;
      await this.judgeMore(events, upTo);
    });
    this.queue = judged.catch(() => {});
    // From the press on, not only once it is stored: nobody sees a sheet at rest that is about to change.
    return during(judged);
  }

  /** What is typed was shown by the instrument that its step needs: a sheet whose kit changes tells the two apart. */
  private withKit(it: Happening): Happening {
    if (it.kind !== 'read') return it;
    const own = this.shown.sheet.steps.find((step) => step.key === it.step)?.with;
    return own ? { ...it, with: own.id } : it;
  }

  /** Why a typed reading would not be understood; null when it would, and when nobody can tell now. */
  async faultOf(step: string, text: string): Promise<string | null> {
    try {
      return await this.judge.faultOf(step, text);
    } catch {
      return null;
    }
  }

  /** Judges everything again: after the network is back, or after the rules changed. In its turn, as anything that is judged. */
  judgeAgain(fresh?: Ruling | null): Promise<void> {
    const done = this.queue.then(() => this.rejudge(fresh));
    this.queue = done.catch(() => {});
    return during(done);
  }

  private async rejudge(fresh?: Ruling | null): Promise<void> {
    const before = this.draft.ruling;
    if (fresh)
      this.draft = {
        ...this.draft,
        ruling: fresh,
        events: withMovedFacts(this.draft.events, before, fresh),
      };
    const upTo = this.draft.events.length;
    const { judge, view } = await judgeFor(this.draft.ruling, this.draft.events, (ruling) =>
      this.compare(ruling),
    );
    if (this.isClosed) return judge.close();
    this.judge.close();
    this.judge = judge;
    this.judged = upTo;
    this.sheetId = view.sheetId;
    this.set({
      laid: this.draft.ruling,
      sheet: view.sheet!,
      now: view.now,
      ruling: view.ruling,
      state: view.state,
      pending: this.draft.events.length - this.judged,
      trouble: null,
      isOutdated: false,
      changed: fresh ? await differences(before, fresh) : this.shown.changed,
    });
    await this.store();
  }

  async park(): Promise<void> {
    this.draft = { ...this.draft, parked: true };
    await this.happen({ kind: 'parked' }).catch(() => {});
    await this.store();
  }

  /** Ends the sheet with a record. What the server refuses for a reason that can be mended is mended, and told. */
  async save(end: Schema['EndKind'], notTested: Schema['NotTestedReason'] | null, remarks: string | null) {
    await this.queue;
    try {
      const saved = await ask(
        api.POST('/api/v1/bench/{itemId}/inspections', {
          params: { path: { itemId: this.itemId } },
          body: {
            id: this.draft.saveId,
            roundId: this.roundId,
            ruling: this.shown.ruling,
            state: this.shown.state,
            events: [...this.draft.events],
            end,
            notTested,
            remarks,
          },
        }),
      );
      this.isWriting = false;
      await removeDraft(this.key);
      return saved;
    } catch (failure) {
      if (failure instanceof Problem) await this.mend(failure);
      throw failure;
    }
  }

  async discard(reason: string): Promise<Schema['DiscardedAnswer']> {
    const answer = await ask(
      api.POST('/api/v1/bench/{itemId}/discard', {
        params: { path: { itemId: this.itemId } },
        body: { id: this.draft.saveId, roundId: this.roundId, events: [...this.draft.events], reason },
      }),
    );
    this.isWriting = false;
    await removeDraft(this.key);
    return answer;
  }

  /**
   * Gives what was measured without a tag its tag. A new tag leaves the sheet here; a known one makes it that item's sheet, which is opened
   * anew.
   */
  async name(chosen: NameChosen): Promise<{ itemId: string; isOther: boolean }> {
    await this.queue;
    this.draft = { ...this.draft, naming: chosen };
    await this.store();
    const renamed = await nameSheet(this.draft, chosen, (itemId) => freshRuling(itemId, this.roundId));
    const isOther = renamed.itemId !== this.itemId;
    if (isOther) this.isWriting = false;
    else {
      this.draft = renamed;
      await this.judgeAgain(renamed.ruling);
      this.dismissChanges();
    }
    return { itemId: renamed.itemId, isOther };
  }

  /** To another bench, by way of the server; it leaves this device once it is there. */
  async handOver(words: string): Promise<void> {
    await this.queue;
    await ask(
      api.POST('/api/v1/bench/{itemId}/hand-over', {
        params: { path: { itemId: this.itemId } },
        body: { id: this.draft.saveId, roundId: this.roundId, events: [...this.draft.events], words },
      }),
    );
    this.isWriting = false;
    await removeDraft(this.key);
  }

  /** After a fail was taken back: the same work, under a number of its own. */
  async reopen(): Promise<void> {
    this.isWriting = true;
    this.draft = { ...this.draft, saveId: crypto.randomUUID(), parked: false };
    await this.judgeAgain(await freshRuling(this.itemId, this.roundId));
  }

  /** Another tab has the sheet now; this one writes no more. */
  lose() {
    this.isWriting = false;
  }

  dismissChanges() {
    this.set({ changed: [] });
  }

  private async mend(failure: Problem) {
    const conflict = failure.extra['conflict'];
    if (conflict === 'id') this.draft = { ...this.draft, saveId: crypto.randomUUID() };
    if (conflict === 'unproved')
      for (const target of failure.extra['readings'] as string[])
        await this.happen({ kind: 'unproved', target });
    if (conflict === 'ruling' || conflict === 'state') {
      try {
        await this.judgeAgain(await freshRuling(this.itemId, this.roundId));
      } catch {
        this.set({ isOutdated: true });
      }
    }
  }

  private async judgeMore(events: BenchEvent[], upTo: number) {
    // Judged with everything else in the meantime, when all was judged again.
    if (upTo <= this.judged) return;
    try {
      const view = await this.judge.append(events, this.sheetId);
      this.judged = upTo;
      this.sheetId = view.sheetId;
      this.set({
        sheet: view.sheet ?? this.shown.sheet,
        now: view.now,
        state: view.state,
        pending: this.draft.events.length - this.judged,
        trouble: null,
      });
    } catch (failure) {
      if (this.isClosed) throw failure;
      // An engine that broke leaves it to the server; the server not answering leaves it for later.
      if (
        this.judge.kind === 'engine' &&
        (await this.rejudge().then(
          () => true,
          () => false,
        ))
      )
        return;
      // Kept and not judged: pending stays, so that nothing starts on what is not known.
      this.set({ trouble: failure instanceof Error ? failure : new Error(String(failure)) });
      throw failure;
    }
  }

  private compare(ruling: string) {
    if (ruling !== this.shown.ruling) this.set({ isOutdated: true });
  }

  private async store() {
    if (!this.isWriting) return;
    try {
      await storeDraft(this.draft);
      if (this.shown.storage) this.set({ storage: null });
    } catch (failure) {
      if (failure instanceof NotStored) this.set({ storage: failure });
    }
  }

  private set(part: Partial<BenchShown>) {
    this.shown = { ...this.shown, ...part };
    this.listeners.forEach((listener) => listener());
  }
}

/** What the server rules now. */
export const freshRuling = (itemId: string, roundId: string): Promise<Ruling> =>
  ask(api.GET('/api/v1/bench/{itemId}', { params: { path: { itemId }, query: { round: roundId } } }));

/** Without what changes by itself: the day, what others measure meanwhile, and whether the instrument answers. */
const steady = (it: Ruling) => ({
  ...it,
  today: '',
  outlets: [],
  earthOffsets: [],
  probeSeen: null,
  unsavedFailures: [],
  heldBy: [],
  procedures: [],
  earlierProcedures: [],
  kit: it.kit
    ? {
        ...it.kit,
        connected: false,
        functions: [],
        asksForNull: false,
        analyser: it.kit.analyser ? { ...it.kit.analyser, connected: false, functions: [] } : null,
      }
    : null,
});
