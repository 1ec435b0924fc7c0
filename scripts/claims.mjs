// node scripts/claims.mjs FOLDER [--write]: holds what ran against the committed list of claims, tests/claims.txt: one line a claim, with the
// run that holds it ("every"; "long" for ./test --long; "shared" where the worked examples lie beside this folder). A claim that ran nowhere
// fails, and so does a test that stands in no line: whoever removes or renames a test says so in the list. --write makes the list from what
// ran, and keeps what other runs hold.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { testsOf } from './reports.mjs';

const [folder, write] = process.argv.slice(2);
const list = new URL('../tests/claims.txt', import.meta.url);
const ran = new Set(testsOf(folder).map((test) => `${test.suite} ${test.claim}`));
const lines = existsSync(list) ? readFileSync(list, 'utf8').split('\n').filter(Boolean) : [];
const listed = new Map(lines.map((line) => [line.slice(line.indexOf(' ') + 1), line.slice(0, line.indexOf(' '))]));

if (write === '--write') {
  const others = [...listed].filter(([, run]) => run !== 'every').map(([claim]) => claim);
  const all = new Set([...ran, ...others]);
  writeFileSync(list, [...all].map((claim) => `${listed.get(claim) ?? 'every'} ${claim}\n`).sort().join(''));
  process.exit(0);
}
const nowhere = [...listed].filter(([claim, run]) => run === 'every' && !ran.has(claim)).map(([claim]) => claim);
const unlisted = [...ran].filter((claim) => !listed.has(claim));
for (const claim of nowhere) console.error(`A claim that ran nowhere: ${claim}`);
for (const claim of unlisted) console.error(`A test that stands in no line of tests/claims.txt: ${claim}`);
console.log(`${listed.size} claims, ${nowhere.length} of them ran nowhere, ${unlisted.length} tests unlisted`);
process.exit(nowhere.length + unlisted.length === 0 ? 0 : 1);
