import { expect, type Page, test } from './house';
import {
  beginAtHospital,
  discard,
  expectNoSeriousFindings,
  expectSoundAtEverySize,
  holdToStart,
  lookGood,
  measures,
  measureTheRest,
  phone,
  rests,
  row,
  scan,
  signIn,
  start,
} from './steps';
import { hands, mend, spoil } from './workshop';

/** The analyser is the second bench; fourteen charges take their time, and nobody is there to wait. */
const analyser = 2;
test.beforeAll(() => hands({ do: 'pace', bench: analyser, pace: 30 }));
test.afterAll(() => hands({ do: 'pace', bench: analyser }));

async function lay(page: Page, tag: string, heading: string) {
  await beginAtHospital(page);
  await scan(page, tag);
  await expect(page.getByRole('heading', { name: heading })).toBeVisible();
}

const isInHand = (page: Page, step: string) => expect(row(page, step)).toHaveAttribute('aria-current', 'step');

/** Everything that the safety analyser measures, up to where the other one is wanted. */
async function untilChangeOver(page: Page) {
  await lookGood(page);
  const press = page.getByRole('button', { name: measures });
  const switched = page.getByRole('button', { name: 'Done', exact: true });
  const over = page.getByRole('button', { name: 'Changed over' });
  for (;;) {
    await expect(press.or(switched).or(over).first()).toBeVisible();
    if (await over.isVisible()) return over;
    if (await page.locator('#hold').isVisible()) await holdToStart(page);
    else await ((await press.isVisible()) ? press : switched).click();
    await rests(page);
  }
}

test('a defibrillator is tested with two instruments, drawn and counted, and its tired battery fails it', async ({ page }) => {

  await spoil('SVH-1113', 'weakBattery');
  await lay(page, 'SVH-1113', 'Defibrillator');
  // Both stand in the kit, each with its calibration.
  await expect(page.getByText(/Bench analyser 2, calibrated to/)).toBeVisible();
  await expect(page.getByText(/Performance analyser 2, calibrated to/)).toBeVisible();
  const over = await untilChangeOver(page);
  await expect(row(page, 'Change over')).toContainText('paddles or pads on its 50 Ω load');
  await over.click();
  await isInHand(page, 'Paddle or pad path');
  await start(page, 'Paddle or pad path');
  await rests(page);
  // A key that passes by starts no shock.
  await isInHand(page, 'Delivered energy, 20 J');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeHidden();
  for (const joule of [20, 50, 100, 200, 360]) {
    await isInHand(page, `Delivered energy, ${joule} J`);
    await holdToStart(page);
  }
  await expect(page.getByRole('img', { name: /Delivered energy, 360 J, current into 50 Ω: -[\d.]+ to [\d.]+ A over/ })).toBeVisible();
  const tally = row(page, '14 discharges at 360 J');
  await isInHand(page, '14 discharges at 360 J');
  await expectNoSeriousFindings(page);
  // Stopped in the middle: what was counted stays counted.
  await hands({ do: 'pace', bench: analyser, pace: 8 });
  await page.getByRole('button', { name: 'Hold to start' }).hover();
  await page.mouse.down();
  await expect(tally.getByRole('img', { name: /^[1-9]\d* of 14 discharges made/ })).toBeVisible();
  await page.mouse.up();
  await page.getByRole('button', { name: /^Stop/ }).click();
  await rests(page);
  await isInHand(page, '14 discharges at 360 J');
  await expect(tally).toContainText(/\d+ to go/);
  await hands({ do: 'pace', bench: analyser, pace: 30 });
  await holdToStart(page);
  await expect(tally.getByRole('img', { name: '14 of 14 discharges made' })).toBeVisible();
  await isInHand(page, 'Charge time');
  await holdToStart(page);
  await expect(page.getByRole('button', { name: 'Save the fail' })).toBeVisible();
  await expect(row(page, 'Charge time')).toContainText('≤ 15 s');
  await expect(row(page, 'Synchronised shock')).toContainText('not powered');
  await page.getByRole('button', { name: 'Confirm', exact: true }).click();
  await page.getByRole('button', { name: 'Save the fail' }).click();
  await page.getByRole('link', { name: 'Paper', exact: true }).click();
  const paper = page.frameLocator('iframe[title="The paper"]');
  await expect(paper.getByText('Do not use it.')).toBeVisible();
  await expect(paper.getByText(/Performance analyser 2, serial OW-SIM-P2/)).toBeVisible();
  await expect(paper.getByRole('heading', { name: 'What the instrument drew' })).toBeVisible();
  await mend('SVH-1113');
});

test('a sound defibrillator passes by touch alone, on a phone', async ({ page }) => {

  await page.setViewportSize(phone);
  await lay(page, 'SVH-1115', 'Defibrillator');
  await (await untilChangeOver(page)).click();
  await rests(page);
  await isInHand(page, 'Paddle or pad path');
  const evaluate = await measureTheRest(page);
  await expect(evaluate).toBeVisible();
  await expect(row(page, 'Charge time')).toContainText(/\d(\.\d)? s/);
  await expect(row(page, 'ECG check trace, 1 mV')).toContainText('mV');
  await expectSoundAtEverySize(page);
  await discard(page);
});

test('without the performance analyser its safety is tested, and its performance is said to be owed', async ({ page }) => {
  await signIn(page, /Rufus Oakhanger/);
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Open rounds' })).toBeVisible();
  const all = await page.evaluate(async () => {
    const kit = await (await fetch('/api/v1/kit')).json();
    const items = kit.items.filter((it: { isToday: boolean }) => it.isToday);
    const without = items.filter((it: { kind: string }) => it.kind !== 'performanceAnalyser');
    const ids = (list: { id: string }[]) => list.map((it) => it.id);
    await fetch('/api/v1/kit/today', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ items: ids(without) }),
    });
    return ids(items);
  });
  try {
    await page.getByRole('button', { name: /Ward and workshop, November/ }).click();
    await expect(page.getByRole('heading', { name: 'Main building' })).toBeVisible();
    await scan(page, 'SVH-1113');
    await expect(page.getByRole('heading', { name: 'Defibrillator' })).toBeVisible();
    await expect(row(page, 'Delivered energy, 360 J')).toContainText('no performance analyser is chosen for today');
    await expect(row(page, 'Change over')).toBeHidden();
    await discard(page);
  } finally {
    await page.evaluate(
      async (items) =>
        fetch('/api/v1/kit/today', {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ items }),
        }),
      all,
    );
  }
});
