import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** Signs in as the demo technician and stands in the café's round. */
export async function begin(page: Page) {
  await page.goto('/');
  await page.getByRole('button', { name: /Ida Fennimore/ }).click();
  await page.getByRole('button', { name: /Summit café, winter round/ }).click();
  await expect(page.getByRole('heading', { name: 'Summit café' })).toBeVisible();
}

/** A scanner is a keyboard that types fast and ends with Enter. */
export async function scan(page: Page, tag: string) {
  // Sent without waiting key by key: a busy machine would stretch the rhythm to that of a hand.
  await Promise.all([...tag, 'Enter'].map((key) => page.keyboard.press(key)));
}

/** Types as a hand does, so that it is not taken for a scanner. */
export async function typeByHand(page: Page, text: string) {
  await page.keyboard.type(text, { delay: 130 });
  await page.keyboard.press('Enter');
}

export const row = (page: Page, name: string) => page.getByRole('region', { name, exact: true });

/** A class I item of its own for a test, registered from the plate. */
export async function register(page: Page, tag: string) {
  await scan(page, tag);
  await page.getByLabel('What people call it').fill('Hot plate');
  await page.getByRole('combobox', { name: 'Room' }).fill('Kitchen');
  await page.getByLabel('Watts').fill('1500');
  await page.getByLabel('Length, m').fill('1.8');
  await page.getByLabel('Fuse, A').fill('13');
  await page.getByRole('button', { name: 'Register and open on the bench' }).click();
  await expect(page.getByRole('heading', { name: 'Hot plate' })).toBeVisible();
}

export async function expectNoSeriousFindings(page: Page) {
  const { violations } = await new AxeBuilder({ page }).analyze();
  const serious = violations.filter((it) => it.impact === 'serious' || it.impact === 'critical');
  expect(serious.map((it) => `${it.id}: ${it.nodes.map((node) => node.target).join(' | ')}`)).toEqual([]);
}

export const newTag = () => `B-${Math.random().toString(36).slice(2, 9)}`;
