import { expect, type Page, test } from './house';
import {
  beginAtHospital,
  discard,
  expectNoSeriousFindings,
  expectSoundAtEverySize,
  lookGood,
  measures,
  measureTheRest,
  newTag,
  rests,
  row,
  scan,
  tablet,
} from './steps';

const trolley = 'SVH-1120';

async function lay(page: Page) {
  await beginAtHospital(page);
  await scan(page, trolley);
  await expect(page.getByRole('heading', { name: 'Endoscopy trolley' })).toBeVisible();
}

test('a trolley is measured as one, every member\'s earth and part by name, on a tablet', async ({ page }) => {
  await page.setViewportSize(tablet);
  await lay(page);
  await expect(page.getByText(/In its multiple socket, and nothing else in it: Video processor SVH-1117/)).toBeVisible();
  await lookGood(page);
  for (const at of ['trolley frame', 'Video processor: equalisation stud', 'Endoscope lamp: front panel screw', 'Theatre screen: accessible metal']) {
    const earth = row(page, `Earth continuity, ${at}`);
    await expect(earth).toHaveAttribute('aria-current', 'step');
    await expect(earth).toContainText('≤ 0.5 Ω');
    await earth.getByRole('button', { name: measures }).click();
    await expect(earth).toContainText(/\d Ω/);
    await rests(page);
  }
  await expectSoundAtEverySize(page);
  // The slowest member decides how long the whole of it starts.
  await row(page, 'Switch it on').getByRole('button', { name: 'Done' }).click();
  const evaluate = await measureTheRest(page);
  await evaluate.click();
  await expect(page.getByRole('button', { name: 'Save', exact: true })).toBeEnabled();
  await discard(page);
});

test('a system is registered by scanning what hangs on it; a member taken out makes it due and says so on both pages', async ({ page }) => {
  await beginAtHospital(page);
  const tag = newTag();
  await scan(page, tag);
  await page.getByRole('button', { name: 'Medical system' }).click();
  await page.getByLabel('What people call it').fill('Recovery trolley');
  await page.getByRole('combobox', { name: 'Room' }).fill('Recovery');
  await page.getByLabel('Seen on plate and build').click();
  await page.getByRole('option', { name: /Earth symbol/ }).first().click();
  const field = page.getByLabel('Tag of a member');
  // A scanner ends with Enter; the form stays.
  for (const member of ['SVH-1001', 'SVH-1004']) {
    await field.fill(member);
    await field.press('Enter');
  }
  await expect(page.getByRole('button', { name: 'Take SVH-1004 out' })).toBeVisible();
  await expectNoSeriousFindings(page);
  await page.getByRole('button', { name: 'Register and open on the bench' }).click();
  await expect(page.getByRole('heading', { name: 'Recovery trolley' })).toBeVisible();
  await expect(page.getByText(/Patient monitor SVH-1001/).first()).toBeVisible();
  await page.getByRole('link', { name: tag }).click();
  const section = page.getByRole('region', { name: 'Members of this system' });
  await expect(section).toContainText('SVH-1001');
  await section.getByRole('button', { name: 'Change the members' }).click();
  for (const member of ['SVH-1001', 'SVH-1004']) await page.getByRole('button', { name: `Take ${member} out` }).click();
  await page.getByRole('button', { name: 'These are its members' }).click();
  await expect(section).toContainText('No member is named: it cannot be tested yet.');
  await expect(page.getByText('Its members changed on', { exact: false })).toBeVisible();
  await page.getByRole('link', { name: 'Open on the bench' }).click();
  await lookGood(page);
  await expect(page.getByText(/name its members on its page/).first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save', exact: true })).toHaveCount(0);
  await discard(page);
});

test('a device that something else earths is measured by difference, and the sheet says why', async ({ page }) => {
  await lay(page);
  await lookGood(page);
  for (let n = 0; n < 4; n++) {
    await page.locator('section[aria-current=step]').getByRole('button', { name: measures }).click();
    await rests(page);
  }
  await row(page, 'Switch it on').getByRole('button', { name: 'Done' }).click();
  await page.getByRole('button', { name: 'Something else earths it' }).click();
  await page.getByRole('button', { name: 'A data or video cable to another device' }).click();
  await page.getByRole('button', { name: 'Measure by difference' }).click();
  await expect(page.getByText(/differential. it does not stand isolated: A data or video cable/i).first()).toBeVisible();
  await expect(row(page, 'Equipment leakage').first()).toContainText('Difference of the currents in L and N');
  await expect(page.getByRole('button', { name: /^It stands isolated: / })).toHaveCount(0);
  // Said by a slip it is taken back by a press of its own.
  await page.getByRole('button', { name: 'It stands isolated after all' }).click();
  await expect(row(page, 'Equipment leakage').first()).not.toContainText('Difference of the currents in L and N');
  await discard(page);
});
