// The engine in Chromium: engine.mjs URL. One more event to new state on a 40-event medical sheet; and from a scan to a sheet that can be worked,
// on a page just loaded and on one that has the engine, beside a bare load of the page. bench/run starts the server it asks.
import { createRequire } from 'node:module';

const require = createRequire(new URL('../../tests/browser/', import.meta.url));
const { chromium } = require('@playwright/test');
const url = process.argv[2];
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
});
const page = await browser.newPage();
const engine = new Promise((resolve) =>
  page.context().on('request', (request) => /\/engine\/[^/]+\/dotnet\.js$/.test(request.url()) && resolve(new URL('.', request.url()).pathname)),
);
await page.goto(url);
await page.getByRole('button', { name: /Ida Fennimore/ }).click();
await page.getByRole('heading', { name: 'Open rounds' }).waitFor();
const home = await engine;
const result = await page.evaluate(async (home) => {
  const json = async (path) => (await fetch(path)).json();
  const today = await json('/api/v1/rounds/today');
  const round = today.rounds.find((it) => it.clientCode === 'SVH').id;
  const item = (await json('/api/v1/register?client=SVH&search=monitor')).rows.find((it) => it.state === 'inService').id;
  const ruling = await (await fetch(`/api/v1/bench/${item}?round=${round}`)).text();
  const painted = performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? 0;
  const began = performance.now();
  const { dotnet } = await import(`${home}dotnet.js`);
  const runtime = await dotnet.create();
  const { Exports } = (await runtime.getAssemblyExports('Osierwand.Engine.dll')).Osierwand.Engine;
  const started = performance.now();
  const first = JSON.parse(Exports.Open('sheet', ruling, '[]'));
  const laid = performance.now();
  const at = new Date().toISOString();
  const event = (it) => ({ id: crypto.randomUUID(), at, ...it });
  const points = first.sheet.look.map((point) => ({ pointId: point.id, answer: 'good', words: null }));
  const measured = first.sheet.steps.filter((step) => step.family === 'measure' && step.unit);
  const read = (n) => {
    const step = measured[n % measured.length];
    const text = step.limit?.isFloor ? '>500M' : step.unit === 'Ω' ? '0.08' : '12';
    return event({ kind: 'read', step: step.key, source: 'typed', text, switchedOn: true, point: n < measured.length ? null : `point ${n}` });
  };
  const before = [event({ kind: 'looked', points }), ...Array.from({ length: 39 }, (_, n) => read(n))];
  Exports.Open('sheet', ruling, JSON.stringify(before));
  const times = [];
  for (let n = 0; n < 25; n++) {
    Exports.Open('sheet', ruling, JSON.stringify(before));
    Exports.Append('sheet', JSON.stringify([read(100 + n)]), first.sheetId);
    const from = performance.now();
    const view = JSON.parse(Exports.Append('sheet', JSON.stringify([read(200 + n)]), first.sheetId));
    times.push(performance.now() - from);
    if (view.now.readings.length < 40) throw new Error('the sheet lost readings');
  }
  times.sort((a, b) => a - b);
  return { painted, start: started - began, lay: laid - started, median: times[12], worst: times[24], steps: first.sheet.steps.length };
}, home);
const ms = (value) => `${value.toFixed(0)} ms`;
console.log(`engine start ${ms(result.start)}, first sheet ${ms(result.lay)} (${result.steps} steps)`);
console.log(`one more event to new state on a 40-event medical sheet: median ${result.median.toFixed(1)} ms, worst ${result.worst.toFixed(1)} ms`);

/** From the scan to a step that can be worked, in milliseconds. */
async function scanToSheet(page, tag) {
  const began = performance.now();
  await page.getByPlaceholder('Scan or type a tag').or(page.getByLabel('Scan or type a tag')).first().fill(tag);
  await page.keyboard.press('Enter');
  await page.locator('section[aria-label="Look"][aria-current=step]').waitFor();
  return performance.now() - began;
}
const median = (times) => times.sort((a, b) => a - b)[Math.floor(times.length / 2)];
const [bare, cold, warm] = [[], [], []];
for (let n = 0; n < 7; n++) {
  const profile = await browser.newContext({ baseURL: url });
  await profile.request.post('/api/v1/people/demo-sign-in?userName=ida');
  const fresh = await profile.newPage();
  let began = performance.now();
  await fresh.goto('/');
  await fresh.getByRole('heading', { name: 'Open rounds' }).waitFor();
  bare.push(performance.now() - began);
  await fresh.getByRole('button', { name: /Summit café, winter round/ }).click();
  await fresh.getByRole('heading', { name: 'Summit café' }).waitFor();
  cold.push(await scanToSheet(fresh, 'LMR-0214'));
  await fresh.locator('html[data-idle=true]').waitFor();
  await fresh.waitForTimeout(5000);
  warm.push(await scanToSheet(fresh, 'LMR-0203'));
  await profile.close();
}
console.log(`bare load of the page: median ${ms(median(bare))}`);
console.log(`scan to a sheet that can be worked: page just loaded, median ${ms(median(cold))}; with the engine, median ${ms(median(warm))}`);
await browser.close();
