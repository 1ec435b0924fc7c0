/// <reference lib="webworker" />

/** Core, compiled to WebAssembly, in a thread of its own: a reading is judged in the same moment, with or without a network. */
interface Exports {
  Warm(): void;
  Lay(ruling: string, events: string): string;
  Append(events: string, knownSheet: string): string;
  FaultOf(step: string, text: string): string;
  Differences(before: string, after: string): string;
}

export interface Call {
  id: number;
  method: Exclude<keyof Exports, 'Warm'>;
  args: string[];
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

ready.then(
  () => self.postMessage({ id: 0, result: 'ready' }),
  (failure: unknown) => self.postMessage({ id: 0, error: String(failure) }),
);

self.onmessage = async ({ data }: MessageEvent<Call>) => {
  try {
    const exports = await ready;
    const call = exports[data.method] as (...args: string[]) => string;
    self.postMessage({ id: data.id, result: call(...data.args) });
  } catch (failure) {
    self.postMessage({ id: data.id, error: String(failure) });
  }
};
