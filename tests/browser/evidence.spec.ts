import { expect, type Page, test } from './house';
import { begin, desk, expectSoundAtEverySize } from './steps';

const group = (page: Page) => page.getByRole('complementary', { name: 'The group' });

test('a lead reads what tests found and decides for a whole group', async ({ page }) => {
  await page.setViewportSize(desk);
  await begin(page, /Maud Tarrant/);
  await page.goto('/schedule');
  await page.getByRole('link', { name: 'Evidence for intervals' }).click();
  await expect(page.getByRole('heading', { name: 'Evidence for intervals' })).toBeVisible();
  await page.getByRole('link', { name: /^Multiway adaptor, office/ }).click();
  await expect(group(page).getByRole('heading', { name: 'Multiway adaptor, office' })).toBeVisible();
  await expect(group(page).getByRole('img', { name: /The failure rate lies between/ })).toBeVisible();
  await expectSoundAtEverySize(page);

  const decide = group(page).getByRole('region', { name: 'Decide' });
  await expect(decide.getByRole('button', { name: 'One step longer' })).toBeDisabled();
  await expect(decide.getByRole('button', { name: 'Keep it' })).toBeDisabled();
  await decide.getByLabel('Why').fill('nothing new since then');
  await expect(decide.getByRole('button', { name: 'One step longer' })).toBeDisabled();
  await decide.getByRole('button', { name: 'Keep it' }).click();
  const before = group(page).getByRole('region', { name: 'Decided before' });
  await expect(before).toContainText('nothing new since then');
  await expect(before).toContainText(/Maud Tarrant, .* failed at/);
  await expect(decide.getByLabel('Why')).toHaveValue('');
  await expectSoundAtEverySize(page);
});

test('a decision is undone with a reason, and what has its own rule is shown and not decided', async ({ page }) => {
  await begin(page, /Maud Tarrant/);
  await page.goto('/evidence/multiwayAdapter/office');
  const decide = group(page).getByRole('region', { name: 'Decide' });
  await decide.getByLabel('Why').fill('a bad batch came in');
  await decide.getByRole('button', { name: 'One step shorter' }).click();
  const before = group(page).getByRole('region', { name: 'Decided before' });
  await expect(before.getByText(/^one step shorter/).first()).toBeVisible();
  await expect(group(page)).toContainText('decided until now: −1');
  await before.getByRole('button', { name: 'Undo' }).first().click();
  await before.getByLabel('Why it is undone').fill('the batch went back');
  await before.getByRole('button', { name: 'Undo it' }).click();
  await expect(before).toContainText('the batch went back');
  await expect(group(page)).not.toContainText('decided until now');

  await page.getByRole('link', { name: /^Medical device, medical/ }).click();
  await expect(group(page)).toContainText('its maker and its risk');
  await expect(group(page).getByRole('button', { name: 'One step shorter' })).toHaveCount(0);
});

test('a technician reads the evidence and decides nothing', async ({ page }) => {
  await begin(page);
  await page.goto('/evidence/multiwayAdapter/office');
  await expect(group(page)).toContainText('A lead decides.');
  await expect(group(page).getByRole('button', { name: 'Keep it' })).toHaveCount(0);
});
