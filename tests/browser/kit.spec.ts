import { expect, type Page, test } from './house';
import { begin, expectNoSeriousFindings, expectSoundAtEverySize, lookGood, newTag, register, scan, signOut, typeReading } from './steps';

/** A tester of the test's own, so that barring it bars nobody else. */
async function takeIn(page: Page, name: string) {
  await page.getByRole('link', { name: 'Kit', exact: true }).first().click();
  await page.getByRole('button', { name: 'Take something in' }).click();
  const form = page.getByRole('form', { name: 'Take something in' });
  await form.getByLabel('Name, as on records').fill(name);
  await form.getByLabel('Calibrated on').fill('2026-06-01');
  await form.getByLabel('Calibration due').fill('2099-06-01');
  await form.getByRole('button', { name: 'One more line' }).click();
  await form.getByLabel('Step', { exact: true }).fill('0.01');
  await form.getByLabel('± %', { exact: true }).fill('3');
  await form.getByLabel('± steps', { exact: true }).fill('2');
  await form.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  // Its other ranges: of what it states nothing for, it measures nothing.
  const thing = `/api/v1${new URL(page.url()).pathname}`;
  const { details } = await (await page.request.get(thing)).json();
  const [earth] = details.accuracies;
  const accuracies = [earth, { ...earth, test: 'insulation', unit: 'Mohm' }, { ...earth, test: 'leakage', unit: 'mA' }];
  expect((await page.request.post(thing, { data: { ...details, accuracies } })).ok()).toBe(true);
}

async function check(page: Page, name: string, read: string) {
  await page.goto('/kit');
  await page.getByRole('link', { name, exact: true }).click();
  await page.getByLabel('Earth path, read').fill(read);
  await page.getByLabel('Insulation, read').fill('1.00');
  await page.getByLabel('Leakage, read').fill('0.50');
  await page.keyboard.press('Enter');
}

async function take(page: Page, ...names: string[]) {
  await page.goto('/kit');
  for (const name of names) await page.getByLabel(`Take ${name} along`).check();
  await page.getByRole('button', { name: 'Take this kit' }).click();
  await expect(page.getByText('Chosen for today, until')).toBeVisible();
}

test('an instrument that fails its daily check is barred, what it measured waits for a lead, and nothing is lost', async ({ page }) => {
  await begin(page, /Maud Tarrant/);
  const name = `Tester ${newTag()}`;
  await takeIn(page, name);
  await expectSoundAtEverySize(page);
  await check(page, name, '0.205');
  await expect(page.getByText('Within its tolerances')).toBeVisible();
  await take(page, name, 'Lead B');

  // Measured and saved with it; another sheet is half done when it turns out wrong.
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Summit café' })).toBeVisible();
  const saved = newTag();
  await register(page, saved);
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.05', '0.05 Ω');
  await typeReading(page, 'Insulation', '>200M', '>200 MΩ');
  await typeReading(page, 'Protective conductor current', '0.2m', '0.2 mA');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('heading', { name: /^Saved: pass/ })).toBeVisible();

  await check(page, name, '0.26');
  await expect(page.getByText('Out of tolerance: it is barred')).toBeVisible();
  await expect(page.getByText('1 record measured with it since its last good check waits for a lead')).toBeVisible();
  await expectNoSeriousFindings(page);
  await page.getByRole('button', { name: 'Decide' }).click();
  await page.getByLabel('What you decided').fill('Far from its limit; it stands');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('region', { name: 'Records to look at again' })).toHaveCount(0);

  await page.goto('/kit');
  await expect(page.getByText(/Barred\. It failed its daily check/)).toBeVisible();
  await expectSoundAtEverySize(page);
  // The way on: another kit.
  await take(page, 'Bench analyser 2', 'Lead B', 'Probes 2', 'Indicator 1', 'Proving unit 1');
});

test('probes are looked at point by point, and kept for dead work or barred', async ({ page }) => {
  await begin(page, /Maud Tarrant/);
  const name = `Probes ${newTag()}`;
  await page.goto('/kit');
  await page.getByRole('button', { name: 'Take something in' }).click();
  const form = page.getByRole('form', { name: 'Take something in' });
  await form.getByLabel('What it is').click();
  await page.getByRole('option', { name: 'Probes' }).click();
  await form.getByLabel('Name, as on records').fill(name);
  await form.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByText('Not looked at today.').first()).toBeVisible();
  await page.getByRole('button', { name: 'All good' }).click();
  await page.getByRole('button', { name: 'Judge and keep' }).click();
  await expect(page.getByRole('alert')).toContainText('Measure the bare tip');
  await page.getByLabel('Bare tip, mm').fill('19');
  await page.getByRole('button', { name: 'Judge and keep' }).click();
  await expect(page.getByText('Bare tip of 19 mm, at most 4 mm').first()).toBeVisible();
  await page.getByRole('button', { name: 'All good' }).click();
  await page.getByLabel('Bare tip, mm').fill('3');
  const marked = page.getByRole('group', { name: /Category and product standard/ });
  await marked.getByRole('button', { name: 'Bad' }).click();
  await marked.getByLabel('What is wrong').fill('mark worn off');
  await page.getByLabel('Keep it for dead work only').check();
  await page.getByRole('button', { name: 'Judge and keep' }).click();
  await expect(page.getByRole('status').getByText('Dead work only.')).toBeVisible();
  await expectNoSeriousFindings(page);
});

test('who lacks the competence looks, is told who holds it, and saves it as looked at', async ({ page }) => {
  await begin(page, /Rufus Oakhanger/);
  const tag = newTag();
  await scan(page, tag);
  await page.getByLabel('What people call it').fill('Hob');
  await page.getByLabel('Seen on plate and build').click();
  await page.getByRole('option', { name: /Earth symbol/ }).first().click();
  await page.getByRole('combobox', { name: 'Room' }).fill('Kitchen');
  await page.getByLabel('Watts').fill('6000');
  await page.getByRole('button', { name: 'Hard-wired', exact: true }).click();
  await page.getByRole('button', { name: 'Register and open on the bench' }).click();
  await expect(page.getByText(/Rufus Oakhanger may look and not test/).first()).toBeVisible();
  await lookGood(page);
  await expect(page.getByText(/Hand it over to .*Ida Fennimore/).first()).toBeVisible();
  await expectNoSeriousFindings(page);
  await page.keyboard.press('/');
  await page.getByRole('button', { name: 'Needs a competence I do not hold' }).click();
  await page.getByRole('button', { name: 'Save as looked at, not tested' }).click();
  await expect(page.getByText(/Looked at, not tested: next look by/)).toBeVisible();
  await signOut(page);
});
