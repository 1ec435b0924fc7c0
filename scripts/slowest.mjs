// node scripts/slowest.mjs FOLDER: the ten slowest tests of each suite, from the reports that ./test left there.
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

const folder = process.argv[2];
const read = (name) => (existsSync(join(folder, name)) ? readFileSync(join(folder, name), 'utf8') : '');

function show(suite, tests) {
  if (tests.length === 0) return;
  const total = tests.reduce((sum, test) => sum + test.seconds, 0);
  console.log(`\n${suite}: ${tests.length} tests, ${total.toFixed(0)} s one after another; the slowest:`);
  for (const test of tests.sort((a, b) => b.seconds - a.seconds).slice(0, 10)) console.log(`${test.seconds.toFixed(1).padStart(8)} s  ${test.name}`);
}

for (const suite of ['Core.Tests', 'Instruments.Tests', 'Server.Tests']) {
  const tests = [...read(`${suite}.xml`).matchAll(/<test [^>]*name="([^"]*)"[^>]* time="([^"]*)"/g)];
  show(suite, tests.map(([, name, time]) => ({ name: name.replace('Osierwand.', ''), seconds: Number(time) })));
}

const web = read('web.json');
if (web)
  show(
    'front end',
    JSON.parse(web).testResults.flatMap((file) => file.assertionResults.map((test) => ({ name: test.fullName, seconds: (test.duration ?? 0) / 1000 }))),
  );

const journeys = (suite) => [
  ...(suite.specs ?? []).map((spec) => ({ name: `${suite.file}: ${spec.title}`, seconds: spec.tests.flatMap((test) => test.results).reduce((sum, run) => sum + run.duration, 0) / 1000 })),
  ...(suite.suites ?? []).flatMap(journeys),
];
const browser = read('browser.json');
if (browser) show('browser', JSON.parse(browser).suites.flatMap(journeys));
