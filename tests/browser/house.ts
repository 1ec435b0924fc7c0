import { type ChildProcess, execFileSync, spawn } from 'node:child_process';
import { type BrowserContext, test as base } from '@playwright/test';

export { expect, type Page, type Locator } from '@playwright/test';

/**
 * What a worker has to itself, so that journeys run beside one another and lean on nothing of each other's: a server on a copy of the
 * demo's database, its simulated instruments, and one browser profile in which the engine is loaded once. ./test says by its environment
 * where the application and the database are.
 */
interface House {
  url: string;
  /** Of the simulator's control channel. */
  control: number;
}

/** How much faster than life the instruments are unless a journey asks for another pace; any faster, their display never stands still. */
const pace = 20;

const env = (name: string) => {
  const value = process.env[name];
  if (!value) throw new Error(`These tests need ${name}: run ./test, or ./test --only browser.`);
  return value;
};

const sql = (...orders: string[]) =>
  execFileSync(env('OSIERWAND_PSQL'), ['-X', '-q', '-v', 'ON_ERROR_STOP=1', '-d', 'postgres', ...orders.flatMap((order) => ['-c', order])]);

/** Starts a program of ours and waits for a line of it. */
function started(program: string, args: string[], options: { cwd: string; env?: Record<string, string> }, line: RegExp) {
  const child = spawn('dotnet', [program, ...args], {
    cwd: options.cwd,
    // Neither lives long enough to earn back what compiling its code a second time costs: half of all a server does in a minute.
    env: { ...process.env, DOTNET_TieredPGO: '0', DOTNET_TC_CallCountingDelayMs: 'EA60', ...options.env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let said = '';
  const found = new Promise<RegExpMatchArray>((resolve, reject) => {
    const hear = (more: Buffer) => {
      if (said.length < 100_000) said += more.toString();
      const match = said.match(line);
      if (match) resolve(match);
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.on('exit', (code) => reject(new Error(`${program} ended with ${code}: ${said.slice(-2000)}`)));
  });
  return { child, found };
}

const ended = (child: ChildProcess) =>
  new Promise<void>((resolve) => {
    if (child.exitCode !== null) return resolve();
    child.once('exit', () => resolve());
    child.kill('SIGTERM');
  });

export const test = base.extend<object, { house: House; profile: BrowserContext }>({
  house: [
    async ({}, use, worker) => {
      const app = env('OSIERWAND_APP');
      const database = `osierwand_browser_${process.pid}_${worker.workerIndex}`;
      sql(
        `CREATE DATABASE ${database} TEMPLATE ${env('OSIERWAND_TEST_TEMPLATE')} OWNER osierwand_owner`,
        `REVOKE ALL ON DATABASE ${database} FROM PUBLIC`,
        `GRANT CONNECT ON DATABASE ${database} TO osierwand_server`,
      );
      const simulator = started(
        'Osierwand.Simulator.dll',
        ['--port', '0', '--performance', '0', '--pace', String(pace)],
        { cwd: `${app}/simulator` },
        /on port (\d+)\n.*on port (\d+)\n.*: (\d+)\n/,
      );
      const [, port = '', performance = '', control = ''] = await simulator.found;
      const server = started(
        'Osierwand.Demo.dll',
        ['--urls', 'http://127.0.0.1:0'],
        {
          cwd: `${app}/server`,
          env: {
            ConnectionStrings__Osierwand: `${env('OSIERWAND_SERVER_CONNECTION')};Database=${database}`,
            Demo__Enabled: 'true',
            Heavy__PerMinute: '1000',
            SignIn__PerMinute: '1000',
            Instruments__Lines__0__Port: port,
            Instruments__Lines__1__Port: performance,
            Simulator__ControlPort: control,
          },
        },
        /^Listening on (\S+)$/m,
      );
      const [, url = ''] = await server.found;
      process.env['OSIERWAND_CONTROL'] = control;
      await use({ url, control: Number(control) });
      await Promise.all([ended(server.child), ended(simulator.child)]);
      sql(`DROP DATABASE ${database} WITH (FORCE)`);
    },
    { scope: 'worker', auto: true, timeout: 120_000 },
  ],

  baseURL: async ({ house }, use) => use(house.url),

  // One profile a worker: the engine is a shared worker and lives as long as any page of it; one page stays open for that.
  profile: [
    async ({ browser, house }, use) => {
      const profile = await browser.newContext({
        baseURL: house.url,
        viewport: { width: 1280, height: 800 },
        // Colours are checked as they come to rest.
        reducedMotion: 'reduce',
      });
      const keeper = await profile.newPage();
      await keeper.goto('/keeper');
      await use(profile);
      await profile.close();
    },
    { scope: 'worker', timeout: 60_000 },
  ],

  // As new for every journey: nobody is signed in and nothing is kept, and what a journey left open is closed.
  context: async ({ profile, house }, use) => {
    const [keeper] = profile.pages();
    await use(profile);
    for (const page of profile.pages()) if (page !== keeper) await page.close();
    await profile.setOffline(false);
    await profile.unrouteAll();
    await profile.clearPermissions();
    await profile.clearCookies();
    const line = await profile.newCDPSession(keeper!);
    await line.send('Storage.clearDataForOrigin', { origin: new URL(house.url).origin, storageTypes: 'local_storage,indexeddb,cache_storage' });
    await line.detach();
  },
});
