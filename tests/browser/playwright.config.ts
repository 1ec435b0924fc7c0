import { existsSync } from 'node:fs';
import { defineConfig } from '@playwright/test';

// Debian's Chromium without its window where it is installed: the same engine, a tenth less work. No browser is downloaded.
const shell = '/usr/bin/chromium-headless-shell';

// ./test says by its environment where the application and the database are (house.ts).
export default defineConfig({
  testDir: '.',
  // A machine of the build farm can be many times slower than a desk; these are only the bounds of patience.
  timeout: 240_000,
  expect: { timeout: 30_000 },
  fullyParallel: true,
  workers: Number(process.env.OSIERWAND_WORKERS ?? 3),
  retries: 0,
  reporter: [['line'], ['json', { outputFile: process.env.OSIERWAND_REPORT ?? 'test-results/report.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: existsSync(shell) ? shell : '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        // Pages live for seconds: a process for each, and code compiled for a long life, cost more than they give.
        '--process-per-site',
        '--js-flags=--no-opt',
      ],
    },
  },
});
