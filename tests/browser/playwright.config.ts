import { defineConfig } from '@playwright/test';

// ./test says by its environment where the application and the database are (house.ts). No browser is downloaded: Debian's is used.
export default defineConfig({
  testDir: '.',
  // A machine of the build farm can be many times slower than a desk; these are only the bounds of patience.
  timeout: 240_000,
  expect: { timeout: 30_000 },
  fullyParallel: true,
  workers: Number(process.env.OSIERWAND_WORKERS ?? 2),
  retries: 0,
  reporter: [['line'], ['json', { outputFile: process.env.OSIERWAND_REPORT ?? 'test-results/report.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
    },
  },
});
