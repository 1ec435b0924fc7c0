import { expect, test } from './house';
import {
  begin,
  beginAtHospital,
  expectNoSeriousFindings,
  expectSoundAtEverySize,
  lookGood,
  measureTheRest,
  newTag,
  phone,
  register,
  scan,
  signIn,
  typeReading,
} from './steps';

test('a failed item has its paper at once, as a page and as a PDF, on a phone', async ({ page }) => {
  await page.setViewportSize(phone);
  const tag = newTag();
  await begin(page);
  await register(page, tag);
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '1.9', '1.9 Ω');
  await page.getByRole('button', { name: 'Save the fail' }).click();
  await page.getByRole('link', { name: 'Paper', exact: true }).click();
  const paper = page.frameLocator('iframe[title="The paper"]');
  await expect(paper.getByRole('heading', { name: 'Report of a failed inspection and test' })).toBeVisible();
  await expect(paper.getByText('Do not use it.')).toBeVisible();
  await expect(paper.getByText(tag).first()).toBeVisible();
  await expectSoundAtEverySize(page);
  // The frame is as long as its page: nothing of the paper is cut.
  const frame = page.locator('iframe[title="The paper"]');
  const inside = await frame.evaluate((it: HTMLIFrameElement) => it.contentDocument!.documentElement.scrollHeight);
  await expect.poll(async () => (await frame.boundingBox())!.height).toBeGreaterThanOrEqual(inside);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'PDF' }).click(),
  ]);
  expect(download.suggestedFilename()).toContain(tag);
});

test('a paper that is not there says so and leads back', async ({ page }) => {
  await begin(page);
  await page.goto('/papers/inspections/00000000-0000-0000-0000-000000000009');
  await expect(page.getByText(/There is no such inspection/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'PDF' })).toBeDisabled();
});

test('a medical device is saved with its work order and its sticker, and the protocol says both', async ({ page }) => {
  await beginAtHospital(page);
  await scan(page, 'SVH-1005');
  await expect(page.getByRole('heading', { name: 'ECG recorder' })).toBeVisible();
  await page.getByRole('button', { name: 'Work order' }).click();
  await page.getByLabel('Number, as the client counts').fill('WO-77');
  await page.getByLabel('Reported fault').fill('stops after a minute');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('WO-77: stops after a minute')).toBeVisible();
  await lookGood(page);
  const saved = page.getByRole('heading', { name: 'Saved: pass' });
  const evaluate = await measureTheRest(page);
  await evaluate.click();
  await page.getByLabel('Sticker fitted').click();
  await expect(page.getByLabel('Sticker fitted')).toBeChecked();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(saved).toBeVisible();
  await page.getByRole('link', { name: 'Paper', exact: true }).click();
  const paper = page.frameLocator('iframe[title="The paper"]');
  await expect(paper.getByRole('heading', { name: 'Test protocol of a medical device' })).toBeVisible();
  for (const said of ['WO-77', 'stops after a minute', 'fitted', /No safety or functional deficiency, confirmed by Maud Tarrant/])
    await expect(paper.getByText(said).first()).toBeVisible();
  await expectNoSeriousFindings(page);
});

test('a client finds an item’s last check and the register on paper by one scan and one press', async ({ page }) => {
  await signIn(page, /Wilf Sandering/);
  await page.goto('/');
  await expect(page.getByRole('table', { name: 'Items' })).toBeVisible();
  await scan(page, 'SVH-1003');
  await page.getByRole('link', { name: 'Last check on paper, for an inspector' }).click();
  const paper = page.frameLocator('iframe[title="The paper"]');
  await expect(paper.getByRole('heading', { name: 'Last check', exact: true })).toBeVisible();
  await expect(paper.getByText('SVH-1003')).toBeVisible();
  await expect(paper.getByText(/^record \d+/)).toBeVisible();
  await expectNoSeriousFindings(page);

  await page.getByRole('link', { name: 'Papers', exact: true }).click();
  await page.getByRole('link', { name: 'Read: Register' }).click();
  await expect(paper.getByRole('heading', { name: 'Register' })).toBeVisible();
  await expect(paper.getByText('SVH-1003')).toBeVisible();
  await page.getByRole('button', { name: 'Make the PDF' }).click();
  const kept = page.getByRole('article', { name: 'Register: Sorrel Valley Cottage Hospital' }).first();
  const [download] = await Promise.all([page.waitForEvent('download'), kept.getByRole('link', { name: /^PDF/ }).click()]);
  expect(download.suggestedFilename()).toMatch(/^Register.*\.pdf$/);
});

test('a round’s packing list is read and kept', async ({ page }) => {
  await begin(page, /Maud Tarrant/);
  const { roundId } = (await (await page.request.get('/api/v1/hire?client=MTH')).json()) as { roundId: string };
  await page.goto(`/rounds/${roundId}`);
  await page.getByRole('link', { name: 'Read: Packing list' }).click();
  const paper = page.frameLocator('iframe[title="The paper"]');
  await expect(paper.getByRole('heading', { name: 'Packing list' })).toBeVisible();
  await expect(paper.getByText('Instrument: earth continuity')).toBeVisible();
  await page.getByRole('button', { name: 'Make the PDF' }).click();
  await expect(page.getByRole('article', { name: /^Packing list/ }).first()).toContainText('for the house alone');
});
