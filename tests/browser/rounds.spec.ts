import { expect, type Page, test } from '@playwright/test';
import { begin, expectNoSeriousFindings, newTag, scan, sizes } from './steps';

/** A client and site of the test's own, with three things in two rooms. */
async function ownSite(page: Page) {
  const code = `R${newTag().replaceAll('-', '').slice(-7)}`;
  await page.getByRole('button', { name: 'Open a round' }).first().click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Client code').fill(code);
  await dialog.getByLabel('Client, new to this house').fill(`Osprey Works ${code}`);
  await dialog.getByRole('combobox', { name: 'Site' }).fill('Yard');
  await dialog.getByLabel('Name of the round').fill(`Walk in ${code}`);
  await dialog.getByLabel('Appliances are judged by').click();
  await page.getByRole('option', { name: /UK code/ }).click();
  await dialog.getByRole('button', { name: 'Open the round' }).click();
  await page.getByRole('button', { name: new RegExp(`Walk in ${code}`) }).click();
  await expect(page.getByRole('heading', { name: 'Yard' })).toBeVisible();
  const tags = [];
  for (const room of ['Hall', 'Hall', 'Bar']) {
    const tag = newTag();
    tags.push(tag);
    await scan(page, tag);
    await page.getByLabel('What people call it').fill('Kettle');
    await page.getByLabel('Seen on plate and build').click();
    await page.getByRole('option', { name: /Earth symbol/ }).first().click();
    await page.getByRole('combobox', { name: 'Room' }).fill(room);
    await page.getByLabel('Watts').fill('2200');
    await page.getByLabel('Fuse, A').fill('13');
    await page.getByRole('button', { name: 'Register and open on the bench' }).click();
    await expect(page.getByRole('heading', { name: 'Kettle' })).toBeVisible();
    await page.getByRole('button', { name: 'Discard' }).click();
    await page.getByRole('dialog').getByRole('button').first().click();
    await page.getByRole('button', { name: 'Discard it' }).click();
    await expect(page.getByRole('heading', { name: 'Yard' })).toBeVisible();
  }
  return { code, tags };
}

async function planned(page: Page, code: string) {
  await page.getByRole('link', { name: 'Rounds' }).click();
  await page.getByRole('button', { name: 'Plan a round' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Client code').fill(code);
  await dialog.getByRole('combobox', { name: 'Site' }).fill('Yard');
  await dialog.getByLabel('Name of the round').fill(`Spring ${code}`);
  await dialog.getByLabel('Appliances are judged by').click();
  await page.getByRole('option', { name: /UK code/ }).click();
  await dialog.getByRole('button', { name: 'Plan it' }).click();
  await expect(page.getByRole('heading', { name: `Spring ${code}` })).toBeVisible();
}

test('a lead plans a round: items, days, order of rooms, what is left out, what is brought; and opens it', async ({ page }) => {
  await begin(page, /Maud Tarrant/);
  const { code, tags } = await ownSite(page);
  await planned(page, code);
  await expect(page.getByRole('button', { name: 'Open the round' })).toBeDisabled();
  await page.getByRole('button', { name: /Never inspected: 3/ }).click();
  await expect(page.getByText('3 items to do')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Packing list' })).toContainText('Spare fuses 13 A');

  // Three times ten minutes do not fit a quarter of an hour, and it is said what would mend it.
  await page.getByLabel('Hours').fill('0,25');
  await page.getByRole('combobox', { name: 'Who', exact: true }).click();
  await page.getByRole('option', { name: 'Ida Fennimore' }).click();
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByRole('note')).toContainText('20 min too much for these days');
  await page.getByRole('button', { name: /Remove Ida Fennimore/ }).click();
  await expect(page.getByText('None yet: without them')).toBeVisible();
  await page.getByLabel('Hours').fill('6');
  await page.getByRole('combobox', { name: 'Who', exact: true }).click();
  await page.getByRole('option', { name: 'Ida Fennimore' }).click();
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByText('30 min of 6 h 00')).toBeVisible();

  // The order of rooms by the keyboard alone.
  const rooms = page.getByRole('button', { name: /^Move / });
  await expect(rooms.first()).toHaveAccessibleName('Move Bar');
  await rooms.first().focus();
  await page.keyboard.press('Space');
  await page.waitForTimeout(300);
  await page.keyboard.press('ArrowDown');
  await page.waitForTimeout(300);
  await page.keyboard.press('Space');
  await expect(rooms.first()).toHaveAccessibleName('Move Hall');
  await page.reload();
  await expect(rooms.first()).toHaveAccessibleName('Move Hall');

  await page.getByRole('button', { name: /^Bar/ }).click();
  await page.getByLabel(`Mark ${tags[2]}`).check();
  await page.getByRole('button', { name: 'Leave out, with who tests it' }).click();
  await page.getByLabel('Why it is left out').fill('under warranty');
  await page.getByLabel('Who tests it').fill('maker’s service');
  await page.getByRole('button', { name: 'Leave out', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Left out, and who does it' })).toContainText('maker’s service');
  for (const { width, height } of sizes) {
    await page.setViewportSize({ width, height });
    await expectNoSeriousFindings(page);
  }
  await page.setViewportSize(sizes[0]);
  await page.getByRole('button', { name: 'Open the round' }).click();
  await expect(page.getByText(/0 of 2 done, 2 left/)).toBeVisible();
  await page.getByRole('button', { name: /^Hall/ }).click();
  await page.getByRole('link', { name: tags[0] }).click();
  await expect(page.getByRole('heading', { name: 'Kettle' })).toBeVisible();
});
