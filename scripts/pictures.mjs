// node scripts/pictures.mjs URL [NAME...]: takes the pictures of docs/screenshots that need no work at the bench, of a house with the demo's
// data, after ./start. Each is taken when the page says that it is at rest; one that shows that something is still being fetched fails.
import { createRequire } from 'node:module';
import { fileURLToPath } from 'node:url';

const require = createRequire(new URL('../tests/browser/', import.meta.url));
const { chromium } = require('@playwright/test');
const [url, ...names] = process.argv.slice(2);

/** A path, or how to find it: each picture is of a page that anybody reaches by its address. */
const firstItem = (query) => async (page) => {
  const { rows } = await page.evaluate(async (asked) => (await fetch(`/api/v1/register?${asked}`)).json(), query);
  return `/register/${rows[0].id}`;
};
const pictures = {
  today: '/',
  register: '/register',
  item: firstItem('client=LMR&search=LMR-0214'),
  schedule: '/schedule',
  quarantine: '/quarantine',
  standards: '/standards',
  signs: '/signs',
  books: '/books',
};

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
});
const profile = await browser.newContext({ baseURL: url, viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
const signedIn = await profile.request.post('/api/v1/people/demo-sign-in?userName=maud');
if (!signedIn.ok()) throw new Error(`Nobody could sign in: ${await signedIn.text()}`);

let failed = 0;
for (const [name, where] of Object.entries(pictures)) {
  if (names.length > 0 && !names.includes(name)) continue;
  const page = await profile.newPage();
  await page.goto('/');
  if (where !== '/') await page.goto(typeof where === 'string' ? where : await where(page));
  await page.locator('html[data-idle=true]').waitFor();
  await page.locator('h1, h2').first().waitFor();
  const loading = await page.locator('main [role=status]').allInnerTexts();
  const waits = loading.filter((text) => /…\s*$|loading/i.test(text));
  if (waits.length > 0) {
    console.error(`${name}: still on its way: ${waits.join(' | ')}`);
    failed++;
  } else {
    await page.screenshot({ path: fileURLToPath(new URL(`../docs/screenshots/${name}.png`, import.meta.url)) });
    console.log(name);
  }
  await page.close();
}
await browser.close();
process.exit(failed === 0 ? 0 : 1);
