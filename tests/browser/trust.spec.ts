import { expect, type Page, test } from './house';
import { createHmac } from 'node:crypto';
import { begin, desk, expectNoSeriousFindings, expectSoundAtEverySize, newTag, phone, register, scan, tablet } from './steps';

const enter = async (page: Page, who: RegExp) => {
  await page.goto('/');
  await page.getByRole('button', { name: who }).click();
  await expect(page.getByRole('button', { name: 'Sign out' })).toBeVisible();
};

/** What the phone shows: RFC 6238, half minutes, six digits. */
function phoneShows(secret: string, at = Date.now()) {
  const bits = [...secret.replace(/\s/g, '')]
    .map((letter) => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(letter).toString(2).padStart(5, '0'))
    .join('');
  const key = Buffer.from(bits.match(/.{8}/g)!.map((byte) => parseInt(byte, 2)));
  const count = Buffer.alloc(8);
  count.writeBigUInt64BE(BigInt(Math.floor(at / 30_000)));
  const hash = createHmac('sha1', key).update(count).digest();
  const from = hash.at(-1)! & 0xf;
  return String((hash.readUInt32BE(from) & 0x7fffffff) % 1_000_000).padStart(6, '0');
}

test('a lead invites, the newcomer sets a password and a second step, and is out with the lead’s press', async ({ page, browser }) => {
  const userName = newTag().toLowerCase();
  await enter(page, /Maud Tarrant/);
  await page.getByRole('link', { name: 'People' }).click();
  await page.getByRole('button', { name: 'Invite somebody' }).click();
  await page.getByLabel('Full name, as on papers').fill(`Nan Whinfell ${userName}`);
  await page.getByLabel('Initials').fill('NW');
  await page.getByLabel('Name to sign in by').fill(userName);
  await page.getByRole('button', { name: 'Invite', exact: true }).click();
  const link = await page.getByRole('region', { name: 'A link was made' }).locator('code').innerText();

  const there = await (await browser.newContext()).newPage();
  await there.goto(link);
  await there.getByLabel('Password').fill('Password1234');
  await there.getByLabel('The same again').fill('Password1234');
  await there.getByRole('button', { name: 'Set it and go in' }).click();
  await expect(there.getByRole('alert')).toContainText('lists that guessers begin with');
  await there.getByLabel('Password').fill('reed on the far bank 9');
  await there.getByLabel('The same again').fill('reed on the far bank 9');
  await there.getByRole('button', { name: 'Set it and go in' }).click();
  await there.getByRole('link', { name: /Nan Whinfell/ }).click();
  await there.getByRole('button', { name: 'Set them up' }).click();
  const secret = await there.locator('strong', { hasText: /^[A-Z2-7 ]{20,}$/ }).innerText();
  await there.getByLabel('The code it shows now').fill(phoneShows(secret));
  await there.getByRole('button', { name: 'Turn them on' }).click();
  const spare = (await there.locator('pre').innerText()).split('\n')[0]!;
  await there.getByRole('button', { name: 'They are written down' }).click();
  await there.getByRole('button', { name: 'Sign out' }).click();

  await there.getByLabel(/^Name/).fill(userName);
  await there.getByLabel('Password').fill('reed on the far bank 9');
  await there.getByRole('button', { name: 'Sign in', exact: true }).click();
  await there.getByLabel('Code from your phone').fill(spare);
  await there.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(there.getByRole('link', { name: /Nan Whinfell/ })).toBeVisible();
  // The link is used up.
  const again = await (await browser.newContext()).newPage();
  await again.goto(link);
  await expect(again.getByRole('alert')).toContainText('This link is over');

  await page.getByRole('button', { name: 'I have it' }).click();
  await page.getByRole('button', { name: `Change Nan Whinfell ${userName}` }).click();
  await page.getByRole('button', { name: 'Close the account' }).click();
  await expect(page.getByRole('button', { name: 'Open the account again' })).toBeVisible();
  await there.getByRole('link', { name: 'Register' }).click();
  await expect(there.getByText('The session is over')).toBeVisible();
});

test('a client’s viewer finds their own register and papers, and no way to change anything', async ({ page }) => {
  await enter(page, /Wilf Sandering/);
  await expect(page.getByRole('table', { name: 'Items' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Today', exact: true })).toHaveCount(0);
  await expect(page.getByRole('link', { name: 'People', exact: true })).toHaveCount(0);
  await expect(page.getByRole('cell', { name: /LMR-/ })).toHaveCount(0);
  await scan(page, 'SVH-1003');
  await expect(page.getByRole('heading', { name: 'Inspections' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Correct the facts' })).toHaveCount(0);
  await expect(page.getByRole('link', { name: /bench/i })).toHaveCount(0);
  await scan(page, 'LMR-0201');
  await expect(page.getByRole('alert').or(page.getByRole('status')).first()).toContainText('nothing that you may read');
});

test('a lead verifies the books, follows the trail to what was just done, and downloads a book', async ({ page }) => {
  const tag = newTag();
  await begin(page, /Maud Tarrant/);
  await register(page, tag);
  await page.getByRole('link', { name: 'Books' }).click();
  await page.getByRole('button', { name: 'Verify now' }).click();
  await expect(page.getByRole('heading', { name: 'The books hold' })).toBeVisible();
  const trail = page.getByRole('region', { name: 'The trail' });
  await trail.getByLabel('Person, deed or subject').fill(tag);
  await expect(trail.getByRole('row')).toHaveCount(1);
  await expect(trail.getByRole('row')).toContainText('item registered');
  const away = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download the book' }).first().click();
  expect((await away).suggestedFilename()).toMatch(/^book-.*\.jsonl$/);
});

test('People, Books and one’s own account stand up to axe on desk, tablet and phone', async ({ page }) => {
  await enter(page, /Maud Tarrant/);
  for (const [room, heading] of [
    ['/people', 'People'],
    ['/books', /books/i],
    ['/me', 'Maud Tarrant'],
  ] as const) {
    await page.goto(room);
    await expect(page.getByRole('heading', { level: 1, name: heading })).toBeVisible();
    await expectSoundAtEverySize(page);
  }
});

test('somebody keeps a passkey on their device, comes in by it, and not after it was removed', async ({ page, browser, baseURL }) => {
  const userName = newTag().toLowerCase();
  await enter(page, /Maud Tarrant/);
  await page.getByRole('link', { name: 'People' }).click();
  await page.getByRole('button', { name: 'Invite somebody' }).click();
  await page.getByLabel('Full name, as on papers').fill(`Nan Whinfell ${userName}`);
  await page.getByLabel('Initials').fill('NW');
  await page.getByLabel('Name to sign in by').fill(userName);
  await page.getByRole('button', { name: 'Invite', exact: true }).click();
  const link = await page.getByRole('region', { name: 'A link was made' }).locator('code').innerText();

  // Browsers keep passkeys for names, not for numbers of a network.
  const named = (address: string) => address.replace('127.0.0.1', 'localhost');
  const there = await (await browser.newContext({ baseURL: named(baseURL!) })).newPage();
  const device = await there.context().newCDPSession(there);
  await device.send('WebAuthn.enable');
  await device.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
    },
  });
  await there.goto(named(link));
  await there.getByLabel('Password').fill('reed on the far bank 9');
  await there.getByLabel('The same again').fill('reed on the far bank 9');
  await there.getByRole('button', { name: 'Set it and go in' }).click();
  await there.getByRole('link', { name: /Nan Whinfell/ }).click();
  const passkeys = there.getByRole('region', { name: 'Passkeys' });
  await passkeys.getByLabel('This device').fill('blue tablet');
  await passkeys.getByLabel('Your password').fill('not this one');
  await passkeys.getByRole('button', { name: 'Add a passkey' }).click();
  await expect(passkeys.getByRole('alert')).toContainText('This is not your password');
  await passkeys.getByLabel('Your password').fill('reed on the far bank 9');
  await passkeys.getByRole('button', { name: 'Add a passkey' }).click();
  await expect(passkeys.getByText('blue tablet')).toBeVisible();
  await expectNoSeriousFindings(there);
  await there.getByRole('button', { name: 'Sign out' }).click();

  await there.getByRole('button', { name: 'Sign in with a passkey' }).click();
  await there.getByRole('link', { name: /Nan Whinfell/ }).click();
  await passkeys.getByRole('button', { name: 'Remove blue tablet' }).click();
  await expect(passkeys.getByText('blue tablet')).toHaveCount(0);
  await there.getByRole('button', { name: 'Sign out' }).click();
  await there.getByRole('button', { name: 'Sign in with a passkey' }).click();
  await expect(there.getByRole('alert')).toContainText('opens no account here');
});
