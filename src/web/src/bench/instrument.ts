import type { HubConnection } from '@microsoft/signalr';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Schema } from '../api/client';

export interface LiveReport {
  text: string;
  si: number | null;
  isBound: boolean;
  qualifier: string | null;
  elapsed: number;
  seconds: number;
  mains: number | null;
  loadA: number | null;
  entry: Schema['Entry'] | null;
}

let line: Promise<HubConnection> | null = null;

/** One line to the server for the whole session; the library is fetched when a measurement first needs it. */
async function connect(): Promise<HubConnection> {
  line ??= (async () => {
    const { HubConnectionBuilder, LogLevel } = await import('@microsoft/signalr');
    const hub = new HubConnectionBuilder().withUrl('/hubs/bench').configureLogging(LogLevel.None).build();
    hub.onclose(() => (line = null));
    await hub.start();
    return hub;
  })();
  try {
    return await line;
  } catch (failure) {
    line = null;
    throw failure;
  }
}

/** What the hub's exception says to the technician, without the library's preamble. */
const spoken = (failure: unknown) =>
  (failure instanceof Error ? failure.message : String(failure))
    .replace(/^.*HubException: /, '')
    .replace(
      /^.*error on the server\.?.*$/,
      'The instrument did not deliver. Measure again, or type the reading.',
    );

/** Runs steps on the connected instrument and shows its display as it moves. Leaving the page or stopping aborts on the instrument. */
export function useInstrument(sheet: Schema['BenchSheet'], onReading: (entry: Schema['Entry']) => void) {
  const [running, setRunning] = useState<string | null>(null);
  const [live, setLive] = useState<LiveReport | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const stream = useRef<{ dispose(): void } | null>(null);

  const stop = useCallback(() => {
    stream.current?.dispose();
    stream.current = null;
    setRunning(null);
    setLive(null);
  }, []);
  useEffect(() => stop, [stop]);

  const measure = async (stepKey: string) => {
    if (stream.current || running) return;
    setRunning(stepKey);
    setTrouble(null);
    setLive(null);
    const failed = (failure: unknown) => {
      stop();
      setTrouble(spoken(failure));
    };
    try {
      const hub = await connect();
      stream.current = hub
        .stream<LiveReport>('Measure', sheet.item.id, sheet.round.id, sheet.scope, stepKey, sheet.nullOhm)
        .subscribe({
          next: (report) => {
            setLive(report);
            if (report.entry) onReading(report.entry);
          },
          complete: stop,
          error: failed,
        });
    } catch (failure) {
      failed(
        failure instanceof Error && /HubException/.test(failure.message)
          ? failure
          : new Error('The server cannot be reached, so nothing was measured. What you entered is kept.'),
      );
    }
  };
  return { running, live, trouble, measure, stop };
}
