import { expect, test } from './house';
import {
  again,
  begin,
  expectNoSeriousFindings,
  lookGood,
  newTag,
  register,
  registerFromPlate,
  row,
  scan,
  typeByHand,
  typeReading,
  enter,
  isReady,
  start,
} from './steps';
import { atPace } from './workshop';

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
  const press = () => enter(page);
  await press(); // the look: all good
  await expect(page.getByText('11 of 11 points good')).toBeVisible();
  const isNext = (step: string) => isReady(page, step);
  await isNext('Earth continuity');
  await press();
  await isNext('Insulation');
  await expect(row(page, 'Earth continuity').getByText('% of the limit')).toBeVisible();
  await press();
  await isNext('Protective conductor current');
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
  await registerFromPlate(page, tag);
  await lookGood(page);
  await typeByHand(page, '0.0x8');
  await expect(page.getByRole('alert')).toContainText('Try 0.08');
  await page.getByLabel('Reading of Earth continuity in Ω').fill('');
  await page.getByLabel('Reading of Earth continuity in Ω').blur();
  await typeReading(page, 'Earth continuity', '80m', '0.08 Ω');

  await page.reload();
  await expect(page.getByText('Taken up where it was left')).toBeVisible();
  await expect(row(page, 'Earth continuity').getByText('0.08 Ω', { exact: true })).toBeVisible();
  await page.goto('/');
  await expect(page.getByText('Left on the bench')).toBeVisible();
  await scan(page, 'LMR-0203');
  await expect(page.getByRole('heading', { name: `${tag} is still on the bench` })).toBeVisible();
  await page.getByRole('button', { name: `Back to ${tag}` }).click();
  await typeReading(page, 'Insulation', '>500M', '>500 MΩ');
  await typeReading(page, 'Protective conductor current', '310u', '0.31 mA');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('heading', { name: 'Saved: pass' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Open rounds' })).toBeVisible();
});

for (const [what, ms] of [
  ['fast', 0],
  ['slow', 75],
] as const)
  test(`a scan from a ${what} scanner in the middle of an inspection is a scan, never a reading and never an answer`, async ({ page }) => {
    await begin(page);
    const tag = newTag();
    await register(page, tag);
    await lookGood(page);
    await typeReading(page, 'Earth continuity', '0.05', '0.05 Ω');
    await page.getByLabel('Reading of Insulation in MΩ').focus();
    await scan(page, '70010001', ms);
    await expect(page.getByRole('dialog')).toContainText(`70010001 was scanned, and ${tag} lies on the bench`);
    await page.getByRole('button', { name: `Stay with ${tag}` }).click();
    await expect(page.getByLabel('Reading of Insulation in MΩ')).toHaveValue('');
    await expect(row(page, 'Insulation')).not.toContainText('70010001');

    // In a dialog it is no reason either.
    await row(page, 'Earth continuity').click();
    await row(page, 'Earth continuity').getByRole('button', { name: 'Again' }).click();
    await page.getByLabel('In words').focus();
    await scan(page, 'LMR-0203', ms);
    await expect(page.getByText('LMR-0203 was scanned')).toBeVisible();
    await page.getByRole('button', { name: `Stay with ${tag}` }).click();
    await expect(page.getByLabel('In words')).toHaveValue('');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: 'It does not count', exact: true })).toBeDisabled();
  });

test('a failed earth stops the rest; Enter decides nothing; again wants a chosen reason; a fail can be taken back for a minute', async ({ page }) => {
  await begin(page);
  await register(page, newTag());
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.6', '0.6 Ω');
  await expect(row(page, 'Insulation')).toContainText('The earth path failed');
  await expect(page.getByRole('heading', { name: 'Fail', exact: true })).toBeVisible();
  await expectNoSeriousFindings(page);

  // Pressing on, as hands do, neither saves nor voids.
  for (let i = 0; i < 4; i++) await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'It does not count', exact: true })).toBeDisabled();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('heading', { name: 'Fail', exact: true })).toBeVisible();

  // "Not tested" is no way around it.
  await page.getByRole('button', { name: 'Not tested' }).click();
  await expect(page.getByRole('dialog')).toContainText('never saved as not tested');
  await page.getByRole('button', { name: 'Cancel' }).click();

  await again(page, 'Clip was off');
  await expect(row(page, 'Earth continuity')).toContainText('1 voided');
  await typeReading(page, 'Earth continuity', '0.7', '0.7 Ω');
  await page.getByRole('button', { name: 'Save the fail' }).click();
  await expect(page.getByText('After repair it starts again from the look')).toBeVisible();
  await page.getByRole('button', { name: 'Take the fail back' }).click();
  await page.getByRole('button', { name: 'Clip was off' }).click();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByRole('heading', { name: 'Fail', exact: true })).toBeVisible();
  await again(page, 'Clip was off');
  await typeReading(page, 'Earth continuity', '0.05', '0.05 Ω');
});

test('without the network a reading is judged all the same, and the save goes through once it is back', async ({ page, context }) => {
  await begin(page);
  await register(page, newTag());
  await lookGood(page);
  await context.setOffline(true);
  await typeReading(page, 'Earth continuity', '0.05', '0.05 Ω');
  await typeReading(page, 'Insulation', '200', '200 MΩ');
  await typeReading(page, 'Protective conductor current', '0.2', '0.2 mA');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Pass', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('alert')).toContainText('kept on this screen');
  await context.setOffline(false);
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('heading', { name: 'Saved: pass' })).toBeVisible();
});

test('a later step chosen out of order is not started, by key or by touch', async ({ page }) => {
  await begin(page);
  await register(page, newTag());
  for (const step of ['Insulation', 'Protective conductor current', 'Functional check']) {
    await row(page, step).click();
    await expect(row(page, step)).toContainText('Look first');
    await expect(row(page, step).getByRole('button', { name: /Measure|Good/ })).toHaveCount(0);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: /Stop/ })).toHaveCount(0);
  }
});

test('Esc stops what runs, a stopped measurement leaves no reading, and a scan meanwhile is said not to be used', async ({ page }) => {
  await begin(page);
  await register(page, newTag());
  await lookGood(page);
  await atPace(0.2, async () => {
    await start(page, 'Earth continuity');
    await expect(page.getByRole('button', { name: /Stop/ })).toBeVisible();
    await scan(page, 'LMR-0203');
    await page.keyboard.press('Escape');
    await expect(page.getByRole('button', { name: /Stop/ })).toHaveCount(0);
  });
  await isReady(page, 'Earth continuity');
  await expect(row(page, 'Earth continuity')).not.toContainText('% of the limit');
});

test('class II: an earth that is found stops the job, and the class is settled on the bench', async ({ page }) => {
  await begin(page);
  await registerFromPlate(page, newTag(), /Square within a square$/);
  await lookGood(page);
  await row(page, 'Insulation').getByRole('button', { name: 'The probe found an earth' }).click();
  await page.getByRole('button', { name: 'Metal case' }).click();
  await page.getByRole('button', { name: 'It stops the job' }).click();
  await expect(row(page, 'Functional check')).toContainText('A path to earth was found');
  await page.getByRole('button', { name: 'Correct the facts' }).first().click();
  await page.getByLabel('Class, by what was seen').click();
  await page.getByRole('option', { name: /^Earth symbol/ }).click();
  await page.getByRole('button', { name: 'Measured', exact: true }).click();
  await page.getByRole('button', { name: 'Correct it' }).click();
  await expect(row(page, 'Earth continuity')).toHaveAttribute('aria-current', 'step');
});
