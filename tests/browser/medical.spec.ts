import { expect, type Page, test } from '@playwright/test';
import { begin, discard, expectNoSeriousFindings, lookGood, row, scan, sizes } from './steps';

/** A patient monitor of the hospital, on the bench of somebody who may test it. */
async function layMonitor(page: Page, tag = 'SVH-1029') {
  await page.goto('/');
  await page.getByRole('button', { name: /Maud Tarrant/ }).click();
  await page.getByRole('button', { name: /Ward and workshop, November/ }).click();
  await expect(page.getByRole('heading', { name: 'Main building' })).toBeVisible();
  await scan(page, tag);
  await expect(page.getByRole('heading', { name: 'Patient monitor' })).toBeVisible();
}

const cell = (page: Page, name: RegExp) => page.getByRole('group', { name: 'Leakages by condition' }).getByRole('button', { name });

for (const size of sizes)
  test(`all leakages of a monitor stand side by side, and the one in hand is worked below them, at a ${size.name}`, async ({ page }) => {
    await page.setViewportSize(size);
    await layMonitor(page);
    await lookGood(page);
    await row(page, 'Earth continuity').getByRole('button', { name: 'Measure', exact: true }).click();
    const first = cell(page, /^Equipment leakage, as usual/);
    await expect(first).toHaveAttribute('aria-current', 'step');
    await expect(cell(page, /polarity reversed/)).toHaveCount(3);
    await expectNoSeriousFindings(page);
    await row(page, 'Equipment leakage').getByRole('button', { name: 'Measure', exact: true }).click();
    await expect(cell(page, /^Equipment leakage, as usual, \d+ µA, limit/)).toBeVisible();
    await expect(cell(page, /^Equipment leakage, polarity reversed/)).toHaveAttribute('aria-current', 'step');
    // What is dangerous wants its hold in a cell as in a row.
    await row(page, 'Equipment leakage').getByRole('button', { name: 'Measure', exact: true }).click();
    await expect(cell(page, /^Applied part leakage ECG, as usual/)).toHaveAttribute('aria-current', 'step');
    await expect(page.getByRole('button', { name: 'Hold to start' })).toBeVisible();
    await expect(page.getByRole('button', { name: 'Measure', exact: true })).toBeHidden();
    await discard(page);
  });

test('a known monitor is tested by fewer than twelve keys, each hazard by a hold of its own', async ({ page }) => {
  await layMonitor(page, 'SVH-1022');
  let keys = 0;
  const saved = page.getByRole('heading', { name: /^Saved: pass/ });
  const hold = page.getByRole('button', { name: 'Hold to start' });
  const shown = () => page.locator('main').innerText();
  while (!(await saved.isVisible())) {
    expect(keys, 'keys').toBeLessThan(11);
    const before = await shown();
    if (await hold.isVisible()) {
      await page.keyboard.down('Enter');
      await expect(page.getByRole('button', { name: 'Keep holding' })).toBeVisible();
      await expect(page.getByRole('button', { name: 'Keep holding' })).toBeHidden();
      await page.keyboard.up('Enter');
    } else await page.keyboard.press('Enter');
    keys++;
    // The next key is struck when the screen shows what the last one did.
    // The next key is struck when the screen rests: what runs has ended, and what was read is judged.
    await expect.poll(shown, { timeout: 15_000 }).not.toBe(before);
    await expect(page.getByRole('button', { name: 'Stop' })).toBeHidden({ timeout: 15_000 });
    await page.waitForTimeout(300);
  }
  expect(keys).toBeLessThan(12);
});

test('the arrows walk the matrix, and the drawing shows what the condition does', async ({ page }) => {
  await layMonitor(page);
  await lookGood(page);
  await cell(page, /^Equipment leakage, as usual/).click();
  await page.keyboard.press('ArrowRight');
  await expect(cell(page, /^Equipment leakage, polarity reversed/)).toHaveAttribute('aria-current', 'step');
  await expect(page.getByRole('img', { name: /L and N changed over/ })).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await expect(cell(page, /^Applied part leakage ECG, polarity reversed/)).toHaveAttribute('aria-current', 'step');
  await expect(page.getByRole('cell', { name: 'RA white' })).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await expect(cell(page, /^Applied part leakage ECG, as usual/)).toHaveAttribute('aria-current', 'step');
  await discard(page);
});

test('the second of a model is registered with the facts of the first', async ({ page }) => {
  await begin(page);
  await scan(page, `M-${Date.now().toString(36)}`);
  await page.getByLabel('Maker').fill('Bramblewick');
  await page.getByLabel('Model').fill('K17');
  await page.getByRole('button', { name: 'Take its facts' }).click();
  await expect(page.getByLabel('What people call it')).toHaveValue('Kettle');
  await expect(page.getByLabel('Watts')).toHaveValue('2200');
  await expect(page.getByLabel('Serial')).toHaveValue('');
});
