/// <reference lib="webworker" />

/**
 * Core, compiled to WebAssembly, in a thread of its own: a reading is judged in the same moment, with or without a network. Shared by all
 * pages and tabs where the browser can, so that it is loaded once; the sheets of different pages are told apart by their handles.
 */
interface Exports {
  Warm(): void;
  Open(handle: string, ruling: string, events: string): string;
  Append(handle: string, events: string, knownSheet: string): string;
  FaultOf(handle: string, step: string, text: string): string;
  Close(handle: string): void;
  Differences(before: string, after: string): string;
}

export interface Call {
  id: number;
  method: Exclude<keyof Exports, 'Warm'>;
  args: string[];
}

/** The answer to a call; number 0 says that the engine is ready, or why it is not. */
export interface Answer {
  id: number;
  result?: string;
  error?: string;
}

const ready = (async () => {
  // Tells the runtime that this worker is a home of its own, not a helper thread of one on the page.
  (self as unknown as { dotnetSidecar: boolean }).dotnetSidecar = true;
  const base = new URL(self.name, self.location.origin).href;
  const { dotnet } = (await import(/* @vite-ignore */ `${base}dotnet.js`)) as {
    dotnet: { create(): Promise<{ getAssemblyExports(name: string): Promise<unknown> }> };
  };
  const runtime = await dotnet.create();
  const all = (await runtime.getAssemblyExports('Osierwand.Engine.dll')) as {
    Osierwand: { Engine: { Exports: Exports } };
  };
  const exports = all.Osierwand.Engine.Exports;
  exports.Warm();
  return exports;
})();

/** One page, or the only one. */
function serve(port: {
  postMessage(answer: Answer): void;
  onmessage: ((event: MessageEvent<Call>) => void) | null;
}) {
  ready.then(
    () => port.postMessage({ id: 0, result: 'ready' }),
    (failure: unknown) => port.postMessage({ id: 0, error: String(failure) }),
  );
  port.onmessage = async ({ data }) => {
    try {
      const exports = await ready;
      const call = exports[data.method] as (...args: string[]) => string | undefined;
      port.postMessage({ id: data.id, result: call(...data.args) ?? '' });
    } catch (failure) {
      port.postMessage({ id: data.id, error: String(failure) });
    }
  };
}

if ('onconnect' in self)
  (self as unknown as SharedWorkerGlobalScope).onconnect = ({ ports }) => serve(ports[0]!);
else serve(self as unknown as Parameters<typeof serve>[0]);
