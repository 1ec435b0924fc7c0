import { expect, type Page, test } from './house';
import {
  begin,
  discard,
  expectNoSeriousFindings,
  expectSoundAtEverySize,
  lookGood,
  newTag,
  phone,
  register,
  row,
  scan,
  typeReading,
  start,
} from './steps';

/** What lies here without a tag, by what is seen of it. */
async function layLoose(page: Page, seen = /Earth symbol/) {
  await page.getByRole('button', { name: 'No tag' }).click();
  await page.getByRole('radio', { name: seen }).first().click();
  await page.getByLabel('Watts').fill('1500');
  await page.getByRole('button', { name: 'Lay it on the bench' }).click();
  await expect(page.getByText('No tag yet', { exact: true })).toBeVisible();
}

test('a loose item is measured, named and saved, on a phone', async ({ page }) => {
  await page.setViewportSize(phone);
  await begin(page);
  await page.getByRole('button', { name: 'No tag' }).click();
  await expect(page.getByRole('heading', { name: 'Measure it first, name it later' })).toBeVisible();
  await expectSoundAtEverySize(page);
  await page.getByRole('radio', { name: /Earth symbol/ }).first().click();
  await page.getByRole('button', { name: 'Lay it on the bench' }).click();
  await lookGood(page);
  await start(page, 'Earth continuity');
  await expect(row(page, 'Insulation')).toHaveAttribute('aria-current', 'step');
  await typeReading(page, 'Insulation', '>200', '>200 MΩ');
  await typeReading(page, 'Protective conductor current', '0.1', '0.1 mA');
  await row(page, 'Functional check').getByRole('button', { name: 'Good' }).click();
  await expect(page.getByRole('region', { name: 'Verdict' }).getByText('It has no tag yet')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save', exact: true })).toBeHidden();
  await page.reload();
  await expect(page.getByText('No tag yet', { exact: true })).toBeVisible();

  const tag = newTag();
  await scan(page, tag);
  await expect(page.getByRole('heading', { name: `${tag} is new` })).toBeVisible();
  await expectSoundAtEverySize(page);
  await page.getByLabel('What people call it').fill('Hot plate');
  await page.getByRole('combobox', { name: 'Room' }).fill('Kitchen');
  await page.getByRole('button', { name: 'Register it' }).click();
  await expect(page.getByRole('heading', { name: 'Hot plate' })).toBeVisible();
  await page.locator('#save').click();
  await expect(page.getByRole('heading', { name: /^Saved/ })).toBeVisible();
  await scan(page, tag);
  await expect(page.getByRole('heading', { name: 'Hot plate' })).toBeVisible();
  await expect(row(page, 'Earth continuity').getByText(/Ω/).first()).toBeVisible();
});

test('a known tag makes it that item, and what was seen otherwise is decided by whoever looks again', async ({ page }) => {
  await begin(page);
  const tag = newTag();
  await register(page, tag);
  await discard(page);

  await layLoose(page, /square within a square/i);
  await lookGood(page);
  await typeReading(page, 'Insulation', '1.5', '1.5 MΩ');
  await expect(page.getByRole('heading', { name: 'Fail', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save the fail' })).toBeHidden();
  await page.locator('#name').click();
  await page.getByLabel('Scan or type its tag').fill(tag);
  await page.keyboard.press('Enter');
  await expect(page.getByText('Class: I in the register, II as seen')).toBeVisible();
  await expectNoSeriousFindings(page);
  await page.getByRole('button', { name: 'It is; what was seen is right' }).click();
  await expect(page.getByRole('link', { name: tag })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Fail', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Save the fail' }).click();
  await expect(page.getByRole('heading', { name: /^Saved/ })).toBeVisible();
});

test('an answer that is lost while it is named loses nothing', async ({ page }) => {
  await begin(page);
  const tag = newTag();
  await register(page, tag);
  await discard(page);
  await layLoose(page);
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.07', '0.07 Ω');
  // It reaches the server; what the server says does not come back.
  await page.route('**/name', async (route) => {
    await route.fetch();
    await route.abort();
  });
  await scan(page, tag);
  await page.getByRole('button', { name: 'Yes, that is it' }).click();
  await expect(page.getByRole('dialog').getByRole('alert')).toBeVisible();
  await page.unroute('**/name');
  await page.reload();
  await expect(page.getByRole('link', { name: tag })).toBeVisible();
  await expect(row(page, 'Earth continuity').getByText('0.07 Ω').first()).toBeVisible();
  await expect(page.getByText('No tag yet', { exact: true })).toBeHidden();
});

test('a scan while something else is asked is not used, and says so', async ({ page }) => {
  await begin(page);
  await layLoose(page);
  await page.getByRole('button', { name: 'Correct the facts' }).click();
  await expect(page.getByRole('dialog')).toBeVisible();
  await scan(page, newTag());
  await expect(page.getByText(/Something is being asked: the scan of .* was not used/)).toBeVisible();
});
