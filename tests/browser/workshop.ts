import { createConnection } from 'node:net';

/**
 * The hands at the simulated bench, by the channel that no real tester has: what is wrong with an item, where the clip sits, what the cable
 * and the mains do. Orders are those of docs/protocol.md.
 */
export async function hands(order: Record<string, unknown>): Promise<Record<string, unknown>> {
  const port = Number(process.env['OSIERWAND_CONTROL']);
  if (!port) throw new Error('These tests need the simulator’s control channel: OSIERWAND_CONTROL is its port.');
  return new Promise((resolve, reject) => {
    const line = createConnection({ host: '127.0.0.1', port }, () => line.write(`${JSON.stringify(order)}\n`));
    line.setEncoding('utf8');
    let said = '';
    line.on('data', (text) => {
      said += text;
      if (!said.includes('\n')) return;
      line.end();
      const answer = JSON.parse(said) as { ok: boolean; why?: string };
      if (answer.ok) resolve(answer);
      else reject(new Error(`The simulated bench refused: ${answer.why}`));
    });
    line.on('error', reject);
  });
}

/** Something is wrong with whatever carries this tag, from now on. */
export const spoil = (tag: string, fault: string, outlet?: number) => hands({ do: 'fault', tag, fault, outlet });

/** Whatever was wrong with it is mended. */
export const mend = (tag: string) => hands({ do: 'mend', tag });

/** At another pace than the usual one: what has to be seen, or caught, while it runs would be over too soon. */
export async function atPace(pace: number, work: () => Promise<void>) {
  await hands({ do: 'pace', pace });
  try {
    await work();
  } finally {
    await hands({ do: 'pace' });
  }
}
