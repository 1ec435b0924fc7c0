import { expect, type Page, test } from './house';
import {
  aKettle,
  begin,
  expectNoSeriousFindings,
  expectSoundAtEverySize,
  lookGood,
  newTag,
  scan,
  signIn,
  signOut,
  tablet,
  typeReading,
} from './steps';

/** A client, a site and a planned round of a lead's own with three things in it, open; made by the server's own doors. */
async function openRound(page: Page) {
  const code = `V${newTag().replaceAll('-', '').slice(-7)}`.toUpperCase();
  const day = new Date(Date.now() + 5 * 86_400_000).toISOString().slice(0, 10);
  const post = async (path: string, data: unknown) => {
    const answer = await page.request.post(`/api/v1${path}`, { data });
    expect(answer.ok(), await answer.text()).toBe(true);
    return answer.status() === 204 ? {} : await answer.json();
  };
  const named = (name: string, isPlanned: boolean) => ({
    clientCode: code,
    clientName: `Heron Works ${code}`,
    site: 'Boat shed',
    name,
    standardId: 'uk-cop-5',
    endsOn: day,
    isPlanned,
  });
  const walkIn = await post('/rounds', named(`Walk in ${code}`, false));
  const tags: string[] = [];
  for (const room of ['Slip', 'Slip', 'Loft']) {
    const tag = newTag();
    tags.push(tag);
    await post('/register', {
      roundId: walkIn.id,
      tag,
      ...aKettle,
      room,
    });
  }
  const round = await post('/rounds', named(`Spring ${code}`, true));
  await post(`/rounds/${round.id}/items`, { by: 'everything' });
  await post(`/rounds/${round.id}/state`, { to: 'open' });
  return { id: round.id as string, code, name: `Spring ${code}`, tags };
}

async function notTested(page: Page, tag: string) {
  await scan(page, tag);
  await expect(page.getByRole('heading', { name: 'Kettle' })).toBeVisible();
  await page.getByRole('button', { name: 'Not tested', exact: true }).click();
  await page.getByRole('button', { name: 'In use' }).click();
  await page.getByRole('button', { name: 'Save as not tested' }).click();
  await expect(page.getByRole('heading', { name: /^Saved: not tested/ })).toBeVisible();
}

test('a lead reviews a round, takes a record back, looks at a failure, signs, and the report follows, on a tablet', async ({ page }) => {
  await page.setViewportSize(tablet);
  await begin(page, /Maud Tarrant/);
  const round = await openRound(page);
  await page.goto(`/rounds/${round.id}`);
  await expect(page.getByRole('heading', { name: round.name })).toBeVisible();

  // One fails; one is not tested; one is not tested by mistake.
  await page.goto('/');
  await page.getByRole('button', { name: new RegExp(round.name) }).click();
  await scan(page, round.tags[0]!);
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.9', '0.9 Ω');
  await page.getByRole('button', { name: 'Save the fail' }).click();
  await expect(page.getByRole('heading', { name: 'Saved: fail' })).toBeVisible();
  await notTested(page, round.tags[1]!);
  await notTested(page, round.tags[2]!);

  await page.goto(`/rounds/${round.id}`);
  await page.getByRole('button', { name: 'Walked: to review' }).click();
  await page.getByRole('link', { name: 'Review and sign' }).click();
  const sign = page.getByRole('button', { name: 'Sign and close the round' });
  await expect(page.getByText('One record has to be looked at first.')).toBeVisible();
  await expect(sign).toBeDisabled();
  await expectSoundAtEverySize(page);

  // The mistake is taken back; its item is to do again, so the round goes back to open.
  const mistaken = page.getByRole('article', { name: `${round.tags[2]} Kettle` });
  await mistaken.getByRole('button', { name: 'Take it back' }).click();
  const dialog = page.getByRole('dialog', { name: /Take back/ });
  await expect(dialog.getByRole('button', { name: 'Take it back' })).toBeDisabled();
  await dialog.getByLabel('Why').fill('it was the other kettle');
  await expectSoundAtEverySize(page);
  await dialog.getByRole('button', { name: 'Take it back' }).click();
  await expect(dialog.getByRole('status')).toContainText('counts as never inspected');
  await dialog.getByRole('button', { name: 'Done' }).click();
  await expect(mistaken).toContainText('it was the other kettle');
  await expect(page.getByText(/^One item is neither done nor not tested/)).toBeVisible();
  await page.getByRole('link', { name: round.name }).click();
  await page.getByRole('button', { name: 'Back to open' }).click();
  await expect(page.getByRole('button', { name: 'Walked: to review' })).toBeVisible();
  await page.goto('/');
  await page.getByRole('button', { name: new RegExp(round.name) }).click();
  await notTested(page, round.tags[2]!);
  await page.goto(`/rounds/${round.id}`);
  await page.getByRole('button', { name: 'Walked: to review' }).click();
  await page.getByRole('link', { name: 'Review and sign' }).click();

  const failed = page.getByRole('region', { name: 'To look at before signing' }).getByRole('article');
  await expect(failed).toHaveCount(1);
  await failed.getByLabel('A word on it, if there is one').fill('plug cut in my presence');
  await failed.getByRole('button', { name: 'Looked at' }).click();
  await expect(page.getByRole('region', { name: 'Looked at' })).toContainText('plug cut in my presence');
  await page.getByLabel('A word under the round').fill('as agreed with the yard');
  await sign.click();
  await expect(page.getByRole('heading', { name: 'Signed' })).toBeVisible();
  await expectSoundAtEverySize(page);

  // The report: read as a page, then made, kept and taken along.
  await page.getByRole('link', { name: 'Read: Report' }).click();
  const paper = page.frameLocator('iframe[title="The paper"]');
  await expect(paper.getByRole('heading', { name: 'Report of a round' })).toBeVisible();
  await expect(paper.getByText(/Do not use/).first()).toBeVisible();
  await expect(paper.getByText(/as agreed with the yard/)).toBeVisible();
  await expect(paper.getByText(/it was the other kettle/)).toBeVisible();
  await page.getByRole('button', { name: 'Make the PDF' }).click();
  const kept = page.getByRole('article', { name: `Report: ${round.name}` });
  const [download] = await Promise.all([page.waitForEvent('download'), kept.getByRole('link', { name: /^PDF/ }).click()]);
  expect(download.suggestedFilename()).toContain('Report');
  await expectSoundAtEverySize(page);
});

test('a failure found later is taken back on the item’s page, and every paper made before says so', async ({ page }) => {
  await begin(page, /Maud Tarrant/);
  const round = await openRound(page);
  await page.goto('/');
  await page.getByRole('button', { name: new RegExp(round.name) }).click();
  await notTested(page, round.tags[0]!);
  await page.goto(`/rounds/${round.id}`);
  await page.getByRole('button', { name: 'PDF: Not tested' }).click();
  const kept = page.getByRole('article', { name: `Not tested: ${round.name}` });
  await expect(kept.getByRole('link', { name: /^PDF/ })).toBeVisible();
  await page.goto('/');
  await page.getByRole('button', { name: new RegExp(round.name) }).click();
  await scan(page, round.tags[0]!);
  await expect(page.getByRole('heading', { name: 'Kettle' })).toBeVisible();
  await page.goto(`/rounds/${round.id}/review`);
  await page.getByRole('link', { name: 'the item' }).first().click();
  // The review has buttons of the same name and stands until the item's page is there.
  await expect(page).toHaveURL(/\/register\//);
  await expect(page.getByRole('heading', { level: 1, name: /Kettle/ })).toBeVisible();
  await page.getByRole('button', { name: 'Take it back' }).first().click();
  const dialog = page.getByRole('dialog', { name: /Take back/ });
  await dialog.getByLabel('Why').fill('it stood in the loft');
  await dialog.getByRole('button', { name: 'Take it back' }).click();
  await dialog.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByText('taken back', { exact: true }).first()).toBeVisible();
  await page.goto(`/rounds/${round.id}`);
  await expect(kept).toContainText(/Record \d+ was corrected since/);
});

test('a technician reads the review and signs nothing', async ({ page }) => {
  await begin(page, /Maud Tarrant/);
  const round = await openRound(page);
  await signOut(page);
  await begin(page);
  await page.goto(`/rounds/${round.id}/review`);
  await expect(page.getByText('It is open: it is signed once it is walked.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Sign and close the round' })).toHaveCount(0);
  const refused = await page.request.post(`/api/v1/rounds/${round.id}/review/signature`, { data: { records: 0, lastNumber: 0 } });
  expect(refused.status()).toBe(403);
  await page.goto('/rounds/00000000-0000-0000-0000-000000000009/review');
  await expect(page.getByText(/There is no such round/)).toBeVisible();
});

test('a client finds the report of a signed round, and none that was made before', async ({ page }) => {
  await signIn(page, /Wilf Sandering/);
  await page.goto('/');
  await page.getByRole('link', { name: 'Papers', exact: true }).click();
  const report = page.getByRole('article', { name: /^Report: Main building/ });
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    report.getByRole('link', { name: /^PDF/ }).click(),
  ]);
  expect(download.suggestedFilename()).toMatch(/^Report.*\.pdf$/);
  await expect(page.getByText('for the house alone')).toHaveCount(0);
  await expect(page.getByRole('link', { name: 'Labels' })).toHaveCount(0);
  await expectNoSeriousFindings(page);
});
