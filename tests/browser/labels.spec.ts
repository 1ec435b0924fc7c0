import { expect, test } from './house';
import { begin, expectSoundAtEverySize, lookGood, newTag, register, tablet, typeReading } from './steps';

test('labels wait, are printed on a sheet, and once more only with a reason, on a tablet', async ({ page }) => {
  await page.setViewportSize(tablet);
  const tag = newTag();
  await begin(page);
  await register(page, tag);
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.9', '0.9 Ω');
  await page.getByRole('button', { name: 'Save the fail' }).click();
  await expect(page.getByRole('heading', { name: 'Saved: fail' })).toBeVisible();

  await page.getByRole('link', { name: 'Papers', exact: true }).click();
  await page.getByRole('link', { name: 'Labels' }).click();
  const waiting = page.getByRole('region', { name: 'To print' });
  await expect(waiting).toContainText(tag);
  await expectSoundAtEverySize(page);
  // This one alone, on a sheet of which three places are used up.
  await waiting.getByRole('button', { name: 'None' }).click();
  await waiting.getByRole('checkbox', { name: new RegExp(tag) }).check();
  await page.getByLabel('In the printer').click();
  await page.getByRole('option', { name: /A4 sheet, 44/ }).click();
  await page.getByLabel('Labels used up on the first sheet').fill('44');
  await expect(page.getByRole('button', { name: 'Print one label' })).toBeDisabled();
  await page.getByLabel('Labels used up on the first sheet').fill('3');
  const [first] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Print one label' }).click(),
  ]);
  expect(first.suggestedFilename()).toBe('labels.pdf');
  await expect(waiting).not.toContainText(tag);

  const printed = page.getByRole('region', { name: 'Printed' });
  await page.getByLabel('Tag of an older one').fill(tag);
  await expect(printed.getByRole('checkbox')).toHaveCount(2);
  await printed.getByRole('checkbox', { name: new RegExp(tag) }).check();
  const none = waiting.getByRole('button', { name: 'None' });
  if (await none.isVisible()) await none.click();
  const again = page.getByRole('button', { name: 'Print one label' });
  await expect(again).toBeDisabled();
  await page.getByRole('button', { name: 'Damaged' }).click();
  await expectSoundAtEverySize(page);
  await Promise.all([page.waitForEvent('download'), again.click()]);
  await expect(page.getByLabel('Why once more')).toHaveCount(0);
});
