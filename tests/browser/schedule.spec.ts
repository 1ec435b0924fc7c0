import ICAL from 'ical.js';
import { expect, type Page, test } from './house';
import {
  aKettle,
  begin,
  expectNoSeriousFindings,
  expectSoundAtEverySize,
  lookGood,
  newTag,
  phone,
  register,
  row,
  signIn,
  signOut,
  tablet,
  typeReading,
} from './steps';

/** A client and site of the test's own with two things that were never tested, and that no round has. */
async function ownSite(page: Page) {
  const code = `S${newTag().replaceAll('-', '').slice(-7)}`.toUpperCase();
  const tags = [newTag(), newTag()];
  await page.evaluate(
    async ({ code, tags, kettle }) => {
      const send = async (path: string, body: unknown) => {
        const answer = await fetch(path, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json', 'X-Requested-With': 'osierwand' },
          body: JSON.stringify(body),
        });
        if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
        return answer.status === 204 ? null : answer.json();
      };
      const endsOn = new Date(Date.now() + 7 * 86_400_000).toISOString().slice(0, 10);
      const round = await send('/api/v1/rounds', {
        clientCode: code,
        clientName: `Heron Works ${code}`,
        site: `Quay ${code}`,
        name: `To register ${code}`,
        standardId: 'uk-cop-5',
        endsOn,
        isPlanned: true,
      });
      // Registered at the site, and in no round: nobody has chosen them for one.
      for (const tag of tags)
        await send('/api/v1/register', {
          roundId: round.id,
          tag,
          ...kettle,
          room: 'Galley',
        });
    },
    { code, tags, kettle: aKettle },
  );
  return { code, tags };
}

const proposed = (page: Page, code: string) => page.getByRole('article', { name: new RegExp(`^Quay ${code}, `) });

test('a lead plans a month: piles, a proposed round, a move by hand and what it costs, and the round taken, on a tablet', async ({
  page,
}) => {
  await page.setViewportSize(tablet);
  await begin(page, /Maud Tarrant/);
  const { code, tags } = await ownSite(page);
  await page.getByRole('link', { name: 'Schedule', exact: true }).click();
  await expect(page.getByRole('row', { name: new RegExp(`Quay ${code}`) })).toContainText('2');
  await page.getByRole('button', { name: 'By tier' }).click();
  await expect(page.getByRole('rowheader', { name: 'inspection and test' })).toBeVisible();
  await expectSoundAtEverySize(page);

  const round = proposed(page, code);
  await round.getByRole('button', { name: 'Items' }).click();
  await expect(round).toContainText(`${tags[0]} Kettle`);
  await expect(round).toContainText('never inspected');
  await round.getByRole('checkbox', { name: new RegExp(`^${tags[0]} `) }).check();
  await round.getByLabel('Move this item to').click();
  await page.getByRole('option', { name: 'no day: out of this plan' }).click();
  const moved = page.getByRole('region', { name: 'Moved by hand' });
  await expect(moved).toContainText('1 more without a day');
  await expect(round).not.toContainText(`${tags[0]} Kettle`);
  // It is kept over a reload, and undone by a press.
  await page.reload();
  await expect(moved).toContainText('1 more without a day');
  await moved.getByRole('button', { name: 'Undo the last' }).click();
  await expect(moved).toBeHidden();

  await round.getByRole('button', { name: 'Take it' }).click();
  const asked = page.getByRole('dialog', { name: 'Plan this round' });
  await expect(asked.getByRole('button', { name: 'Plan it' })).toBeDisabled();
  await asked.getByLabel('Name').fill(`Quay round ${code}`);
  await expectSoundAtEverySize(page);
  await asked.getByLabel('Appliances are judged by').click();
  await page.getByRole('option', { name: /UK code/ }).click();
  await asked.getByRole('button', { name: 'Plan it' }).click();
  const made = page.getByRole('dialog', { name: 'The round is planned' });
  await expect(made).toContainText('with 2 items');
  await made.getByRole('button', { name: 'Close' }).click();
  await expect(proposed(page, code)).toHaveCount(0);
  await page.getByRole('link', { name: 'Rounds', exact: true }).click();
  await page.getByRole('link', { name: new RegExp(`Quay round ${code}`) }).click();
  await expect(page.getByText('2 items to do')).toBeVisible();
});

test('chosen for one client, only its rounds are proposed, and it says that they are planned among all', async ({ page }) => {
  await begin(page, /Maud Tarrant/);
  await page.goto('/schedule?client=SVH');
  const proposed = page.getByRole('region', { name: 'Proposed rounds' });
  await expect(proposed).toContainText(/\d+ of \d+ rounds are Sorrel Valley Cottage Hospital’s: planned among all/);
  await expect(proposed).not.toContainText('Larkfell');
});

test('bench hours are entered by a lead, and a technician sees them and changes none', async ({ page }) => {
  await begin(page, /Maud Tarrant/);
  await page.getByRole('link', { name: 'Schedule', exact: true }).click();
  await page.getByRole('button', { name: 'Bench hours and travel' }).click();
  const own = page.getByRole('form', { name: 'Maud Tarrant' });
  await own.getByLabel('Sat').fill('x');
  await expect(own.getByRole('button', { name: 'Keep' })).toBeDisabled();
  await own.getByLabel('Sat').fill('90');
  await own.getByRole('button', { name: 'Keep' }).click();
  await expect(own.getByRole('button', { name: 'Keep' })).toBeHidden();
  await expectNoSeriousFindings(page);
  await own.getByLabel('Sat').fill('0');
  await own.getByRole('button', { name: 'Keep' }).click();
  await expect(own.getByRole('button', { name: 'Keep' })).toBeHidden();
  await page.getByRole('button', { name: 'Close' }).click();
  await signOut(page);
  await begin(page);
  await page.getByRole('link', { name: 'Schedule', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Proposed rounds' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Take it' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Bench hours and travel' }).click();
  await expect(page.getByRole('form', { name: 'Ida Fennimore' }).getByLabel('Mon')).toBeDisabled();
});

test('a calendar is made, read by another program that knows the format, and taken back', async ({ page, playwright }) => {
  await signIn(page, /Wilf Sandering/);
  await page.goto('/');
  await page.getByRole('link', { name: 'Schedule', exact: true }).click();
  await expect(page.getByRole('rowheader', { name: /Main building/ })).toBeVisible();
  await expect(page.getByText('Bench hours')).toHaveCount(0);
  await page.getByRole('button', { name: 'Calendars' }).click();
  const dialog = page.getByRole('dialog', { name: 'Calendars' });
  await dialog.getByRole('button', { name: 'Make a link' }).click();
  const link = await dialog.locator('code').innerText();
  await expectNoSeriousFindings(page);

  // By somebody who is signed in nowhere.
  const outside = await playwright.request.newContext();
  const answer = await outside.get(link);
  expect(answer.headers()['content-type']).toBe('text/calendar; charset=utf-8');
  const calendar = new ICAL.Component(ICAL.parse(await answer.text()));
  expect(calendar.getFirstPropertyValue('version')).toBe('2.0');
  const events = calendar.getAllSubcomponents('vevent').map((it) => new ICAL.Event(it));
  expect(events.length).toBeGreaterThan(3);
  for (const event of events) {
    expect(event.uid).toMatch(/@osierwand$/);
    expect(event.component.getFirstPropertyValue('dtstamp')).not.toBeNull();
    expect(event.startDate.isDate).toBe(true);
    expect(event.endDate.compare(event.startDate)).toBe(1);
    expect(event.summary).toMatch(/^Main building: (\d+ items? (due|past due)|testers come|users look over \d+ items?)$/);
  }
  // What users look over every week comes every week, a year long; nothing else comes twice.
  const weekly = events.filter((it) => it.isRecurring());
  expect(weekly.map((it) => it.summary)).toEqual([expect.stringMatching(/users look over/)]);
  const days = weekly[0]!.iterator();
  const [first, second] = [days.next(), days.next()];
  expect(second.subtractDate(first).toSeconds()).toBe(7 * 86_400);
  let times = 2;
  while (days.next()) times++;
  expect(times).toBeGreaterThanOrEqual(52);
  expect(times).toBeLessThanOrEqual(54);
  expect(new Set(events.map((it) => it.uid)).size).toBe(events.length);

  await dialog.getByRole('region', { name: 'Links that hold' }).getByRole('button', { name: 'Take back' }).first().click();
  await expect.poll(async () => (await outside.get(link)).status()).toBe(404);
  await outside.dispose();
});

test('a client’s reader looks over what is due with a phone, and what is damaged stands on Today', async ({ page }) => {
  await page.setViewportSize(phone);
  await signIn(page, /Wilf Sandering/);
  await page.goto('/');
  // Before that the sign-in is still on its way, and the next page would overtake it.
  await expect(page.getByRole('button', { name: 'Sign out' })).toBeVisible();
  await page.goto('/schedule?by=users');
  const list = page.getByRole('region', { name: 'To look over at Main building' });
  const items = list.getByRole('article');
  await expect(items.first()).toBeVisible();
  await expectNoSeriousFindings(page);
  const count = await items.count();
  expect(count).toBeGreaterThan(1);

  const good = (await items.last().getByRole('link').innerText()).split(' ')[0]!;
  await page.getByRole('button', { name: `${good}: looked over, good` }).click();
  await expect(list.getByRole('link', { name: new RegExp(`^${good} `) })).toHaveCount(0);
  await expect(items).toHaveCount(count - 1);

  const bad = (await items.last().getByRole('link').innerText()).split(' ')[0]!;
  await page.getByRole('button', { name: `${bad}: something is wrong` }).click();
  const form = page.getByRole('form', { name: `What is wrong with ${bad}` });
  await expect(form.getByRole('button', { name: 'Report it' })).toBeDisabled();
  await form.getByLabel('What is wrong').fill('The guard is loose, seen with a phone');
  await form.getByRole('button', { name: 'Report it' }).click();
  await expect(items).toHaveCount(count - 2);
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Main building: to look over this week' })).toBeVisible();
  await expect(list.getByRole('link', { name: new RegExp(`^(${good}|${bad}) `) })).toHaveCount(0);

  await signOut(page);
  await page.getByRole('button', { name: /Maud/ }).click();
  await expect(page.getByText('The guard is loose, seen with a phone')).toBeVisible();
});

/** A kettle, sound up to its verdict. */
async function good(page: Page, who?: RegExp) {
  await begin(page, who);
  await register(page, newTag());
  await lookGood(page);
  await typeReading(page, 'Earth continuity', '0.05', '0.05 Ω');
  await typeReading(page, 'Insulation', '200', '200 MΩ');
  await typeReading(page, 'Protective conductor current', '0.2', '0.2 mA');
  await row(page, 'Functional check').getByRole('button', { name: 'Good', exact: true }).click();
}

test('the date is chosen while saving: shorter with a reason, longer by nobody but a lead, on a phone', async ({ page }) => {
  await page.setViewportSize(phone);
  await good(page);
  const verdict = page.getByRole('region', { name: 'Verdict' });
  await verdict.getByRole('button', { name: 'Choose another date' }).click();
  const dialog = page.getByRole('dialog', { name: /Test again in/ });
  await expect(dialog.getByRole('radio', { name: /^60 months/ })).toBeDisabled();
  await expect(dialog).toContainText('is a lead’s to decide');
  await dialog.getByRole('radio', { name: /^3 months/ }).click();
  await expect(dialog.getByRole('button', { name: 'Take this one' })).toBeDisabled();
  await dialog.getByRole('button', { name: 'Used harder than most of its kind' }).click();
  await expectSoundAtEverySize(page);
  await dialog.getByRole('button', { name: 'Take this one' }).click();
  await expect(verdict).toContainText('made it 3 months: Used harder than most of its kind');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('heading', { name: /^Saved: pass/ })).toBeVisible();
  await page.getByRole('link', { name: 'Its whole story' }).click();
  await expect(page.getByText('Ida Fennimore made it 3 months: Used harder than most of its kind').first()).toBeVisible();
});

test('a lead makes it longer, takes that back, and the computed date stands again', async ({ page }) => {
  await good(page, /Maud Tarrant/);
  const verdict = page.getByRole('region', { name: 'Verdict' });
  const before = await verdict.locator('strong').first().innerText();
  await verdict.getByRole('button', { name: 'Choose another date' }).click();
  const dialog = page.getByRole('dialog', { name: /Test again in/ });
  await dialog.getByRole('radio', { name: /^36 months/ }).click();
  await dialog.getByLabel('Why then; it stays with the date').fill('Stands behind glass');
  await dialog.getByRole('button', { name: 'Take this one' }).click();
  await expect(verdict).toContainText('made it 36 months: Stands behind glass (longer, by a lead)');
  await verdict.getByRole('button', { name: 'Choose another date' }).click();
  await dialog.getByRole('radio', { name: /computed/ }).click();
  await dialog.getByRole('button', { name: 'As computed' }).click();
  await expect(verdict).not.toContainText('Stands behind glass');
  await expect(verdict.locator('strong').first()).toHaveText(before);
});

test('values on their way to a limit are listed with their projection, and a test is brought forward', async ({ page }) => {
  await begin(page);
  await page.getByRole('link', { name: 'Schedule', exact: true }).click();
  await page.getByRole('button', { name: 'On the way to a limit' }).click();
  const first = page
    .getByRole('article')
    .filter({ has: page.getByRole('button', { name: /^Bring its test forward to/ }) })
    .first();
  await expect(first.getByRole('img', { name: /readings; at its limit about/ })).toBeVisible();
  await expectNoSeriousFindings(page);
  const tag = (await first.getByRole('link').innerText()).split(' ')[0]!;
  const story = (await first.getByRole('link').getAttribute('href'))!;
  const bring = first.getByRole('button', { name: /^Bring its test forward to/ });
  const day = (await bring.innerText()).replace('Bring its test forward to ', '');
  await bring.click();
  // One whose value is there already stays in the list; there is nothing left to bring.
  await expect(page.getByRole('article', { name: new RegExp(`^${tag} `) }).getByRole('button', { name: /^Bring/ })).toHaveCount(0);
  await page.goto(story);
  await expect(page.getByText('brought forward by Ida Fennimore').first()).toBeVisible();
  await expect(page.getByText(day).first()).toBeVisible();
});
