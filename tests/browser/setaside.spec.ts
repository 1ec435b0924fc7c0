import { readFileSync } from 'node:fs';
import { expect, test } from './house';
import { begin, expectSoundAtEverySize, lookGood, newTag, register, row, typeReading } from './steps';

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
