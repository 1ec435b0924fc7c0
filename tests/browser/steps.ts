import AxeBuilder from '@axe-core/playwright';
import { expect, type Page, test } from './house';

/** The press that starts a measurement, whatever it says to with it. */
/** What starts a step: a press, or a button that is held where something moves, heats or bites. */
export const measures = /^(Measure|(.+: )?[Hh]old to start)$/;

export const sizes = [
  { name: 'desk', width: 1280, height: 800 },
  { name: 'tablet', width: 820, height: 1180 },
  { name: 'phone', width: 390, height: 844 },
] as const;
export const [desk, tablet, phone] = sizes;

/** The people of the demo by what they are called on the sign-in page. */
const userNames = { 'Ida Fennimore': 'ida', 'Rufus Oakhanger': 'rufus', 'Maud Tarrant': 'maud', 'Wilf Sandering': 'wilf' } as const;

/** Signs in as a demo person without the page for it (people.spec tries that one), and stands in the café's round. */
export async function begin(page: Page, who = /Ida Fennimore/) {
  await signIn(page, who);
  await page.goto('/');
  await page.getByRole('button', { name: /Summit café, winter round/ }).click();
  await expect(page.getByRole('heading', { name: 'Summit café' })).toBeVisible();
}

/** A lead who may test medical devices stands in the hospital's round. */
export async function beginAtHospital(page: Page) {
  await signIn(page, /Maud Tarrant/);
  await page.goto('/');
  await page.getByRole('button', { name: /Ward and workshop, November/ }).click();
  await expect(page.getByRole('heading', { name: 'Main building' })).toBeVisible();
}

/** Signs in; nothing is shown yet. */
export async function signIn(page: Page, who: RegExp) {
  const [, userName] = Object.entries(userNames).find(([name]) => who.test(name))!;
  const answer = await page.context().request.post(`/api/v1/people/demo-sign-in?userName=${userName}`);
  expect(answer.ok(), await answer.text()).toBe(true);
}

/** When the last key of a page was struck, in seconds: what is struck next comes after it. */
const lastKey = new WeakMap<Page, number>();

/**
 * Strikes keys in one go, each with the moment it was struck, as a device's driver says it: a busy machine would stretch the rhythm of a
 * scanner to that of a hand, and a hand's rhythm need not be waited for.
 */
async function strike(page: Page, text: string, gaps: (nth: number) => number, pauseBefore: number) {
  const line = await page.context().newCDPSession(page);
  const sent: Promise<unknown>[] = [];
  let struckAt = Math.max(Date.now() / 1000, (lastKey.get(page) ?? 0) + pauseBefore);
  const press = (key: Record<string, unknown>, nth: number) => {
    sent.push(line.send('Input.dispatchKeyEvent', { type: 'keyDown', timestamp: struckAt, ...key }));
    sent.push(line.send('Input.dispatchKeyEvent', { type: 'keyUp', timestamp: struckAt, ...key, text: undefined }));
    lastKey.set(page, struckAt);
    struckAt += gaps(nth) / 1000;
  };
  for (const [nth, key] of [...text].entries()) press({ key, text: key, unmodifiedText: key }, nth);
  press({ key: 'Enter', code: 'Enter', windowsVirtualKeyCode: 13, text: '\r' }, text.length);
  await Promise.all(sent);
  await line.detach();
}

/** A scanner is a keyboard that types fast and evenly and ends with Enter. */
export const scan = (page: Page, tag: string, msPerKey = 0) => strike(page, tag, () => Math.max(msPerKey, 4), 1);

/** Types as a hand does, so that it is not taken for a scanner. */
export const typeByHand = (page: Page, text: string) => strike(page, text, (nth) => (nth % 2 ? 140 : 190), 1);

/** Out, and the sign-in is there: whoever goes on before that is overtaken by the page that sign-out loads. */
export async function signOut(page: Page) {
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page.getByText('Step in as')).toBeVisible();
}

export const row = (page: Page, name: string) => page.getByRole('region', { name, exact: true });

/** An item of its own for a test, registered from its plate as a technician does; it lies on the bench afterwards. */
export async function registerFromPlate(page: Page, tag: string, seen = /Earth symbol/) {
  await scan(page, tag);
  await page.getByLabel('What people call it').fill('Hot plate');
  await page.getByLabel('Seen on plate and build').click();
  await page.getByRole('option', { name: seen }).first().click();
  await page.getByRole('combobox', { name: 'Room' }).fill('Kitchen');
  await page.getByLabel('Watts').fill('1500');
  await page.getByLabel('Length, m').fill('1.8');
  await page.getByLabel('Fuse, A').fill('13');
  await page.getByRole('button', { name: 'Register and open on the bench' }).click();
  await onBench(page);
}

/** A class I item of its own for a test; it lies on the bench afterwards. Registered over the border: the form is bench.spec's. */
export async function register(page: Page, tag: string) {
  const roundId = await page.evaluate(() => (JSON.parse(localStorage.getItem('osierwand.round')!) as { id: string }).id);
  const plate = { ...aKettle, name: 'Hot plate', ratedPowerW: 1500, flexLengthM: 1.8 };
  const made = await page.request.post('/api/v1/register', { data: { ...plate, tag, roundId, room: 'Kitchen' } });
  expect(made.status(), await made.text()).toBe(201);
  await scan(page, tag);
  await onBench(page);
}

async function onBench(page: Page) {
  await expect(page.getByRole('heading', { name: 'Hot plate' })).toBeVisible();
  await expect(row(page, 'Look')).toHaveAttribute('aria-current', 'step');
}

export const lookGood = async (page: Page) => {
  await row(page, 'Look').getByRole('button', { name: 'All good' }).click();
  await expect(row(page, 'Look')).toContainText('points good');
};

/** The field of the step in hand, by the keys alone. */
export async function typeReading(page: Page, step: string, text: string, shown: string) {
  await expect(row(page, step)).toHaveAttribute('aria-current', 'step');
  await typeByHand(page, text);
  await expect(row(page, step).getByText(shown, { exact: true })).toBeVisible();
}

/** What was started has ended and what was entered is judged: no request, no call of the engine and no instrument is under way. */
export const rests = (page: Page) => expect(page.locator('html')).toHaveAttribute('data-idle', 'true');

const held = (page: Page) => page.locator('#hold');

async function hold(page: Page, down: () => Promise<void>, up: () => Promise<void>) {
  const keep = page.getByRole('button', { name: 'Keep holding' });
  await down();
  await expect(keep).toBeVisible();
  await expect(keep).toBeHidden();
  await up();
}

/** Held as a hand would, until it starts. */
export async function holdDown(page: Page) {
  await held(page).hover();
  await hold(page, () => page.mouse.down(), () => page.mouse.up());
}

/** Held, and what it started has come to its end. */
export async function holdToStart(page: Page) {
  await holdDown(page);
  await rests(page);
}

/** The step is in hand and may be started. */
export async function isReady(page: Page, step: string) {
  await expect(row(page, step)).toHaveAttribute('aria-current', 'step');
  await expect(page.getByRole('button', { name: measures })).toBeEnabled();
}

/** Starts the instrument at a step as it asks to be started. */
export async function start(page: Page, step: string) {
  await isReady(page, step);
  if (await held(page).isVisible()) await holdDown(page);
  else await row(page, step).getByRole('button', { name: measures }).click();
}

/** Enter, as the step in hand wants it: struck, or held. */
export async function enter(page: Page) {
  if (!(await held(page).isVisible())) return page.keyboard.press('Enter');
  await expect(held(page)).toBeFocused();
  await hold(page, () => page.keyboard.down('Enter'), () => page.keyboard.up('Enter'));
}

/** What the probe of class II lies on, where it is asked. */
export const placeProbe = (page: Page, on: string) =>
  page.getByRole('group', { name: 'The probe lies on' }).getByRole('button', { name: on }).click();

/** Everything the sheet asks next, started as it asks to be started, until the evaluation is proposed. */
export async function measureTheRest(page: Page) {
  const press = page.getByRole('button', { name: measures });
  const good = page.getByRole('button', { name: 'Good', exact: true });
  const evaluate = page.getByRole('button', { name: 'Confirm', exact: true });
  for (;;) {
    await expect(press.or(good).or(evaluate).first()).toBeVisible();
    if (await evaluate.isVisible()) return evaluate;
    if (await held(page).isVisible()) await holdDown(page);
    else await (await press.isVisible() ? press : good).click();
    await rests(page);
  }
}

/** By Tab to a button, as whoever has no pointer; it fails where the way is longer than a person would go. */
export async function reach(page: Page, name: string) {
  const button = page.getByRole('button', { name, exact: true });
  await expect(button).toBeVisible();
  for (let presses = 0; presses < 25; presses++) {
    if (await button.evaluate((it) => it === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  await expect(button).toBeFocused();
}

/** Why a reading does not count: chosen, then pressed. */
export async function again(page: Page, reason: string) {
  await page.getByRole('button', { name: 'Again: it does not count' }).click();
  await page.getByRole('button', { name: reason }).click();
  await page.getByRole('button', { name: 'It does not count', exact: true }).click();
}

/** What lies on the bench was begun by mistake. */
export async function discard(page: Page) {
  await page.getByRole('button', { name: 'Discard' }).click();
  await page.getByRole('button', { name: 'Started by mistake' }).click();
  await page.getByRole('button', { name: /^Discard/ }).last().click();
  await expect(page.getByRole('heading', { name: 'Open rounds' })).toBeVisible();
}

/**
 * Nothing of the page as it stands is serious for axe. In its one run: the other way opens a page of its own for every look. Its half a
 * megabyte is read once a page.
 */
export async function expectNoSeriousFindings(page: Page) {
  const isThere = await page.evaluate(() => 'axe' in window);
  const axe = new AxeBuilder({ page, ...(isThere && { axeSource: 'void 0' }) });
  const { violations } = await axe.setLegacyMode().options({ resultTypes: ['violations'] }).analyze();
  const serious = violations.filter((it) => it.impact === 'serious' || it.impact === 'critical');
  expect(serious.map((it) => `${it.id}: ${it.nodes.map((node) => node.target).join(' | ')}`)).toEqual([]);
}

/**
 * The page as it stands is sound on each of our screens: nothing serious for axe, nothing that moves it sideways. A journey is walked on
 * one of them; what it comes to is looked at on all.
 */
export async function expectSoundAtEverySize(page: Page) {
  const was = page.viewportSize()!;
  for (const size of sizes) {
    await page.setViewportSize(size);
    // What asks for the width of the page is drawn anew a little later.
    const wide = () => page.evaluate(() => document.documentElement.scrollWidth);
    await expect.poll(wide, { message: `sideways on the ${size.name}`, timeout: 5_000 }).toBeLessThanOrEqual(size.width);
    await test.step(`sound on the ${size.name}`, () => expectNoSeriousFindings(page));
  }
  await page.setViewportSize(was);
}

export async function expectSoundInBothColours(page: Page) {
  await expectSoundAtEverySize(page);
  await page.emulateMedia({ colorScheme: 'dark' });
  await expectSoundAtEverySize(page);
  await page.emulateMedia({ colorScheme: 'light' });
}

export const newTag = () => `B-${Math.random().toString(36).slice(2, 9)}`;

/** Facts of a kettle as they are registered; its round, tag and room are added. */
export const aKettle = {
  name: 'Kettle',
  kind: 'appliance',
  evidence: 'earthSymbolOrPinMetalReachable',
  use: 'portable',
  place: 'kitchen',
  ratedVoltageV: 230,
  ratedPowerW: 2200,
  heating: true,
  surgeProtected: false,
  allInsulated: false,
  hardWired: false,
  flexLengthM: 1.5,
  flexMm2: 1,
  plugFuseA: 13,
  plug: 'rewirable',
  outlets: 1,
  usage: 'normal',
  moved: 'sometimes',
  users: 'trained',
};
