import { expect, test } from '@playwright/test';
import { begin, expectNoSeriousFindings, newTag, register, row, scan, typeByHand } from './steps';

test('a known passing class I item takes at most six key presses from scan to saved', async ({ page }) => {
  await begin(page);
  await scan(page, 'LMR-0214');
  await expect(page.getByText('Cord grip holds')).toBeVisible();
  await expectNoSeriousFindings(page);

  // Every key that reaches the page is counted, not those that this test believes it pressed.
  await page.evaluate(() => {
    (window as unknown as { keys: number }).keys = 0;
    document.addEventListener('keydown', () => (window as unknown as { keys: number }).keys++, true);
  });
  const press = () => page.keyboard.press('Enter');
  await press(); // the look: all good
  await expect(page.getByText('10 of 10 points good')).toBeVisible();
  const isNext = (step: string) => expect(row(page, step).getByRole('button', { name: 'Measure' })).toBeVisible();
  await isNext('Earth continuity');
  await press();
  await isNext('Insulation');
  await expect(row(page, 'Earth continuity').getByText('% of the limit')).toBeVisible();
  await press();
  await isNext('Protective conductor current');
  await expect(row(page, 'Insulation').getByText('>299 MΩ', { exact: true })).toBeVisible();
  await press(); // protective conductor current
  await expect(row(page, 'Functional check').getByRole('button', { name: 'Good' })).toBeVisible();
  await press(); // it works
  await expect(page.getByRole('heading', { name: 'Pass', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save' })).toBeEnabled();
  await expectNoSeriousFindings(page);
  await press(); // save
  await expect(page.getByRole('heading', { name: 'Saved: pass' })).toBeVisible();
  expect(await page.evaluate(() => (window as unknown as { keys: number }).keys)).toBeLessThanOrEqual(6);

  const label = page.getByAltText(/Label of LMR-0214/);
  await expect.poll(() => label.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBe(591); // 50 mm at 300 dots per inch
  await expectNoSeriousFindings(page);
  await page.getByRole('link', { name: 'Its whole story' }).click();
  await expect(page.getByText('How its values move')).toBeVisible();
  await expectNoSeriousFindings(page);
});

test('an unknown tag is registered, typed readings are understood, and a reload loses nothing', async ({ page }) => {
  await begin(page);
  const tag = newTag();
  await register(page, tag);
  await page.keyboard.press('Enter');
  await expect(row(page, 'Earth continuity').getByLabel('Reading of Earth continuity in Ω')).toBeVisible();

  await typeByHand(page, '0.0x8');
  await expect(page.getByRole('alert')).toContainText('Try 0.08');
  await page.getByLabel('Reading of Earth continuity in Ω').fill('');
  await typeByHand(page, '80m');
  await expect(row(page, 'Earth continuity').getByText('0.08 Ω', { exact: true })).toBeVisible();

  await page.reload();
  await expect(page.getByText('Taken up where it was left')).toBeVisible();
  await expect(row(page, 'Earth continuity').getByText('0.08 Ω', { exact: true })).toBeVisible();
  await page.goto('/');
  await expect(page.getByText('Left on the bench')).toBeVisible();
  await scan(page, 'LMR-0203');
  await expect(page.getByRole('heading', { name: `${tag} is still on the bench` })).toBeVisible();
  await page.getByRole('button', { name: `Back to ${tag}` }).click();
  await expect(page.getByLabel('Reading of Insulation in MΩ')).toBeVisible();

  await typeByHand(page, '>299M');
  await expect(row(page, 'Insulation').getByText('>299 MΩ', { exact: true })).toBeVisible();
  await typeByHand(page, '310u');
  await expect(row(page, 'Protective conductor current').getByText('0.31 mA', { exact: true })).toBeVisible();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('heading', { name: 'Saved: pass' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Open rounds' })).toBeVisible();
});

test('a scanned tag of digits never becomes a reading', async ({ page }) => {
  await begin(page);
  await register(page, newTag());
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Reading of Earth continuity in Ω')).toBeVisible();
  await scan(page, '70010001');
  await expect(page.getByRole('heading', { name: 'A new tag: 70010001' })).toBeVisible();
});

test('a failed earth stops the rest, a voided reading opens it again, and a fail is loud', async ({ page }) => {
  await begin(page);
  await register(page, newTag());
  await page.keyboard.press('Enter');
  await typeByHand(page, '>19.9');
  await expect(row(page, 'Insulation')).toContainText('The earth path failed');
  await page.keyboard.press('*');
  await page.getByRole('button', { name: 'Clip was off' }).click();
  await expect(row(page, 'Earth continuity')).toContainText('1 voided');
  await typeByHand(page, '0.6');
  await expect(page.getByRole('heading', { name: 'Fail', exact: true })).toBeVisible();
  await expectNoSeriousFindings(page);
  await page.getByRole('button', { name: 'Save the fail' }).click();
  await expect(page.getByText('After repair it starts again from the look')).toBeVisible();
});

test('a lost server keeps the run sheet and the save goes through once it is back', async ({ page, context }) => {
  await begin(page);
  await register(page, newTag());
  await page.keyboard.press('Enter');
  await typeByHand(page, '0.05');
  await typeByHand(page, '200');
  await typeByHand(page, '0.2');
  await expect(row(page, 'Functional check').getByRole('button', { name: 'Good' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Save' })).toBeEnabled();
  await context.setOffline(true);
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('alert')).toContainText('kept on this screen');
  await context.setOffline(false);
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('heading', { name: 'Saved: pass' })).toBeVisible();
});
