import { expect, type Page, test } from './house';
import {
  begin,
  expectNoSeriousFindings,
  expectSoundAtEverySize,
  lookGood,
  measures,
  newTag,
  phone,
  row,
  scan,
  tablet,
  typeReading,
  enter,
  isReady,
  placeProbe,
  start,
} from './steps';
import { atPace, hands, spoil } from './workshop';

/** Registers an item of one of the sorts that walking offers, and lays it on the bench. */
async function registerAs(page: Page, tag: string, fill: (page: Page) => Promise<void>, seen = /Earth symbol/) {
  await scan(page, tag);
  await page.getByLabel('What people call it').fill('Thing');
  await page.getByLabel('Seen on plate and build').click();
  await page.getByRole('option', { name: seen }).first().click();
  await page.getByRole('combobox', { name: 'Room' }).fill('Kitchen');
  await fill(page);
  await page.getByRole('button', { name: 'Register and open on the bench' }).click();
  await expect(page.getByRole('heading', { name: 'Thing' })).toBeVisible();
  await expect(row(page, 'Look')).toHaveAttribute('aria-current', 'step');
}

const appliance = (watts: string) => async (page: Page) => {
  await page.getByLabel('Watts').fill(watts);
  await page.getByLabel('Length, m').fill('1.8');
  await page.getByLabel('Fuse, A').fill('13');
};


test('an earth whose strands are breaking is seen to move, on a phone', async ({ page }) => {
  await page.setViewportSize(phone);
  await begin(page);
  const tag = newTag();
  await spoil(tag, 'brokenStrands');
  await registerAs(page, tag, appliance('1500'));
  await lookGood(page);
  // The instrument ends it by itself after two minutes; at the usual pace that is sooner than the page is looked over.
  await atPace(2, async () => {
    await row(page, 'Earth continuity').getByRole('button', { name: 'Read while I move the flex' }).click();
    const enough = page.getByRole('button', { name: 'Moved it all along: take it' });
    await expect(enough).toBeVisible();
    await expect(page.getByRole('img', { name: /Moved between .* in [1-9]\d* seconds/ })).toBeVisible();
    await expectSoundAtEverySize(page);
    await enough.click();
  });
  await expect(row(page, 'Earth continuity').getByText(/^flexed: /).first()).toBeVisible();
  await expect(page.getByText('Earth varies when the flex is moved')).toBeVisible();
  const loose = page.getByRole('button', { name: /Loose terminal in the plug/ });
  await loose.click();
  await expect(loose).toHaveAttribute('aria-pressed', 'true');
  await page.reload();
  await expect(page.getByRole('button', { name: /Loose terminal in the plug/ })).toHaveAttribute('aria-pressed', 'true');
});

test('a class II probe that finds an earth stops the job, and nothing was put on the item', async ({ page }) => {
  await page.setViewportSize(phone);
  await begin(page);
  const tag = newTag();
  await spoil(tag, 'caseTouchesEarth');
  await registerAs(page, tag, appliance('600'), /square within a square/i);
  await lookGood(page);
  await placeProbe(page, 'Bare metal');
  await start(page, 'Insulation');
  await expect(page.getByText(/The probe finds a path to earth of/).first()).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Fail', exact: true })).toBeVisible();
  expect((await hands({ do: 'look' }))['liveVolts']).toBe(0);
});

test('a switch that is seen open is asked about before the reading is believed', async ({ page }) => {
  await begin(page);
  const tag = newTag();
  await spoil(tag, 'softStarter');
  await registerAs(page, tag, appliance('1500'));
  await lookGood(page);
  await start(page, 'Earth continuity');
  await isReady(page, 'Insulation');
  await start(page, 'Insulation');
  await expect(page.getByText('Is it switched on?')).toBeVisible();
  await expectNoSeriousFindings(page);
  await page.getByRole('button', { name: 'It was on' }).click();
  await page.getByRole('button', { name: /Soft starter/ }).click();
  await page.getByRole('button', { name: 'Let the reading count' }).click();
  await expect(page.getByText(/Soft starter.*was not exercised by this reading/)).toBeVisible();
  // Powered, it runs: a load flows, and whether it does its job is answered in the same breath, at the speed of life.
  await atPace(1, async () => {
    await start(page, 'Protective conductor current');
    await page.getByRole('button', { name: 'It runs and does its job' }).click();
    await expect(page.getByRole('button', { name: 'It runs and does its job' })).toHaveCount(0);
  });
  await expect(page.getByRole('heading', { name: 'Pass with advice', exact: true })).toBeVisible();
});

test('a surge-protected six-way adaptor is measured at 250 V, outlet by outlet', async ({ page }) => {
  await page.setViewportSize(tablet);
  await begin(page);
  const tag = newTag();
  await spoil(tag, 'outletWithoutEarth', 4);
  await scan(page, tag);
  await page.getByRole('button', { name: 'Lead or adaptor' }).click();
  await page.getByLabel('What people call it').fill('Thing');
  await page.getByLabel('Seen on plate and build').click();
  await page.getByRole('option', { name: /Earth symbol/ }).first().click();
  await page.getByRole('combobox', { name: 'Kind', exact: true }).click();
  await page.getByRole('option', { name: /[Mm]ultiway/ }).click();
  await page.getByLabel('Outlets').fill('6');
  await page.getByLabel('Surge protected').check();
  await page.getByRole('combobox', { name: 'Room' }).fill('Kitchen');
  await page.getByLabel('Length, m').fill('2');
  await page.getByLabel('Fuse, A').fill('13');
  await page.getByRole('button', { name: 'Register and open on the bench' }).click();
  await expect(row(page, 'Look')).toHaveAttribute('aria-current', 'step');
  await lookGood(page);
  // Earth and polarity of each outlet in turn: the fourth has no earth.
  for (let at = 0; at < 7; at++) {
    const step = page.locator('section[aria-current=step]');
    await expect(page.getByRole('button', { name: measures })).toBeEnabled();
    await expect(step).toContainText(`outlet ${Math.floor(at / 2) + 1}`);
    const id = await step.getAttribute('id');
    await enter(page);
    await expect(page.locator(`section[id="${id}"][aria-current=step]`)).toHaveCount(0);
    await expect(page.getByRole('button', { name: 'Stop (Esc)' })).toHaveCount(0);
  }
  await expect(page.getByText(/>24 Ω/).first()).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Fail', exact: true })).toBeVisible();
});

test('an instrument whose cable is pulled in mid-step says so, is off, and goes on when it is back', async ({ page }) => {
  await page.setViewportSize(tablet);
  await begin(page);
  const tag = newTag();
  await registerAs(page, tag, appliance('1500'));
  await lookGood(page);
  await start(page, 'Earth continuity');
  await isReady(page, 'Insulation');
  try {
    await atPace(0.2, async () => {
      await start(page, 'Insulation');
      await expect.poll(async () => (await hands({ do: 'look' }))['liveVolts']).toBeGreaterThan(0);
      await hands({ do: 'line', line: 'unplugged' });
      await expect(page.getByText(/The connection to the instrument was lost/)).toBeVisible();
    });
    expect((await hands({ do: 'look' }))['liveVolts']).toBe(0);
    await expect(row(page, 'Earth continuity').getByText('% of the limit')).toBeVisible();
    await expectNoSeriousFindings(page);
  } finally {
    await hands({ do: 'line', line: 'whole' });
  }
  await expect(async () => {
    await start(page, 'Insulation');
    await expect(row(page, 'Insulation').getByText('MΩ').first()).toBeVisible({ timeout: 4000 });
  }).toPass({ timeout: 20_000 });
  await isReady(page, 'Protective conductor current');
});

test('without mains at hand leakage is measured by the alternative method, with the reason', async ({ page }) => {
  await begin(page);
  await registerAs(page, newTag(), appliance('1500'));
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.06', '0.06 Ω');
  await page.getByLabel('Leakage', { exact: true }).click();
  await page.getByRole('option', { name: /Alternative/ }).click();
  await page.getByRole('button', { name: 'No mains at hand' }).click();
  await page.getByRole('button', { name: 'Measure it so' }).click();
  await expect(page.getByText(/Leakage of this item: Alternative, not powered. No mains at hand/)).toBeVisible();
  await expect(row(page, 'Protective conductor current').getByText('L+N joined, supplied by the instrument')).toBeVisible();
});

test('the customer sees the rail and a sentence, and Esc goes back', async ({ page }) => {
  await begin(page);
  await registerAs(page, newTag(), appliance('1500'));
  await lookGood(page);
  await start(page, 'Earth continuity');
  await page.getByRole('button', { name: 'Show it to the customer' }).click();
  await expect(page.getByText('This is good: the wire that carries a fault safely away.')).toBeVisible();
  await expectNoSeriousFindings(page);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('heading', { name: 'Thing' })).toBeVisible();
});

test('what runs can be stopped from the customer’s view, by touch and by Esc', async ({ page }) => {
  await begin(page);
  await registerAs(page, newTag(), appliance('1500'));
  await lookGood(page);
  await start(page, 'Earth continuity');
  await page.getByRole('button', { name: 'Show it to the customer' }).waitFor();
  await atPace(1, async () => {
    for (const stop of [() => page.getByRole('dialog').getByRole('button', { name: 'Stop (Esc)' }).click(), () => page.keyboard.press('Escape')]) {
      await start(page, 'Insulation');
      await page.getByRole('button', { name: 'Show it to the customer' }).click();
      await expect(page.getByRole('dialog').getByRole('button', { name: 'Stop (Esc)' })).toBeVisible();
      // Stop stands there from the press on, the voltage a moment later.
      await expect.poll(async () => (await hands({ do: 'look' }))['liveVolts']).toBe(500);
      await stop();
      await expect(page.getByRole('button', { name: /^Stop/ })).toHaveCount(0);
      await expect.poll(async () => (await hands({ do: 'look' }))['liveVolts']).toBe(0);
      await page.getByRole('button', { name: 'Back to the bench (Esc)' }).click();
    }
    await isReady(page, 'Insulation');
  });
});

test('a complaint leads to findings, on a tablet', async ({ page }) => {
  await page.setViewportSize(tablet);
  await begin(page);
  await registerAs(page, newTag(), appliance('1500'));
  await page.getByText(/Class I; plate, flex, scope and kit/).click();
  await page.getByLabel('Scope').click();
  await page.getByRole('option', { name: /Fault-finding/ }).click();
  await page.getByLabel('What is complained of, in their words').fill('trips the RCD when it is hot');
  await page.getByRole('button', { name: 'Where to begin' }).click();
  await expect(page.getByText('It trips the RCD', { exact: true })).toBeVisible();
  await expectSoundAtEverySize(page);
  await page.getByRole('group', { name: 'Begin with' }).first().getByRole('button', { name: /Insulation/ }).click();
  await expect(row(page, 'Insulation')).toHaveAttribute('aria-current', 'step');
  await typeReading(page, 'Insulation', '200M', '200 MΩ');
  await page.getByRole('button', { name: 'Sum what its circuit leaks' }).click();
  const circuit = page.getByRole('form', { name: 'What the circuit leaks' });
  await circuit.getByLabel('mA').nth(0).fill('4,5');
  await circuit.getByLabel('On the circuit, 2').fill('Dishwasher');
  await circuit.getByLabel('mA').nth(1).fill('1,100');
  await circuit.getByRole('button', { name: 'Sum', exact: true }).click();
  await expect(circuit.getByRole('alert')).toContainText('could be');
  await circuit.getByLabel('mA').nth(1).fill('11');
  await circuit.getByRole('button', { name: 'Sum', exact: true }).click();
  await expect(page.getByText(/50 % of 30 mA is 15 mA: the sum alone may trip it/)).toBeVisible();
  await page.getByRole('button', { name: /findings/i }).click();
  await page.getByRole('button', { name: 'The item is sound; look at its circuit' }).click();
  await page.getByRole('button', { name: 'Save the findings' }).click();
  await expect(page.getByRole('heading', { name: /^Saved/ })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Saved: pass' })).toHaveCount(0);
});

/** Enter, step by step, for as long as the instrument measures: what a technician does who has both hands on the thing. */
async function measureAll(page: Page) {
  const starter = page.getByRole('button', { name: measures });
  const works = row(page, 'Functional check').getByRole('button', { name: 'Good' });
  for (let steps = 0; steps < 20; steps++) {
    await expect(page.getByRole('button', { name: 'Stop (Esc)' })).toHaveCount(0);
    // Between a reading and its judgement the step that was measured is still in hand: what comes next is not known yet.
    let isOver = false;
    await expect(async () => {
      isOver = (await works.isVisible()) && !(await starter.isVisible());
      if (!isOver) await expect(starter).toBeEnabled({ timeout: 500 });
    }).toPass();
    if (isOver) return steps;
    const id = await page.locator('section[aria-current=step]').getAttribute('id');
    await enter(page);
    await expect(page.locator(`section[id="${id}"][aria-current=step]`)).toHaveCount(0);
  }
  throw new Error('The sheet does not come to its end.');
}

test('a portable RCD is tripped on both half-waves, reset each time, and does not trip at half its rating', async ({ page }) => {
  await page.setViewportSize(tablet);
  await begin(page);
  await scan(page, newTag());
  await page.getByRole('button', { name: 'Portable RCD' }).click();
  await page.getByLabel('What people call it').fill('Thing');
  await page.getByLabel('Seen on plate and build').click();
  await page.getByRole('option', { name: /Earth symbol/ }).first().click();
  await page.getByRole('combobox', { name: 'Room' }).fill('Kitchen');
  await page.getByLabel('RCD, mA').fill('30');
  await page.getByRole('button', { name: 'Register and open on the bench' }).click();
  await lookGood(page);
  const measured = await measureAll(page);
  expect(measured).toBeGreaterThanOrEqual(6);
  await expect(page.getByText('no trip', { exact: true })).toHaveCount(2);
  await expect(page.getByText(/^\d+(\.\d+)? ms$/).first()).toBeVisible();
  await page.keyboard.press('Enter'); // its own button opens it
  await expect(page.getByRole('heading', { name: 'Pass', exact: true })).toBeVisible();
});

test('a reel of 25 m is expected by its copper and told to be too long', async ({ page }) => {
  await page.setViewportSize(phone);
  await begin(page);
  await scan(page, newTag());
  await page.getByRole('button', { name: 'Lead or adaptor' }).click();
  await page.getByLabel('What people call it').fill('Thing');
  await page.getByLabel('Seen on plate and build').click();
  await page.getByRole('option', { name: /Earth symbol/ }).first().click();
  await page.getByRole('combobox', { name: 'Room' }).fill('Kitchen');
  await page.getByLabel('Length, m').fill('25');
  await page.getByLabel('Size, mm²').click();
  await page.getByRole('option', { name: '1.5', exact: true }).click();
  await page.getByLabel('Fuse, A').fill('13');
  await page.getByLabel('Outlets').fill('1');
  await page.getByRole('button', { name: 'Register and open on the bench' }).click();
  await lookGood(page);
  await expect(page.getByText('Expected: its copper alone: 0.332 Ω')).toBeVisible();
  await expect(page.getByRole('img', { name: /Drawing: E of the plug, to E of the far end, by the tester/ })).toBeVisible();
  await measureAll(page);
  await page.keyboard.press('Enter'); // it carries, on and off
  await expect(page.getByRole('heading', { name: 'Pass with advice', exact: true })).toBeVisible();
});

test('a page that falls asleep in mid-step leaves nothing live, and what was measured is there when it wakes', async ({ page }) => {
  await begin(page);
  await registerAs(page, newTag(), appliance('1500'));
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.06', '0.06 Ω');
  // A page that sleeps has no clock of its own: that it did sleep is seen by the longest time between two strokes of its clock.
  await page.evaluate(() => {
    const { dataset } = document.documentElement;
    let last = performance.now();
    setInterval(() => {
      const now = performance.now();
      dataset['longest'] = String(Math.max(Number(dataset['longest'] ?? 0), now - last));
      last = now;
    }, 20);
  });
  // The browser puts no page to sleep that is driven from outside (it counts as looked at): its script is halted between two lines.
  const sleep = await page.context().newCDPSession(page);
  await sleep.send('Debugger.enable');
  await atPace(1, async () => {
    await start(page, 'Insulation');
    await expect.poll(async () => (await hands({ do: 'look' }))['liveVolts']).toBe(500);
    await sleep.send('Debugger.pause');
  });
  // Nobody is there to stop it: the instrument ends its step by itself.
  await expect(async () => expect((await hands({ do: 'look' }))['liveVolts']).toBe(0)).toPass({ timeout: 20_000 });
  await page.waitForTimeout(2_000);
  await sleep.send('Debugger.resume');
  await sleep.send('Debugger.disable');
  await expect
    .poll(() => page.evaluate(() => Number(document.documentElement.dataset['longest'])), { message: 'how long it slept, ms' })
    .toBeGreaterThan(1_000);
  await expect(row(page, 'Insulation').getByText(/MΩ/).last()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Stop (Esc)' })).toBeHidden();
  await expect(row(page, 'Earth continuity').getByText('0.06 Ω').first()).toBeVisible();
  await isReady(page, 'Protective conductor current');
});
