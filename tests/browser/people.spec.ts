import { expect, test } from './house';
import {
  begin,
  expectNoSeriousFindings,
  expectSoundInBothColours,
  lookGood,
  newTag,
  phone,
  reach,
  register,
  row,
  signOut,
  tablet,
  typeReading,
} from './steps';
import { atPace } from './workshop';

test('the next person on a shared tablet inherits nothing, and the first finds all of it again', async ({ page }) => {
  await begin(page);
  const tag = newTag();
  await register(page, tag);
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.05', '0.05 Ω');
  const sheet = page.url();
  await signOut(page);
  await begin(page, /Rufus Oakhanger/);
  await expect(page.getByText('1 half-done sheet of somebody else')).toBeVisible();
  await expect(page.getByText('Left on the bench')).toHaveCount(0);
  await page.goto(sheet);
  await expect(row(page, 'Look')).toHaveAttribute('aria-current', 'step');
  await signOut(page);
  await begin(page);
  await page.goto(sheet);
  await expect(row(page, 'Earth continuity').getByText('0.05 Ω', { exact: true })).toBeVisible();
});

test('a session that is over shows the sign-in, says so, and goes on where it was', async ({ page, context }) => {
  await begin(page);
  await register(page, newTag());
  await lookGood(page);
  await context.clearCookies();
  await page.getByRole('link', { name: 'Register' }).click();
  await expect(page.getByText('The session is over')).toBeVisible();
  await page.getByRole('button', { name: /Ida Fennimore/ }).click();
  await expect(page.getByRole('table', { name: 'Items' })).toBeVisible();
});

test('one sheet belongs to one tab, and another tab may take it over', async ({ page, context }) => {
  await begin(page);
  await register(page, newTag());
  await lookGood(page);
  const second = await context.newPage();
  await second.goto(page.url());
  await expect(second.getByRole('heading', { name: 'This sheet is open in another tab' })).toBeVisible();
  await second.getByRole('button', { name: 'Take it over here' }).click();
  await expect(row(second, 'Look')).toContainText('points good');
  await expect(page.getByRole('heading', { name: 'Another tab took this sheet over' })).toBeVisible();
});

test('a device without room says so at once, and what is on the screen can still be saved', async ({ page, context }) => {
  await begin(page);
  await register(page, newTag());
  const storage = await context.newCDPSession(page);
  const { origin } = new URL(page.url());
  await storage.send('Storage.overrideQuotaForOrigin', { origin, quotaSize: 1 });
  await lookGood(page);
  await expect(page.getByText('This device has no room left')).toBeVisible();
  await typeReading(page, 'Earth continuity', '0.05', '0.05 Ω');
  // Room again: the next entry keeps all of them, those before it too.
  await storage.send('Storage.overrideQuotaForOrigin', { origin });
  await typeReading(page, 'Insulation', '>500M', '>500 MΩ');
  await expect(page.getByText('This device has no room left')).toHaveCount(0);
  await page.reload();
  await expect(row(page, 'Earth continuity').getByText('0.05 Ω', { exact: true })).toBeVisible();
});

test('a half-done sheet that broke on the device is told, kept aside and never guessed at', async ({ page }) => {
  await begin(page);
  const tag = newTag();
  await register(page, tag);
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.6', '0.6 Ω');
  const sheet = page.url();
  await page.goto('/');
  await expect(page.getByText('Left on the bench')).toBeVisible();
  await page.evaluate(
    () =>
      new Promise<void>((done, failed) => {
        const asked = indexedDB.open('osierwand');
        asked.onerror = () => failed(asked.error);
        asked.onsuccess = () => {
          const store = asked.result.transaction('drafts', 'readwrite').objectStore('drafts');
          store.openCursor().onsuccess = (event) => {
            const cursor = (event.target as IDBRequest<IDBCursorWithValue | null>).result;
            if (!cursor) return done(asked.result.close());
            cursor.update({ ...cursor.value, events: 'half of' });
            cursor.continue();
          };
        };
      }),
  );
  await page.goto(sheet);
  await expect(page.getByText('An earlier half-done sheet of this item lies on this device')).toBeVisible();
  await expect(row(page, 'Look')).toHaveAttribute('aria-current', 'step');
  await page.goto('/');
  await expect(page.getByText('A half-done sheet of it cannot be read')).toBeVisible();
  await page.getByRole('button', { name: 'Remove it', exact: true }).click();
  await page.getByRole('button', { name: 'Remove it from this device' }).click();
  await expect(page.getByText('A half-done sheet of it cannot be read')).toHaveCount(0);
});

test('a sheet with a failure that is discarded stands in the lead’s review', async ({ page }) => {
  await begin(page);
  const tag = newTag();
  await register(page, tag);
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.6', '0.6 Ω');
  await page.getByRole('button', { name: 'Discard' }).click();
  await page.getByRole('button', { name: 'Wrong item on the bench' }).click();
  await page.getByRole('button', { name: 'Discard it' }).click();
  await expect(page.getByRole('heading', { name: 'Open rounds' })).toBeVisible();
  await signOut(page);
  await begin(page, /Maud Tarrant/);
  const review = page.getByRole('region', { name: 'Discarded with a failure' });
  await expect(review).toContainText(tag);
  await review.getByRole('link', { name: new RegExp(tag) }).click();
  await expect(page.getByRole('note')).toContainText('was discarded by Ida Fennimore');
});

test('a half-done sheet is handed to another bench, and finished there as begun by somebody else', async ({ page }) => {
  await begin(page);
  const tag = newTag();
  await register(page, tag);
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.05', '0.05 Ω');
  await page.getByRole('button', { name: 'Hand over' }).click();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Hand it over', exact: true })).toBeDisabled();
  await page.getByRole('button', { name: 'End of my shift' }).click();
  await page.getByRole('button', { name: 'Hand it over', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Open rounds' })).toBeVisible();
  await expect(page.getByText('Left on the bench')).toHaveCount(0);
  await signOut(page);

  await begin(page, /Rufus Oakhanger/);
  const handed = page.getByRole('region', { name: 'Handed over' });
  await expect(handed).toContainText('End of my shift');
  await expectNoSeriousFindings(page);
  await handed.getByRole('button', { name: `Take ${tag} over` }).click();
  await expect(row(page, 'Earth continuity').getByText('0.05 Ω', { exact: true })).toBeVisible();
  await expect(page.getByText('Begun by Ida Fennimore, who handed the sheet over.').first()).toBeVisible();
  await typeReading(page, 'Insulation', '>500M', '>500 MΩ');
  await typeReading(page, 'Protective conductor current', '0.3', '0.3 mA');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Saved: pass' })).toBeVisible();
});

for (const size of [tablet, phone])
  test(`by touch alone on a ${size.name} a fail is found and saved, and Stop is in view while something runs`, async ({ browser }) => {
    const context = await browser.newContext({
      viewport: { width: size.width, height: size.height },
      hasTouch: true,
      reducedMotion: 'reduce',
    });
    const page = await context.newPage();
    await begin(page);
    await register(page, newTag());
    await row(page, 'Look').getByRole('button', { name: 'All good' }).tap();
    await atPace(0.2, async () => {
      await row(page, 'Earth continuity').getByRole('button', { name: 'Measure' }).tap();
      await expect(page.getByRole('button', { name: /Stop/ })).toBeInViewport();
    });
    await expect(row(page, 'Earth continuity').getByText('% of the limit')).toBeVisible();
    await expect(page.locator('#hold')).toBeInViewport();
    await expect(page.getByText('500 V d.c. on the item')).toBeInViewport();
    await row(page, 'Insulation').getByRole('textbox').fill('0.2');
    await row(page, 'Insulation').getByRole('textbox').press('Enter');
    await page.getByRole('button', { name: 'Save the fail' }).tap();
    await expect(page.getByRole('heading', { name: 'Saved: fail' })).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(size.width);
    await expectNoSeriousFindings(page);
    await context.close();
  });

test('by keys alone a reading is voided, a fail found and saved', async ({ page }) => {
  await begin(page);
  await register(page, newTag());
  // From here on nothing is touched.
  await page.keyboard.press('Enter');
  await expect(row(page, 'Look')).toContainText('points good');
  await typeReading(page, 'Earth continuity', '0.6', '0.6 Ω');
  await expectSoundInBothColours(page);
  // The key that goes on leads to the choice and decides nothing.
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Again: it does not count' })).toBeFocused();
  await page.keyboard.press('Enter');
  await reach(page, 'Clip was off');
  await page.keyboard.press('Space');
  await reach(page, 'It does not count');
  await page.keyboard.press('Enter');
  await expect(row(page, 'Earth continuity')).toContainText('1 voided');
  await typeReading(page, 'Earth continuity', '0.05', '0.05 Ω');
  await typeReading(page, 'Insulation', '0.2', '0.2 MΩ');
  await expect(row(page, 'Protective conductor current')).toContainText('The insulation failed');
  await expect(page.getByRole('heading', { name: 'Fail', exact: true })).toBeInViewport();
  await page.keyboard.press('Enter');
  await reach(page, 'Save the fail');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Saved: fail' })).toBeVisible();
  await expectSoundInBothColours(page);
});
