// bench/Live.Load/live.mjs URL SIMULATOR_PORT: how long a value takes from the instrument to the pixels, over 200 values, beside the bare
// protocol's round trip; then a day of 60 mixed items at the bench, keys and seconds an item.
import { createRequire } from 'node:module';
import { createConnection } from 'node:net';
import { fileURLToPath } from 'node:url';
import { crc32 } from 'node:zlib';

const require = createRequire(fileURLToPath(new URL('../../tests/browser/package.json', import.meta.url)));
const { chromium } = require('@playwright/test');
const [url, port] = process.argv.slice(2);
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const worst = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length * 0.95)];
const told = (what, values, unit) =>
  console.log(`${what}: median ${median(values).toFixed(1)} ${unit}, 95 % ${worst(values).toFixed(1)}, over ${values.length}`);

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--disable-gpu'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.setDefaultTimeout(30_000);

async function roundTrips(count) {
  const line = createConnection({ host: '127.0.0.1', port: Number(port) });
  line.setEncoding('utf8');
  line.setNoDelay(true);
  await new Promise((resolve) => line.once('connect', resolve));
  const took = [];
  for (let n = 1; n <= count; n++) {
    const text = `${n} SELFTEST`;
    const began = performance.now();
    line.write(`${text} check=${crc32(text).toString(16).padStart(8, '0')}\n`);
    await new Promise((resolve) => line.once('data', resolve));
    took.push(performance.now() - began);
  }
  line.end();
  return took;
}

async function scan(tag) {
  const keys = await page.context().newCDPSession(page);
  let at = Date.now() / 1000;
  const sent = [];
  const press = (key) => {
    sent.push(keys.send('Input.dispatchKeyEvent', { type: 'keyDown', timestamp: at, ...key }));
    sent.push(keys.send('Input.dispatchKeyEvent', { type: 'keyUp', timestamp: at, ...key, text: undefined }));
    at += 0.004;
  };
  for (const key of tag) press({ key, text: key, unmodifiedText: key });
  press({ key: 'Enter', code: 'Enter', windowsVirtualKeyCode: 13, text: '\r' });
  await Promise.all(sent);
  await keys.detach();
}

await page.goto(url);
await page.getByRole('button', { name: /Ida Fennimore/ }).click();
await page.getByRole('button', { name: /Summit café, winter round/ }).click();
await page.getByRole('heading', { name: 'Summit café' }).waitFor();

// From the instrument to the pixels: each value says when it was shown; the page looks at the clock in the frame after it was drawn.
await page.evaluate(() => {
  globalThis.lags = [];
  let last = null;
  new MutationObserver(() => {
    const at = document.querySelector('[data-shown-at]')?.getAttribute('data-shown-at');
    if (!at || at === last) return;
    last = at;
    requestAnimationFrame(() => requestAnimationFrame(() => globalThis.lags.push(Date.now() - Date.parse(at))));
  }).observe(document.body, { subtree: true, attributes: true, childList: true, characterData: true });
});
await scan('LMR-0214');
const row = (name) => page.getByRole('region', { name, exact: true });
await row('Look').waitFor();
await row('Look').getByRole('button', { name: 'All good' }).click();
for (let n = 0; n < 12; n++) {
  if ((await page.evaluate(() => globalThis.lags.length)) >= 200) break;
  await row('Earth continuity').getByRole('button', { name: 'Read while I move the flex' }).click();
  await page.waitForTimeout(4_000);
  await page.getByRole('button', { name: 'Moved it all along: take it' }).click();
  await page.getByRole('button', { name: 'Stop (Esc)' }).waitFor({ state: 'detached' });
  await row('Earth continuity').click();
  await row('Earth continuity').getByRole('button', { name: 'Again' }).click();
  await page.getByRole('button', { name: 'Reading had not settled' }).click();
  await page.getByRole('button', { name: 'It does not count', exact: true }).click();
}
const lags = (await page.evaluate(() => globalThis.lags)).slice(0, 200);
told('Instrument to pixels', lags, 'ms');
told('Bare protocol, question and answer', await roundTrips(200), 'ms');
await page.getByRole('button', { name: 'Discard' }).click();
await page.getByRole('button', { name: 'Started by mistake' }).click();
await page.getByRole('button', { name: /^Discard/ }).last().click();
await page.getByRole('heading', { name: 'Open rounds' }).waitFor();

// A day of 60 mixed items as a technician works it: scan, Enter, and a press on what Enter does not do by itself. Failures are saved as
// what they are. The clock runs from the scan to the saved sheet, at twice the speed of life: a step that holds its reading for 5 s takes 2.5.
// What was pressed outlives a page that is opened anew.
let keys = 0;
await page.exposeFunction('keyPressed', () => void keys++);
await page.addInitScript(() => document.addEventListener('keydown', (event) => event.repeat || globalThis.keyPressed(), true));
const inPlace = async (search, place) => {
  const found = [];
  for (let at = 0; at < 3; at++) {
    const answer = await page.evaluate(
      async ([words, n]) => (await fetch(`/api/v1/register?search=${words}&page=${n}&pageSize=100&state=inService`)).json(),
      [search, at],
    );
    found.push(...answer.rows.filter((it) => it.place.startsWith(place)).map((it) => it.tag));
  }
  return found;
};
const rounds = [
  [/Summit café, winter round/, (await inPlace('LMR-02', 'Summit café')).slice(0, 32)],
  [/Hire fleet, before issue/, (await inPlace('MTH-7', 'Counter and yard')).slice(0, 40)],
];
const day = [];
const state = () =>
  page.evaluate(() => [
    document.querySelector('section[aria-current=step]')?.id ?? '',
    document.querySelectorAll('#verdict button').length,
    document.querySelector('main')?.innerText.length ?? document.body.innerText.length,
  ].join('/'));

async function work(tag) {
  const before = keys;
  const began = performance.now();
  let presses = 1;
  let idle = 0;
  await scan(tag);
  await row('Look').waitFor();
  for (let turn = 0; turn < 600; turn++) {
    if (await page.getByRole('heading', { name: /^Saved/ }).isVisible()) break;
    const fail = page.getByRole('button', { name: 'Save the fail' });
    const stopping = page.getByRole('button', { name: /^Stop/ });
    if ((await stopping.isVisible()) || (await page.getByRole('button', { name: 'Saving' }).isVisible())) {
      await page.waitForTimeout(60);
      continue;
    }
    const was = await state();
    const ends = (await fail.isVisible()) || (await page.locator('#save').isVisible());
    if (await fail.isVisible()) await fail.click();
    else await page.keyboard.press('Enter');
    presses++;
    if (ends) {
      await page.getByRole('heading', { name: /^Saved/ }).waitFor();
      break;
    }
    for (let wait = 0; wait < 60 && (await state()) === was; wait++) await page.waitForTimeout(40);
    // What a key does not move wants a hand: told, and left out.
    idle = (await state()) === was ? idle + 1 : 0;
    if (idle === 3) break;
  }
  if (!(await page.getByRole('heading', { name: /^Saved/ }).isVisible())) return null;
  const text = await page.getByRole('heading', { name: /^Saved/ }).innerText();
  const seconds = (performance.now() - began) / 1000;
  const struck = keys - before - tag.length - 1;
  await page.keyboard.press('Enter');
  await page.getByRole('heading', { name: 'Open rounds' }).waitFor();
  // A scan is one movement of the hand.
  return { tag, text, seconds, presses: Math.max(presses, struck + 1) };
}

for (const [round, tags] of rounds) {
  await page.goto(url);
  await page.getByRole('button', { name: round }).click();
  await page.waitForTimeout(500);
  for (const tag of tags) {
    if (day.length >= 60) break;
    const done = await work(tag);
    if (done) day.push(done);
    else {
      const at = await page.evaluate(() => document.querySelector('section[aria-current=step]')?.id ?? document.querySelector('#verdict h2')?.textContent);
      console.log(`${tag}: not ended by keys alone, left out (${at})`);
      if (process.env.OSIERWAND_PICTURES) await page.screenshot({ path: `${process.env.OSIERWAND_PICTURES}/${tag}.png` });
      if (await page.getByRole('button', { name: 'Discard' }).isVisible()) {
        await page.getByRole('button', { name: 'Discard' }).click();
        await page.getByRole('button', { name: 'Started by mistake' }).click();
        await page.getByRole('button', { name: /^Discard/ }).last().click();
      } else await page.goto(url);
      await page.getByRole('heading', { name: 'Open rounds' }).waitFor();
    }
  }
}
told('A day of mixed items, seconds from scan to saved', day.map((it) => it.seconds), 's');
told('A day of mixed items, presses an item, its scan among them', day.map((it) => it.presses), '');
const ends = {};
for (const it of day) ends[it.text] = (ends[it.text] ?? 0) + 1;
console.log(`Ended: ${Object.entries(ends).map(([text, count]) => `${text.replace('Saved: ', '')} ${count}`).join(', ')}`);
await browser.close();
