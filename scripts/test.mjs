/** npm test: sets up what is missing, then types, lint, Jest, the build and Playwright, and says how many passed. */
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  buildIfChanged,
  checkNode,
  installPackages,
  needBrowser,
  needPoppler,
  root,
  run,
  say,
} from './parts/machine.mjs';

checkNode();
installPackages();
needBrowser();
needPoppler();

const reports = mkdtempSync(join(tmpdir(), 'tolvik-test-'));
const jestReport = join(reports, 'jest.json');
const playwrightReport = join(reports, 'playwright.json');
const bin = (name) => join(root, 'node_modules', '.bin', name);
/** Folders with types of their own beside the packages. */
const OTHERS = ['demo', 'e2e', 'benchmarks', 'torture', 'fidelity'];

let ok = true;
/** Steps beside the tests that did not pass, such as types and lint: each counts as a failure. */
let beside = 0;
const step = (title, command, args, env = {}) => {
  say(`\n— ${title}`);
  const went = run(command, args, { env: { ...process.env, ...env } });
  if (!went) say(`✗ ${title}`);
  ok = went && ok;
  return went;
};

const packages = readdirSync(join(root, 'packages')).map((name) => `packages/${name}`);
for (const part of [...packages, ...OTHERS, ...packages.map((name) => `${name}/test`)]) {
  if (existsSync(join(root, part, 'tsconfig.json')) && !step(`types of ${part}`, bin('tsc'), ['-p', part])) beside++;
}
if (!step('lint', bin('biome'), ['check', '.'])) beside++;
// What a test leaves open holds up nothing: its result is there.
step('Jest', bin('jest'), ['--json', `--outputFile=${jestReport}`, '--testLocationInResults', '--forceExit']);
buildIfChanged();
step('Playwright', bin('playwright'), ['test'], { PLAYWRIGHT_JSON_OUTPUT_NAME: playwrightReport });

const read = (path) => (existsSync(path) ? JSON.parse(readFileSync(path, 'utf8')) : null);
const jest = read(jestReport);
const playwright = read(playwrightReport);
const passed = (jest?.numPassedTests ?? 0) + (playwright ? playwright.stats.expected + playwright.stats.flaky : 0);
// A file that does not even run holds tests that nobody counts.
const unread = jest?.numRuntimeErrorTestSuites ?? 0;
if (unread > 0) say(`\n${unread} ${unread === 1 ? 'file' : 'files'} of tests did not run`);
const failed = beside + unread + (jest?.numFailedTests ?? 0) + (playwright ? playwright.stats.unexpected : 0);
rmSync(reports, { recursive: true, force: true });
if (!jest || !playwright || passed === 0) ok = false;
if (playwright?.stats.flaky) say(`\n${playwright.stats.flaky} passed only at the second try`);
say(`\n${passed} passed, ${failed} failed`);
process.exit(ok && failed === 0 ? 0 : 1);
