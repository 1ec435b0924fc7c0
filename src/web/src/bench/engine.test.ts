import { describe, expect, it, vi } from 'vitest';
import { EngineHost, inEngine } from './engine';
import type { Answer, Call } from './engine.worker';
import type { BenchEvent, Ruling } from './types';

/** An engine that answers when it is told to, in whatever order. */
function slowEngine() {
  const asked: Call[] = [];
  const line = {
    onmessage: null as ((event: MessageEvent<Answer>) => void) | null,
    postMessage: (call: Call) => void asked.push(call),
  };
  const answer = (data: Answer) => line.onmessage?.({ data } as MessageEvent<Answer>);
  const host = new EngineHost(() => line as unknown as MessagePort);
  const started = host.start();
  return { asked, answer, host, started, ready: () => answer({ id: 0, result: 'ready' }) };
}

const view = (name: string) => JSON.stringify({ sheetId: name });
const ruling = {} as Ruling;
const event = (id: string) => ({ id }) as unknown as BenchEvent;

describe('the engine of all pages', () => {
  it('answers each sheet by its own handle, in whatever order the answers come', async () => {
    const { asked, answer, host, ready } = slowEngine();
    ready();
    const [kettle, drill] = [inEngine(host, 'kettle'), inEngine(host, 'drill')];
    const [one, other] = [kettle.lay(ruling, []), drill.lay(ruling, [])];
    expect(asked.map((call) => [call.method, call.args[0]])).toEqual([
      ['Open', 'kettle'],
      ['Open', 'drill'],
    ]);
    answer({ id: asked[1]!.id, result: view('of the drill') });
    answer({ id: asked[0]!.id, result: view('of the kettle') });
    expect((await one).sheetId).toBe('of the kettle');
    expect((await other).sheetId).toBe('of the drill');
  });

  it('drops an answer that comes after its sheet was left', async () => {
    const { asked, answer, host, ready } = slowEngine();
    ready();
    const left = inEngine(host, 'left');
    const late = left.lay(ruling, []);
    left.close();
    await expect(late).rejects.toThrow('The sheet was closed.');
    answer({ id: asked[0]!.id, result: view('of what was left') });
    expect(asked.at(-1)).toMatchObject({ method: 'Close', args: ['left'] });
    const next = inEngine(host, 'next').lay(ruling, []);
    answer({ id: asked.at(-1)!.id, result: view('of the next') });
    expect((await next).sheetId).toBe('of the next');
  });

  it('opens a sheet again with all that happened when the engine holds it no more', async () => {
    const { asked, answer, host, ready } = slowEngine();
    ready();
    const judge = inEngine(host, 'kettle');
    const laid = judge.lay(ruling, [event('1')]);
    answer({ id: asked[0]!.id, result: view('kettle') });
    await laid;
    const appended = judge.append([event('2')], 'kettle');
    answer({ id: asked[1]!.id, result: '?' });
    await new Promise((resolve) => setTimeout(resolve));
    expect(asked[2]).toMatchObject({ method: 'Open', args: ['kettle', '{}', '[{"id":"1"},{"id":"2"}]'] });
    answer({ id: asked[2]!.id, result: view('kettle again') });
    expect((await appended).sheetId).toBe('kettle again');
  });

  it('opens a sheet again after a call that failed, so that no event is left out of what is judged', async () => {
    const { asked, answer, host, ready } = slowEngine();
    ready();
    const judge = inEngine(host, 'kettle');
    const laid = judge.lay(ruling, []);
    answer({ id: asked[0]!.id, result: view('kettle') });
    await laid;
    const broken = judge.append([event('1')], 'kettle');
    answer({ id: asked[1]!.id, error: 'out of memory' });
    await expect(broken).rejects.toThrow('out of memory');
    const next = judge.append([event('2')], 'kettle');
    expect(asked[2]).toMatchObject({ method: 'Open', args: ['kettle', '{}', '[{"id":"1"},{"id":"2"}]'] });
    answer({ id: asked[2]!.id, result: view('whole') });
    expect((await next).sheetId).toBe('whole');
  });

  it('is taken for dead when it owes an answer for long, and the next start gets a new one', async () => {
    vi.useFakeTimers();
    try {
      let lines = 0;
      const host = new EngineHost(() => {
        lines++;
        return { onmessage: null, postMessage: () => {} } as unknown as MessagePort;
      });
      void host.start();
      host.isReady = true;
      const judge = inEngine(host, 'kettle');
      const owed = judge.lay(ruling, []);
      const refused = expect(owed).rejects.toThrow('The engine does not answer.');
      await vi.advanceTimersByTimeAsync(19_000);
      expect(host.isReady).toBe(true);
      await vi.advanceTimersByTimeAsync(2_000);
      await refused;
      expect(host.isReady).toBe(false);
      await expect(judge.append([event('1')], 'kettle')).rejects.toThrow('There is no engine.');
      void host.start();
      expect(lines).toBe(2);
    } finally {
      vi.useRealTimers();
    }
  });

  it('says why it cannot compute a sheet', async () => {
    const { asked, answer, host, ready } = slowEngine();
    ready();
    const laid = inEngine(host, 'kettle').lay(ruling, []);
    answer({ id: asked[0]!.id, result: '!of another version' });
    await expect(laid).rejects.toThrow('of another version');
  });

  it('is not there where it did not start, and nobody waits for it', async () => {
    const { answer, host, started } = slowEngine();
    const waiting = host.call(null, 'Differences', 'a', 'b');
    answer({ id: 0, error: 'no memory' });
    expect(await started).toBe(false);
    expect(host.isReady).toBe(false);
    await expect(waiting).rejects.toThrow('did not start');
  });

  it('is not there where a browser has no workers', async () => {
    const host = new EngineHost(() => null);
    expect(await host.start()).toBe(false);
  });
});
