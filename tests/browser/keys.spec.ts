import { expect, test } from './house';
import {
  begin,
  lookGood,
  newTag,
  register,
  rests,
  row,
  typeByHand,
  typeReading,
  isReady,
 
} from './steps';

/** The keys of the bench have one owner at a time (src/web/src/bench/keyboard.ts); here with real lists, dialogs and focus. */

test('what is typed where nothing is read says nothing good, saves nothing, and is told', async ({ page }) => {
  await begin(page);
  await register(page, newTag());
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.05', '0.05 Ω');
  await typeReading(page, 'Insulation', '>500', '>500 MΩ');
  await typeReading(page, 'Protective conductor current', '0.3', '0.3 mA');
  const functional = row(page, 'Functional check');
  await expect(functional.getByRole('button', { name: 'Good' })).toBeVisible();
  const told = page.getByText('was typed and nothing here understands it. Nothing was recorded.');
  for (const typed of ['0.3', '0.3', '0.9', 'tested']) {
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await typeByHand(page, typed);
    await expect(told).toBeVisible();
  }
  await expect(functional.getByRole('button', { name: 'Good' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save', exact: true })).toHaveCount(0);

  await page.keyboard.press('Escape');
  await typeByHand(page, 'OL');
  const dialog = page.getByRole('dialog', { name: /Functional check: what is bad/ });
  await expect(dialog.getByLabel('In words')).toHaveValue('shown: OL');
  // Whatever is struck now is the dialog's.
  await dialog.getByRole('button', { name: 'Cancel' }).focus();
  await page.keyboard.press('*');
  await page.keyboard.press('Enter');
  await expect(dialog).toBeHidden();
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Pass', exact: true })).toBeVisible();
});

test('while a list is open its keys start nothing, and afterwards they are the sheet’s again', async ({ page }) => {
  await begin(page);
  await register(page, newTag());
  await lookGood(page);
  const earth = row(page, 'Earth continuity');
  await expect(earth.getByRole('button', { name: 'Measure' })).toBeEnabled();
  await page.getByRole('combobox', { name: 'Worded for' }).click();
  const list = page.getByRole('listbox');
  await expect(list).toBeVisible();
  // Fewer than a scan has.
  for (const key of ['5', '*', '/']) await page.keyboard.press(key);
  await expect(list).toBeVisible();
  await list.getByRole('option', { selected: true }).press('Enter');
  await expect(list).toBeHidden();
  await rests(page);
  await expect(earth.getByRole('button', { name: 'Measure' })).toBeEnabled();
  await expect(earth).not.toContainText('Ω of');
  // No press of anything in between: the number goes to the step in hand.
  await typeByHand(page, '0.08');
  await expect(earth.getByText('0.08 Ω', { exact: true })).toBeVisible();

  await page.getByRole('combobox', { name: 'Worded for' }).click();
  await expect(list).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(list).toBeHidden();
  await isReady(page, 'Insulation');
});
