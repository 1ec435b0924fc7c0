// What ./test's runners wrote down, in one form: suite, name of the claim, seconds. A test with several cases is one claim.
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

const unescaped = (text) => text.replace(/&quot;/g, '"').replace(/&lt;/g, '<').replace(/&gt;/g, '>').replace(/&amp;/g, '&');

/** Every test that ran, case by case. */
export function testsOf(folder) {
  const read = (name) => (existsSync(join(folder, name)) ? readFileSync(join(folder, name), 'utf8') : '');
  const tests = [];
  for (const suite of ['Core.Tests', 'Instruments.Tests', 'Server.Tests'])
    for (const [, text, seconds] of read(`${suite}.xml`).matchAll(/<test [^>]*name="([^"]*)"[^>]* time="([^"]*)"/g)) {
      const name = unescaped(text).replace(`Osierwand.${suite}.`, '');
      tests.push({ suite, name, claim: name.replace(/\(.*$/s, ''), seconds: Number(seconds) });
    }
  const web = read('web.json');
  for (const file of web ? JSON.parse(web).testResults : [])
    for (const test of file.assertionResults)
      tests.push({ suite: 'web', name: test.fullName, claim: test.fullName, seconds: (test.duration ?? 0) / 1000 });
  const journeys = (suite) => {
    for (const spec of suite.specs ?? []) {
      const seconds = spec.tests.flatMap((test) => test.results).reduce((sum, run) => sum + run.duration, 0) / 1000;
      const name = `${suite.file}: ${spec.title}`;
      tests.push({ suite: 'browser', name, claim: name, seconds });
    }
    (suite.suites ?? []).forEach(journeys);
  };
  const browser = read('browser.json');
  if (browser) JSON.parse(browser).suites.forEach(journeys);
  for (const line of read('checks.done').split('\n').filter(Boolean)) {
    const name = line.replace(/^\w+ /, '');
    tests.push({ suite: 'checks', name, claim: name, seconds: 0 });
  }
  return tests;
}
