// npm test: sets up what tests need, then lint, form, types, unit tests, build, interface tests, three minutes of torture.
// The last line is the true sum: every test of both runners, and each check as one.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { ensureBuilt, ensureInstalled } from './set-up.mjs';

let passed = 0;
let failed = 0;
/** What failed, by name: said once more at the end, where it is not scrolled away. */
const failures = [];
/** What failed first and then held, by name: a doubt that is said, not counted as a failure. */
const secondTries = [];
const bin = (name) => `node_modules/.bin/${name}`;

function attempt(title, command, args, environment = {}) {
  console.log(`\n== ${title}`);
  const { status } = spawnSync(command, args, {
    stdio: 'inherit',
    env: { ...process.env, ...environment },
  });
  return status === 0;
}

function check(title, command, args) {
  if (attempt(title, command, args)) passed++;
  else {
    failed++;
    failures.push(title);
  }
}

/** Counts a runner's report; one that broke down without failing a test counts as one failure. */
function count(ok, report, read) {
  const sums = existsSync(report)
    ? read(JSON.parse(readFileSync(report, 'utf8')))
    : { passed: 0, failed: [] };
  const names =
    !ok && sums.failed.length === 0 ? [`${report}: the runner broke down`] : sums.failed;
  passed += sums.passed;
  failed += names.length;
  failures.push(...names);
}

/** A test's name, and the first line of why it failed. */
const failure = (name, message = '') => `${name}: ${message.split('\n')[0]}`;

const unitFailures = (report) =>
  report.testResults.flatMap(({ assertionResults }) =>
    assertionResults
      .filter(({ status }) => status === 'failed')
      .map(({ fullName, failureMessages }) => failure(fullName, failureMessages[0])),
  );

/** Interface tests that ended so: failed (unexpected), or held only at a second try (flaky). */
const interfaceTests = (suite, how) => [
  ...(suite.suites ?? []).flatMap((inner) => interfaceTests(inner, how)),
  ...(suite.specs ?? [])
    .filter(({ tests }) => tests.some(({ status }) => status === how))
    .map(({ title, tests }) =>
      failure(title, tests[0].results.findLast(({ error }) => error)?.error.message),
    ),
];

function ensureChromium() {
  if (existsSync(process.env.CHROMIUM ?? '/usr/bin/chromium')) return;
  console.log('Installing chromium with apt …');
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  for (const words of [
    ['apt-get', 'update', '-qq'],
    ['apt-get', 'install', '-y', '-qq', 'chromium'],
  ]) {
    const [command, ...rest] = [...sudo, ...words];
    spawnSync(command, rest, {
      stdio: 'inherit',
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  }
}

ensureInstalled();
ensureChromium();
// Types that an earlier build made of its routes may speak of ones that are gone.
for (const made of ['test-results', '.next/types', '.next/dev']) {
  rmSync(made, { recursive: true, force: true });
}

check('lint', bin('eslint'), ['.']);
check('form', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
check('types', bin('tsc'), ['--noEmit']);
count(
  attempt('unit tests', bin('vitest'), [
    'run',
    '--reporter=default',
    '--reporter=json',
    '--outputFile.json=test-results/unit.json',
  ]),
  'test-results/unit.json',
  (report) => ({ passed: report.numPassedTests, failed: unitFailures(report) }),
);
ensureBuilt();
count(
  attempt('interface tests', bin('playwright'), ['test']),
  'test-results/e2e.json',
  (report) => {
    secondTries.push(...interfaceTests(report, 'flaky'));
    return {
      passed: report.stats.expected + report.stats.flaky,
      failed: interfaceTests(report, 'unexpected'),
    };
  },
);
check('torture', process.execPath, ['--import', 'tsx', 'torture/torture.ts', '3']);

for (const name of secondTries) console.log(`held at the second try: ${name}`);
for (const name of failures) console.log(`failed: ${name}`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed > 0 || passed === 0 ? 1 : 0);
