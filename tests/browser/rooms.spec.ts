import { expect, test } from './house';
import { begin, expectNoSeriousFindings, expectSoundAtEverySize, newTag, phone, scan, signIn } from './steps';

test('sign-in, Today and the Register stand up to axe in light and dark', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByText('Step in as')).toBeVisible();
  await expectNoSeriousFindings(page);
  await begin(page);
  await expect(page.locator('#scan')).toBeFocused();
  await expectNoSeriousFindings(page);
  await page.getByRole('button', { name: 'Use dark colours' }).click();
  await expectNoSeriousFindings(page);
  await page.getByRole('link', { name: 'Register' }).click();
  await expect(page.getByRole('table', { name: 'Items' })).toBeVisible();
  await expectNoSeriousFindings(page);
});

test('the Register filters by client, state and due date, and keeps the view in its address', async ({ page }) => {
  await begin(page);
  await page.getByRole('link', { name: 'Register' }).click();
  await page.getByLabel('Client').click();
  await page.getByRole('option', { name: 'Juniper Basin Dialysis' }).click();
  await expect(page.getByRole('status')).toHaveText(/^\d+ items$/);
  const all = await page.getByRole('status').innerText();
  await page.getByLabel('Search tag').fill('pump');
  await expect(page.getByRole('status')).not.toHaveText(all);
  await expect(page.getByRole('cell', { name: /JBD-/ }).first()).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Search tag')).toHaveValue('pump');
  await page.goto('/register?state=quarantined');
  await expect(page.getByRole('cell', { name: 'quarantined' }).first()).toBeVisible();
});

test('a tag that cannot be one is refused in words, and a phone in the hand is enough', async ({ page }) => {
  await begin(page);
  await page.locator('#scan').fill('x'.repeat(300));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('300 characters are too many');
  await page.locator('#scan').fill('');
  await page.setViewportSize({ width: 390, height: 844 });
  await scan(page, 'LMR-0207');
  await expect(page.getByRole('heading', { name: 'Soup kettle' })).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test('every sort of item is registered with a phone without moving the page sideways', async ({ page }) => {
  await page.setViewportSize(phone);
  await begin(page);
  await scan(page, newTag());
  const sorts = page.getByRole('button', { name: /^(Appliance|Charger or supply unit|Combined|Lead or|Portable RCD|Three-phase|Hard-wired|Medical)/ });
  await expect(sorts.first()).toBeVisible();
  const count = await sorts.count();
  expect(count).toBeGreaterThan(5);
  for (let at = 0; at < count; at++) {
    const name = await sorts.nth(at).innerText();
    await sorts.nth(at).click();
    const unplugs = page.getByLabel('Its mains lead unplugs at the device');
    if (await unplugs.isVisible()) {
      await unplugs.check();
      await expect(page.getByLabel('Coupler')).toBeVisible();
    }
    if (name === 'Medical device') await page.getByRole('button', { name: 'Add an applied part' }).click();
    expect(await page.evaluate(() => document.documentElement.scrollWidth), name).toBeLessThanOrEqual(390);
  }
  await expectNoSeriousFindings(page);
});

test('a lead reads a standard, is refused a loosening, tightens a limit, and the signs are found by a word', async ({ page }) => {
  await signIn(page, /Maud Tarrant/);
  await page.goto('/');
  await page.getByRole('link', { name: 'Standards' }).click();
  await page.getByRole('link', { name: /AS\/NZS/ }).click();
  await expect(page.getByRole('note')).toContainText('your own copy');
  await page.getByRole('button', { name: 'Tighten Leakage, class II' }).click();
  const form = page.getByRole('form', { name: 'House limit of Leakage, class II' });
  await form.getByRole('textbox', { name: 'House limit' }).fill('2');
  await form.getByRole('textbox', { name: 'Why the house is stricter' }).fill('divers are wet');
  await form.getByRole('button', { name: 'Set the house limit' }).click();
  await expect(form.getByRole('alert')).toContainText('may only tighten');
  await form.getByRole('textbox', { name: 'House limit' }).fill('0.5');
  await form.getByRole('button', { name: 'Set the house limit' }).click();
  await expect(page.getByText('house: divers are wet')).toBeVisible();
  await expect(page.getByRole('region', { name: 'How the house limits came to be' })).toContainText('Maud Tarrant');
  await expectNoSeriousFindings(page);

  await page.getByRole('link', { name: 'Signs' }).click();
  await page.getByLabel('What does the display say?').fill('L-N short');
  await expect(page.getByRole('article')).toHaveCount(1);
  await expect(page.getByRole('article')).toContainText('Whisker in the plug');
  await expectNoSeriousFindings(page);
});

test('what all standards share is read like a standard, and only what is a matter of strictness is tightened', async ({ page }) => {
  await signIn(page, /Maud Tarrant/);
  await page.goto('/');
  await page.getByRole('link', { name: 'Standards' }).click();
  await page.getByRole('navigation', { name: 'Standards' }).getByRole('link', { name: /Common rules/ }).click();
  const mains = page.getByRole('region', { name: 'Leakage' });
  await expect(mains).toContainText('Lowest mains voltage that is scaled, of nominal');
  await expect(page.getByRole('button', { name: /Relative tolerance/ })).toHaveCount(0);
  await mains.getByRole('button', { name: /Lowest mains voltage/ }).click();
  const form = page.getByRole('form', { name: /House limit of Lowest mains/ });
  await form.getByRole('textbox', { name: 'House limit' }).fill('80');
  await form.getByRole('textbox', { name: 'Why the house is stricter' }).fill('brown-outs mislead');
  await form.getByRole('button', { name: 'Set the house limit' }).click();
  await expect(form.getByRole('alert')).toContainText('80 % would loosen 85 %');
  await form.getByRole('textbox', { name: 'House limit' }).fill('86');
  await form.getByRole('button', { name: 'Set the house limit' }).click();
  await expect(page.getByText('house: brown-outs mislead')).toBeVisible();
  await expectNoSeriousFindings(page);
  // Lifted again, since the other journeys share this house.
  await mains.getByRole('button', { name: /Lowest mains voltage/ }).click();
  await form.getByRole('button', { name: 'Lift it' }).click();
  await expect(page.getByText('house: brown-outs mislead')).toHaveCount(0);
  await page.getByRole('navigation', { name: 'Standards' }).getByRole('link', { name: /Intervals/ }).click();
  await expect(page.getByRole('region', { name: 'Kitchen, cleaning, laundry' })).toContainText('3 months / 12 months');
});

test('a lead adds a point to the look, drops one of some items with a reason, and takes both back', async ({ page }) => {
  await begin(page, /Maud Tarrant/);
  await page.getByRole('link', { name: 'Standards' }).click();
  await page.getByRole('link', { name: /What is looked at/ }).click();
  await expect(page.getByRole('heading', { name: 'What is looked at' })).toBeVisible();
  const point = `Earth tag legible ${newTag()}`;
  await page.getByRole('button', { name: 'Add a point' }).click();
  const adding = page.getByRole('form', { name: 'A point to add' });
  await adding.getByLabel('Where', { exact: true }).fill('Marks');
  await adding.getByLabel('What good looks like').fill(point);
  await adding.getByLabel(/Offered where it is bad/).fill('Tag gone');
  // Of multiway adaptors alone: no other journey looks at one.
  await adding.getByRole('button', { name: 'multiway adaptor' }).click();
  await adding.getByLabel('Why this house asks it').fill('hire counter');
  await expectNoSeriousFindings(page);
  await adding.getByRole('button', { name: 'Add the point' }).click();
  const story = page.getByRole('region', { name: 'How the list came to be' });
  await expect(story).toContainText(point);

  await page.getByRole('button', { name: /^Drop Outlets work/ }).click();
  const dropping = page.getByRole('form', { name: 'A point to drop' });
  await expect(dropping.getByRole('button', { name: 'Drop the point' })).toBeDisabled();
  await dropping.getByRole('button', { name: 'multiway adaptor' }).click();
  await dropping.getByLabel('Why it is not looked at').fill('potted in one piece');
  await dropping.getByRole('button', { name: 'Drop the point' }).click();
  await expect(page.getByText(/Not asked of: multiway adaptor\. potted in one piece/)).toBeVisible();
  await expectSoundAtEverySize(page);

  for (const [button, gone] of [
    [page.getByRole('button', { name: 'Ask it again' }), page.getByText('Not asked of: multiway adaptor')],
    [page.getByRole('button', { name: `Take back ${point}` }), page.getByRole('button', { name: `Take back ${point}` })],
  ] as const) {
    await button.click();
    await page.getByLabel('Why, in words').fill('only tried');
    await page.getByRole('button', { name: 'Take it back' }).click();
    await expect(gone).toBeHidden();
  }
  await expect(story).toContainText('only tried');
});
