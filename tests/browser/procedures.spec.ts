import { readFile } from 'node:fs/promises';
import { expect, type Page, test } from './house';
import {
  begin,
  discard,
  expectNoSeriousFindings,
  expectSoundAtEverySize,
  lookGood,
  newTag,
  register,
  row,
  scan,
  signOut,
  tablet,
  start,
} from './steps';

const unique = () => `Hot plates ${newTag()}`;

/** A lead makes a procedure of the item on the bench. */
async function makeFrom(page: Page, name: string) {
  await page.getByRole('button', { name: 'Make a procedure of this' }).click();
  await expect(page.getByRole('heading', { name: 'A new procedure' })).toBeVisible();
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('To bring, one a line').fill('Infrared thermometer');
}

test('a procedure is made, versioned and run by another technician', async ({ page }) => {
  const [tag, name] = [newTag(), unique()];
  await begin(page, /Maud Tarrant/);
  await register(page, tag);
  await makeFrom(page, name);
  await page.getByRole('button', { name: 'Add a check' }).click();
  await page.getByLabel('What is checked').fill('plate temperature');
  await page.getByRole('button', { name: 'With a set value' }).click();
  await page.getByLabel('Set', { exact: true }).fill('200');
  await page.getByLabel('Within ±').fill('10');
  await page.getByLabel('Unit', { exact: true }).fill('°C');
  await page.getByLabel('Why this version is made').fill('the kitchen asked for it');
  await page.getByRole('button', { name: 'Save version 1' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  await expectNoSeriousFindings(page);

  await page.getByRole('button', { name: 'Edit into version 2' }).click();
  await page.getByLabel('Remark').fill('Let it heat for five minutes.');
  await page.getByLabel('Why this version is made').fill('how long it heats');
  await page.getByRole('button', { name: 'Save version 2' }).click();
  await expect(page.getByText('Remark: nothing → “Let it heat for five minutes.”')).toBeVisible();

  // Left on Maud's bench it would wait for her: it is Ida's now.
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Open rounds' })).toBeVisible();
  await scan(page, tag);
  await expect(row(page, 'Look')).toBeVisible();
  await discard(page);
  await signOut(page);
  await begin(page);
  await scan(page, tag);
  await page.getByLabel('Procedure').click();
  await page.getByRole('option', { name: `${name}, version 2` }).click();
  await expect(page.getByText('Bring: Infrared thermometer')).toBeVisible();
  await lookGood(page);
  for (const step of ['Earth continuity', 'Insulation'])
    await start(page, step);
  const check = row(page, 'plate temperature');
  await check.click();
  await expect(check.getByText('200 ± 10 °C').first()).toBeVisible();
  await discard(page);
});

test('what is wrong with a procedure is told at its step, and a device is tried, on a tablet', async ({ page }) => {
  await page.setViewportSize(tablet);
  const [tag, name] = [newTag(), unique()];
  await begin(page, /Maud Tarrant/);
  await register(page, tag);
  await page.getByText(/plate, flex, scope and kit/).click();
  await makeFrom(page, name);
  const first = page.getByRole('listitem').filter({ hasText: 'Earth continuity' }).first();
  await first.getByRole('button', { name: 'Leave out' }).click();
  await page.getByLabel('Why this version is made').fill('to try');
  await page.getByRole('button', { name: 'Save version 1' }).click();
  await expect(page.getByText('Step 1: Say it in words.')).toBeVisible();
  await expectSoundAtEverySize(page);
  await page.getByLabel('Why it is left out; it stands on the paper').fill('no metal to reach');
  await page.getByLabel('Try it on a device: its tag').fill(tag);
  await page.getByRole('button', { name: 'Try', exact: true }).click();
  await expect(page.getByText('Left out by the procedure: Earth continuity. no metal to reach.')).toBeVisible();
  await first.getByRole('button', { name: 'Do it' }).click();
  // Powered before its earth is known: refused, with the step's number.
  await first.getByRole('button', { name: 'Earth continuity: later' }).click();
  await page.getByRole('button', { name: 'Save version 1' }).click();
  await expect(page.getByText(/earth first, then insulation/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(row(page, 'Look')).toBeVisible();
  await discard(page);
});

test('a procedure leaves as a file, comes back as another, and is retired with a reason', async ({ page }) => {
  const [tag, name] = [newTag(), unique()];
  await begin(page, /Maud Tarrant/);
  await register(page, tag);
  await makeFrom(page, name);
  await page.getByLabel('Why this version is made').fill('to keep');
  await page.getByRole('button', { name: 'Save version 1' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'File' }).click()]);
  const path = await download.path();
  expect(JSON.parse(await readFile(path, 'utf8'))).toMatchObject({ format: 'osierwand-procedure/1', name });

  await page.getByRole('link', { name: 'Procedures' }).click();
  await page.getByLabel('A procedure’s file').setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('{}') });
  await expect(page.getByText('This file is no procedure: nothing was taken from it.')).toBeVisible();
  await page.getByLabel('A procedure’s file').setInputFiles(path);
  await expect(page.getByLabel('Name')).toHaveValue(name);
  await page.getByRole('button', { name: 'Cancel' }).click();

  await page.getByRole('link', { name }).first().click();
  await page.getByRole('button', { name: 'Retire' }).click();
  await page.getByRole('button', { name: 'Another took its place' }).click();
  await page.getByRole('button', { name: 'Retire', exact: true }).last().click();
  await expect(page.getByText(/Retired on .* by Maud Tarrant: Another took its place/)).toBeVisible();
});
