import { expect, type Page, test } from './house';
import { aKettle, begin, expectSoundAtEverySize, lookGood, newTag, phone, scan, typeReading } from './steps';

interface Hired {
  id: string;
  tag: string;
}

const fleet = async (page: Page) =>
  (await (await page.request.get('/api/v1/hire?client=MTH')).json()) as { roundId: string; client: { code: string } };

/** An item of the fleet that nobody has tested yet. */
async function hired(page: Page): Promise<Hired> {
  const tag = newTag();
  const made = await page.request.post('/api/v1/register', {
    data: { ...aKettle, name: 'Hired kettle', place: 'hire', room: 'Tool wall', tag, roundId: (await fleet(page)).roundId },
  });
  expect(made.status()).toBe(201);
  return { id: ((await made.json()) as { itemId: string }).itemId, tag };
}

const inHand = (page: Page, it: Hired) => page.getByRole('region', { name: `In hand: ${it.tag}` });
const done = (page: Page) => page.getByRole('region', { name: 'Done here' });

test('Monday’s pile is worked by scanner alone: scan, verdict, next, on a phone', async ({ page }) => {
  await page.setViewportSize(phone);
  await begin(page);
  const [whole, cut, other] = [await hired(page), await hired(page), await hired(page)];
  await page.goto('/hire?client=MTH');
  await expect(page.getByRole('heading', { name: 'Marram Tool Hire' })).toBeVisible();
  await expect(page.getByText('Scan an item', { exact: true })).toBeVisible();

  await scan(page, 'LOOK-1');
  await expect(page.getByRole('alert')).toContainText('Scan the item first');
  await scan(page, whole.tag);
  await expect(inHand(page, whole)).toContainText('Hired kettle');
  await expectSoundAtEverySize(page);
  // One item at a time: the next one waits for the verdict over this one.
  await scan(page, cut.tag);
  await expect(page.getByRole('alert')).toContainText(`Say first how ${whole.tag} looks. ${cut.tag} was not taken up`);
  await scan(page, 'LOOK-1');
  await expect(done(page)).toContainText('To the bench: never tested');

  // As fast as a scanner is: each waits for the one before it.
  await scan(page, cut.tag);
  await scan(page, 'LOOK-2');
  await scan(page, other.tag);
  await scan(page, 'LOOK-0');
  await expect(done(page)).toContainText('put aside, nothing was kept');
  await expect(done(page)).toContainText('Out of use: flex or lead damaged');
  await expect(done(page)).toContainText('Done here (2)');
  await page.goto(`/register/${cut.id}`);
  await expect(page.getByText('flex or lead damaged').first()).toBeVisible();
  await expect(page.getByRole('region', { name: 'Hire' })).toContainText('Repair');
});

test('it goes out only when it was tested, is laid on no bench while it is out, and says so with the way on', async ({ page }) => {
  await begin(page);
  const it = await hired(page);
  const { roundId } = await fleet(page);
  await page.goto('/hire?client=MTH');
  await page.getByRole('button', { name: 'Going out' }).click();
  await scan(page, it.tag);
  await expect(page.getByRole('alert')).toContainText('Say first who has it');
  await page.getByLabel('Customer or contract').fill('Contract 88, the mill');
  await scan(page, it.tag);
  await expect(done(page)).toContainText('It is not ready: never tested.');

  await page.goto(`/rounds/${roundId}/bench/${it.id}`);
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.05', '0.05 Ω');
  await typeReading(page, 'Insulation', '>500M', '>500 MΩ');
  await typeReading(page, 'Protective conductor current', '0.2', '0.2 mA');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('heading', { name: 'Saved: pass' })).toBeVisible();

  await page.goto('/hire?client=MTH');
  await page.getByRole('button', { name: 'Going out' }).click();
  await page.getByLabel('Customer or contract').fill('Contract 88, the mill');
  await scan(page, it.tag);
  await expect(done(page)).toContainText('Out with Contract 88, the mill');

  // Another item of the same look lies in the hand, or it is back and nobody said so.
  await page.goto(`/rounds/${roundId}/bench/${it.id}`);
  await expect(page.getByRole('alert')).toContainText('By the register it is out, with Contract 88, the mill');
  await page.getByRole('button', { name: 'It is back: I have it in hand' }).click();
  await expect(page.getByRole('heading', { name: 'Hired kettle' })).toBeVisible();
});

test('by a number pad a verdict is a digit and Enter, and what has no words of its own asks for them', async ({ page }) => {
  await begin(page);
  const it = await hired(page);
  await page.goto('/hire?client=MTH');
  await expect(page.getByText('Scan an item', { exact: true })).toBeVisible();
  await page.keyboard.type(it.tag, { delay: 120 });
  await page.keyboard.press('Enter');
  await expect(inHand(page, it)).toBeVisible();
  await page.keyboard.type('7');
  await page.keyboard.press('Enter');
  await page.getByLabel('Something else is wrong').fill('it hums and does not turn');
  await page.keyboard.press('Enter');
  await expect(done(page)).toContainText('Out of use: it hums and does not turn');
});

test('the fleet tells its stages, what is called back, and a lead chooses what each issue asks', async ({ page }) => {
  await begin(page, /Maud Tarrant/);
  await page.goto('/hire?client=MTH');
  await expect(page.getByText(/Call back: with a customer/)).toBeVisible();
  await page.getByRole('button', { name: /Out$/ }).click();
  await expect(page.getByRole('region', { name: 'Out' })).toContainText('with Contract');
  await page.getByRole('button', { name: 'Choose' }).click();
  const dialog = page.getByRole('dialog', { name: 'Before each issue' });
  await expect(dialog.getByRole('button', { name: 'Choose it' })).toBeDisabled();
  await dialog.getByRole('button', { name: 'Leave it' }).click();
  const [card] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Print the card with these codes' }).click(),
  ]);
  expect(card.suggestedFilename()).toBe('card-for-the-pile.pdf');
});
