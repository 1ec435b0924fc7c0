import { readFileSync } from 'node:fs';
import { expect, test } from './house';
import { begin, expectSoundAtEverySize, lookGood, measures, newTag, register, rests, row, scan, typeByHand, typeReading } from './steps';
import { spoil } from './workshop';

/** A failure is not explained away by one person: its class settled afterwards asks for the mark and a lead, or stays the failure. */
test('a class settled after an open earth is saved by a technician as the failure that it was', async ({ page }) => {
  await begin(page);
  await register(page, newTag());
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '>25', '>25 Ω');
  await expect(page.getByRole('heading', { name: 'Fail', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Correct the facts' }).first().click();
  await page.getByLabel('Class, by what was seen').click();
  await page.getByRole('option', { name: /^Square within a square/ }).first().click();
  await page.getByRole('button', { name: 'Was entered wrong' }).click();
  await page.getByRole('button', { name: 'Correct it' }).click();

  const verdict = page.getByRole('region', { name: 'Verdict' });
  await expect(row(page, 'Earth continuity')).toHaveCount(0);
  await expect(verdict).toContainText('the facts were corrected afterwards: class I became II, “Was entered wrong”');
  await expect(verdict).toContainText('Photograph the class mark or the plate');
  await expectSoundAtEverySize(page);
  await verdict
    .getByLabel('Photo of the mark or the plate')
    .setInputFiles({ name: 'mark.png', mimeType: 'image/png', buffer: readFileSync('../../docs/screenshots/item.png') });
  await expect(verdict.getByAltText('Photo taken at this sheet')).toBeVisible();
  await expect(verdict).toContainText('Only a lead saves it as a pass');
  await expect(page.getByRole('button', { name: 'Save', exact: true })).toHaveCount(0);
  await verdict.getByRole('button', { name: 'Save the fail' }).click();
  await expect(page.getByRole('heading', { name: 'Saved: fail' })).toBeVisible();
});

/** What an instrument failed on one device is not forgotten by another; a lead explains it, or the instrument measures it again. */
test('a failure measured on one tablet stands on the sheet of the next until a lead explains it', async ({ page, browser, house }) => {
  const tag = newTag();
  await begin(page);
  await register(page, tag);
  await lookGood(page);
  await spoil(tag, 'openEarth');
  await page.getByRole('button', { name: measures }).click();
  await rests(page);
  await expect(page.getByRole('heading', { name: 'Fail', exact: true })).toBeVisible();

  const tablet = await browser.newContext({ baseURL: house.url, viewport: { width: 820, height: 1180 }, reducedMotion: 'reduce' });
  const there = await tablet.newPage();
  await begin(there);
  await scan(there, tag);
  await expect(there.getByText(/failed on .* \(Ida Fennimore, with the instrument\) and was not saved/).first()).toBeVisible();
  await lookGood(there);
  await typeByHand(there, '0.02');
  await rests(there);
  await expect(row(there, 'Earth continuity')).toHaveAttribute('aria-current', 'step');
  await expect(there.getByText(/nobody saved it: only the instrument decides/).first()).toBeVisible();
  await expect(there.getByRole('button', { name: 'Save', exact: true })).toHaveCount(0);
  await expectSoundAtEverySize(there);
  await tablet.close();

  await begin(page, /Maud Tarrant/);
  await page.getByRole('link', { name: 'Today', exact: true }).click();
  const left = page.getByRole('region', { name: 'Failed, not saved' });
  await expect(left).toContainText(tag);
  await left.getByText(tag).locator('xpath=ancestor::div[1]').getByRole('button', { name: 'Explain' }).click();
  await page.getByRole('button', { name: 'Measured on the wrong item.' }).click();
  await page.getByRole('button', { name: 'Save reason' }).click();
  await expect(left.getByText(tag)).toHaveCount(0);
  await scan(page, tag);
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.05', '0.05 Ω');
  await expect(row(page, 'Insulation')).toHaveAttribute('aria-current', 'step');
});
