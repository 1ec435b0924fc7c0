import { expect, test } from './house';
import {
  begin,
  beginAtHospital,
  enter,
  expectSoundAtEverySize,
  lookGood,
  newTag,
  placeProbe,
  registerFromPlate,
  rests,
  row,
  scan,
  start,
  typeReading,
} from './steps';

/** A probe in the air reads what a sound item reads: where it lies is said, and proved once where metal shows nothing. */
test('class II waits for where its probe lies, by keys alone, and a lead that shows nothing is found out', async ({ page }) => {
  // The first item of a day: what others read with the same lead would prove it.
  await page.route(/\/api\/v1\/bench\/[0-9a-f-]{36}\?/, async (route) => {
    const answer = await route.fetch();
    await route.fulfill({ response: answer, json: { ...(await answer.json()), probeSeen: null } });
  });
  await begin(page);
  await registerFromPlate(page, newTag(), /Square within a square$/);
  await lookGood(page);
  const asked = page.getByRole('group', { name: 'The probe lies on' });
  await expect(asked).toBeVisible();
  await expect(page.locator('#hold')).toHaveCount(0);
  await expectSoundAtEverySize(page);
  // Enter goes to the question and answers nothing.
  await page.keyboard.press('Enter');
  await expect(asked.getByRole('button', { name: 'Bare metal' })).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await expect(asked.getByRole('button', { name: 'Foil round it' })).toBeFocused();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await rests(page);
  await typeReading(page, 'Insulation', '>500', '>500 MΩ');
  await expect(row(page, 'Insulation')).toContainText('probe on metal');
  await typeReading(page, 'Touch current', '0', '0 mA');
  await row(page, 'Functional check').getByRole('button', { name: 'Good' }).click();
  const verdict = page.getByRole('region', { name: 'Verdict' });
  await expect(verdict).toContainText('it lay on metal and showed nothing anywhere');
  await expect(page.getByRole('button', { name: 'Save', exact: true })).toHaveCount(0);
  await expectSoundAtEverySize(page);
  await verdict.getByRole('button', { name: 'There it shows nothing either' }).click();
  await expect(row(page, 'Insulation')).toContainText('1 voided');
  await typeReading(page, 'Insulation', '>500', '>500 MΩ');
  await typeReading(page, 'Touch current', '0.02', '0.02 mA');
  await expect(page.getByRole('heading', { name: /^Pass/ })).toBeVisible();
  await enter(page);
  await expect(page.getByRole('heading', { name: /^Saved: pass/ })).toBeVisible();
});

test('with the instrument foil is laid and read', async ({ page }) => {
  await begin(page);
  await registerFromPlate(page, newTag(), /Square within a square$/);
  await lookGood(page);
  await placeProbe(page, 'Foil round it');
  await start(page, 'Insulation');
  await rests(page);
  await expect(row(page, 'Insulation')).toContainText('probe on foil');
  await start(page, 'Touch current');
  await rests(page);
  await expect(row(page, 'Functional check')).toHaveAttribute('aria-current', 'step');
});

test('a medical device is registered with what touches the patient, or that nothing does', async ({ page }) => {
  await beginAtHospital(page);
  await scan(page, newTag());
  await page.getByRole('button', { name: 'Medical device' }).click();
  await page.getByLabel('What people call it').fill('Theatre lamp');
  await page.getByRole('combobox', { name: 'Room' }).fill('Recovery');
  await page.getByLabel('Seen on plate and build').click();
  await page.getByRole('option', { name: /Earth symbol/ }).first().click();
  await page.getByRole('button', { name: 'Register and open on the bench' }).click();
  await expect(page.getByText('Say which parts of it touch the patient, or that you looked and there are none.').first()).toBeVisible();
  await page.getByLabel(/No applied parts: I looked/).check();
  await page.getByRole('button', { name: 'Register and open on the bench' }).click();
  await expect(page.getByRole('heading', { name: 'Theatre lamp' })).toBeVisible();
});
