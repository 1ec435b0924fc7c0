import { expect, test } from './house';
import { begin, expectNoSeriousFindings, expectSoundAtEverySize, lookGood, newTag, register, typeReading } from './steps';

/** One dot, a JPEG's least. */
const photo = Buffer.from(
  '/9j/4AAQSkZJRgABAQEAYABgAAD/2wBDAP//////////////////////////////////////////////////////////////////////////////////////2wBDAf//////////////////////////////////////////////////////////////////////////////////////wAARCAABAAEDASIAAhEBAxEB/8QAFAABAAAAAAAAAAAAAAAAAAAAA//EABQQAQAAAAAAAAAAAAAAAAAAAAD/xAAUAQEAAAAAAAAAAAAAAAAAAAAA/8QAFBEBAAAAAAAAAAAAAAAAAAAAAP/aAAwDAQACEQMRAD8AP//Z',
  'base64',
);

test('damage is reported behind the code without an account, takes the item out of use, and stands on Today', async ({ page, browser }) => {
  await begin(page, /Maud Tarrant/);
  const tag = newTag();
  await register(page, tag);
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.05', '0.05 Ω');
  await typeReading(page, 'Insulation', '>200M', '>200 MΩ');
  await typeReading(page, 'Protective conductor current', '0.2m', '0.2 mA');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Save' }).click();
  await page.getByRole('link', { name: 'Its whole story' }).click();
  await page.getByRole('button', { name: 'Make a link' }).click();
  const link = page.getByRole('link', { name: /^\/u\// });
  const path = await link.getAttribute('href');
  await expect(page.getByRole('img', { name: 'QR code of the public page' })).toBeVisible();
  await expectNoSeriousFindings(page);

  const phone = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const user = await phone.newPage();
  await user.goto(new URL(path!, page.url()).href);
  await expect(user.getByText('In service')).toBeVisible();
  await expect(user.getByText(/Last checked .*: pass/)).toBeVisible();
  await user.getByRole('button', { name: /^Dangerous/ }).click();
  await expect(user.getByRole('button', { name: 'Send' })).toBeDisabled();
  await user.getByLabel('What is wrong').fill('<b>It gave me a shock</b>');
  await user.getByLabel('Photo of the damage').setInputFiles({ name: 'damage.jpg', mimeType: 'image/jpeg', buffer: photo });
  await expectSoundAtEverySize(user);
  await user.getByRole('button', { name: 'Send' }).click();
  await expect(user.getByText('It is out of use from now on')).toBeVisible();
  await expect(user.getByText('Out of use: do not use it')).toBeVisible();
  await phone.close();

  await page.goto('/');
  const told = page.getByRole('region', { name: 'Reported by users' });
  await expect(told.getByText('<b>It gave me a shock</b>')).toBeVisible();
  await expect(told.getByText('It was taken out of use.').first()).toBeVisible();
  await expectNoSeriousFindings(page);
  const mine = told.locator('div', { has: page.getByRole('link', { name: new RegExp(tag) }) }).first();
  await mine.getByRole('button', { name: 'Seen' }).first().click();
  await page.getByLabel('What becomes of it').fill('to repair');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(told.getByRole('link', { name: new RegExp(tag) })).toHaveCount(0);
});
