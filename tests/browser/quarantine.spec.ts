import { expect, type Page, test } from './house';
import { begin, expectSoundAtEverySize, lookGood, newTag, register, row, scan, tablet, typeReading } from './steps';

const board = (page: Page, pile: string, tag: string) =>
  page.getByRole('region', { name: pile, exact: true }).getByRole('article', { name: new RegExp(`^${tag} `) });

/** Failed by a loose earth; it lies on the bench no more. */
async function failed(page: Page) {
  const tag = newTag();
  await begin(page);
  await register(page, tag);
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.7', '0.7 Ω');
  await page.getByRole('button', { name: 'Save the fail' }).click();
  await expect(page.getByRole('heading', { name: 'Saved: fail' })).toBeVisible();
  return tag;
}

async function makeSafe(page: Page) {
  const asked = page.getByRole('dialog', { name: /Red tag on/ });
  await expect(asked.getByRole('button', { name: 'It is safe' })).toBeDisabled();
  await asked.getByRole('button', { name: 'Plug cut off' }).click();
  await asked.getByRole('button', { name: 'the client’s contact on site' }).click();
  await asked.getByRole('button', { name: 'It is safe' }).click();
  await expect(asked).toBeHidden();
}

test('from a fail to a red tag, a repair, a test and back into service, on a tablet', async ({ page }) => {
  await page.setViewportSize(tablet);
  const tag = await failed(page);
  const hold = page.getByRole('region', { name: 'Out of use' });
  await expect(hold).toContainText('red tag on, and nobody can plug it in?');
  await hold.getByRole('button', { name: 'Make it safe' }).click();
  await expectSoundAtEverySize(page);
  await makeSafe(page);
  await expect(hold).toContainText('plug cut off; told the client’s contact on site');

  await page.getByRole('link', { name: 'Quarantine', exact: true }).click();
  await expect(board(page, 'Held', tag)).toContainText('Earth continuity');
  await expectSoundAtEverySize(page);
  await board(page, 'Held', tag).getByRole('button', { name: 'To repair' }).click();
  await page.getByRole('button', { name: 'our own workbench' }).click();
  await page.getByRole('button', { name: 'It is on its way' }).click();
  await board(page, 'In repair', tag).getByRole('button', { name: 'Repaired' }).click();
  const asked = page.getByRole('dialog', { name: /What was mended/ });
  await asked.getByLabel('What was found').fill('earth core loose in the plug');
  await asked.getByLabel('What was done').fill('plug rewired');
  await asked.getByLabel('Repaired by').fill('Rufus Oakhanger');
  await asked.getByRole('button', { name: 'It is repaired' }).click();

  await board(page, 'Repaired, to be tested', tag).getByRole('link', { name: 'Test it' }).click();
  await expect(page.getByText('Repaired by Rufus Oakhanger: found earth core loose in the plug; plug rewired')).toBeVisible();
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.05', '0.05 Ω');
  await typeReading(page, 'Insulation', '200', '200 MΩ');
  await typeReading(page, 'Protective conductor current', '0.2', '0.2 mA');
  await row(page, 'Functional check').getByRole('button', { name: 'Good', exact: true }).click();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('heading', { name: /^Saved: pass/ })).toBeVisible();
  await page.getByRole('link', { name: 'Paper', exact: true }).click();
  const paper = page.frameLocator('iframe');
  await expect(paper.getByText(/Since then repaired by Rufus Oakhanger/)).toBeVisible();
  await page.getByRole('link', { name: 'Quarantine', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Quarantine', level: 1 })).toBeVisible();
  await expect(page.getByRole('article').first()).toBeVisible();
  await expect(page.getByRole('article', { name: new RegExp(`^${tag} `) })).toHaveCount(0);
});

test('what is scrapped does not come back, and what goes back untested stays out of use', async ({ page }) => {
  const tag = await failed(page);
  await page.getByRole('button', { name: 'Make it safe' }).click();
  await makeSafe(page);
  const hold = page.getByRole('region', { name: 'Out of use' });
  await hold.getByRole('button', { name: 'Return untested' }).click();
  await page.getByLabel('To whom').fill('the cook');
  await page.getByRole('button', { name: 'Return it with its warning' }).click();
  await expect(hold).toContainText('It must not be used, lent or sold');
  await page.getByRole('link', { name: 'Its whole story' }).click();
  // The bench shows the same region until the item's page is there.
  await expect(page.getByText('How its values move')).toBeVisible();
  await page.getByRole('region', { name: 'Out of use' }).getByRole('button', { name: 'Scrap' }).click();
  await page.getByRole('button', { name: 'Flex cut off at the case' }).click();
  await page.getByLabel('Who saw it, or where it went').fill('seen by the cook');
  await page.getByRole('button', { name: 'Scrap it' }).click();
  await expect(page.getByText('Scrapped', { exact: false }).first()).toBeVisible();
  await scan(page, tag);
  await expect(page.getByText(/is scrapped. It is not inspected again/)).toBeVisible();
});
