/** Prints "passed failed" over the JSON reports of Vitest and Playwright. Fails when a report is missing or empty. */
import { readFileSync } from 'node:fs';

let passed = 0;
let failed = 0;
for (const file of process.argv.slice(2)) {
  const report = JSON.parse(readFileSync(file, 'utf8'));
  const ok = report.numPassedTests ?? report.stats.expected + report.stats.flaky;
  const bad = report.numFailedTests ?? report.stats.unexpected;
  if (!(ok + bad > 0)) throw new Error(`${file} reports no tests`);
  passed += ok;
  failed += bad;
}
console.log(passed, failed);
