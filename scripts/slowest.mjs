// node scripts/slowest.mjs FOLDER: the ten slowest tests of each suite, from the reports that ./test left there.
import { testsOf } from './reports.mjs';

for (const [suite, tests] of grouped(testsOf(process.argv[2]))) {
  if (suite === 'checks') continue;
  const total = tests.reduce((sum, test) => sum + test.seconds, 0);
  console.log(`\n${suite}: ${tests.length} tests, ${total.toFixed(0)} s one after another; the slowest:`);
  for (const test of tests.sort((a, b) => b.seconds - a.seconds).slice(0, 10)) console.log(`${test.seconds.toFixed(1).padStart(8)} s  ${test.name}`);
}

function grouped(tests) {
  const groups = new Map();
  for (const test of tests) groups.set(test.suite, [...(groups.get(test.suite) ?? []), test]);
  return groups;
}
