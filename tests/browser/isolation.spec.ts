import { expect, type Page, test } from './house';
import { begin, expectNoSeriousFindings, expectSoundAtEverySize, lookGood, newTag, row, scan, typeByHand, typeReading } from './steps';

/** A towel rail on a fused connection unit, registered from its plate. */
async function towelRail(page: Page) {
  const tag = newTag();
  await scan(page, tag);
  await page.getByRole('button', { name: 'Hard-wired', exact: true }).click();
  await page.getByLabel('What people call it').fill('Towel rail');
  await page.getByLabel('Seen on plate and build').click();
  await page.getByRole('option', { name: /Earth symbol/ }).first().click();
  await page.getByRole('combobox', { name: 'Room' }).fill('Bath');
  await page.getByLabel('Watts').fill('300');
  await page.getByRole('button', { name: 'Register and open on the bench' }).click();
  await expect(row(page, 'Circuit, point of isolation, permission')).toHaveAttribute('aria-current', 'step');
  return tag;
}

const isInHand = (page: Page, step: string) => expect(row(page, step)).toHaveAttribute('aria-current', 'step');

async function switchOffAndLock(page: Page) {
  await page.getByLabel(/Circuit and point; who gave permission/).fill('Ring 2, unit by the door; Wren Ashby; the fan goes dark');
  await page.keyboard.press('Enter');
  for (const step of ['Switched off, load seen to go off', 'Locked and tagged', 'Cover open']) {
    await isInHand(page, step);
    await row(page, step).getByRole('button', { name: 'Confirm' }).click();
  }
  await isInHand(page, 'Indicator proved');
}

async function prove(page: Page, step: string) {
  await isInHand(page, step);
  await expect(row(page, step).getByRole('button', { name: 'Indicator 1' })).toHaveAttribute('aria-pressed', 'true');
  await row(page, step).getByRole('button', { name: 'Every indication seen' }).click();
}

/** By touch on one side, by the number pad on the other. */
async function findDead(page: Page, side: 'supply' | 'load') {
  const step = row(page, `Dead at the ${side} side`);
  for (const pair of ['N-E', 'L-N', 'L-E']) {
    await expect(step).toHaveAttribute('aria-current', 'step');
    await expect(step.locator('[aria-current=step]', { hasText: pair })).toBeVisible();
    if (side === 'supply') await step.getByRole('button', { name: 'Nothing indicated' }).click();
    else {
      await page.getByLabel('What it shows, V').fill('0');
      await page.keyboard.press('Enter');
    }
  }
}

test('a towel rail is isolated by proofs, tested, restored and saved, and the record tells it', async ({ page }) => {
  await begin(page);
  const tag = await towelRail(page);
  await switchOffAndLock(page);
  await expect(page.getByText('A lock is on')).toBeVisible();
  await page.getByRole('button', { name: 'Multimeter' }).click();
  await expect(page.getByRole('alert')).toContainText('never accepted for proving dead');
  await expect(page.getByRole('button', { name: 'Every indication seen' })).toBeDisabled();
  await page.getByRole('button', { name: 'Two-pole voltage indicator' }).click();
  await expectSoundAtEverySize(page);
  await prove(page, 'Indicator proved');
  await findDead(page, 'supply');
  // A reload in the middle loses nothing.
  await page.reload();
  await findDead(page, 'load');
  await expectNoSeriousFindings(page);
  await prove(page, 'Indicator proved again');
  await isInHand(page, 'Line and neutral disconnected');
  await page.keyboard.press('Enter');
  await isInHand(page, 'Look');
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.05', '0.05 Ω');
  await typeReading(page, 'Insulation', '>200M', '>200 MΩ');
  for (const step of ['Reconnected', 'Lock and tag off', 'Supply restored']) {
    await isInHand(page, step);
    await page.keyboard.press('Enter');
  }
  await expect(page.getByText('No lock is on.')).toBeVisible();
  await typeReading(page, 'Protective conductor current', '0.2m', '0.2 mA');
  await isInHand(page, 'Functional check');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('heading', { name: /^Saved: pass/ })).toBeVisible();
  await page.getByRole('link', { name: 'Its whole story' }).click();
  await expect(page.getByRole('heading', { name: 'Towel rail' })).toBeVisible();
  await expect(page.getByText(tag).first()).toBeVisible();
  await page.getByText('Safe isolation, deed by deed').click();
  await expect(page.getByText('Indicator 1 proved on the proving unit')).toHaveCount(2);
});

test('a voltage stops the job, a failed second proof voids what came before, and a lock is answered for', async ({ page }) => {
  await begin(page);
  const tag = await towelRail(page);
  await switchOffAndLock(page);
  await prove(page, 'Indicator proved');
  await isInHand(page, 'Dead at the supply side');
  await typeByHand(page, '231');
  await expect(page.getByText('231 V found on the supply side, N-E: the job stops here')).toBeVisible();
  await isInHand(page, 'Circuit, point of isolation, permission');
  await expect(row(page, 'Look').getByRole('button', { name: 'All good' })).toHaveCount(0);

  await switchOffAndLock(page);
  await prove(page, 'Indicator proved');
  await findDead(page, 'supply');
  await findDead(page, 'load');
  await isInHand(page, 'Indicator proved again');
  await row(page, 'Indicator proved again').getByRole('button', { name: 'It failed' }).click();
  await expect(page.getByText('what was tested with it since counts for nothing')).toBeVisible();
  await isInHand(page, 'Indicator proved');

  // Not tested after all: first the lock.
  await page.keyboard.press('/');
  await expect(page.getByRole('dialog')).toContainText('A lock is on');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await page.getByRole('button', { name: 'The lock stays on' }).click();
  await page.getByLabel('Whose lock it is, and who has the key').fill('Mine; the key is in the site office');
  await page.getByRole('button', { name: 'It stays on', exact: true }).click();
  await expect(page.getByText('A lock stays on: Mine; the key is in the site office')).toBeVisible();
  await page.keyboard.press('/');
  await page.getByRole('button', { name: 'In use' }).click();
  await page.getByRole('button', { name: 'Save as not tested' }).click();
  await expect(page.getByRole('heading', { name: /^Saved: not tested/ })).toBeVisible();
  await page.goto('/');
  await expect(page.getByRole('region', { name: 'Locks left on' }).getByRole('link', { name: tag })).toContainText(
    'the key is in the site office',
  );
});
