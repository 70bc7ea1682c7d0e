/**
 * npm test: sets up what is missing, then types, lint, Jest, the build and Playwright, and says how many passed. With a
 * part as its argument (`npm run test:fast` and the like) it runs that part alone; all of them are `npm test`.
 */
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  buildIfChanged,
  checkNode,
  giveUp,
  installPackages,
  needBrowser,
  needGhostscript,
  needPoppler,
  root,
  run,
  say,
} from './parts/machine.mjs';
import { checkTypes } from './parts/types.mjs';

/** What each part proves; of Jest by the paths of its tests. */
const PARTS = {
  /** Types, lint, and what needs neither a server nor a process of ours: core, folders, the app without a browser. */
  fast: {
    before: true,
    jest: ['packages/(core|folders|intake)/', 'packages/web/test/(?!session|windows|opened)', 'scripts/test/'],
  },
  /** The server on a real PostgreSQL, files as they are rendered, the command line, windows over a server. */
  server: { jest: ['packages/(server|render|cli|stand-ins)/', 'packages/web/test/(session|windows)'] },
  /** Attacks, kills, hostile folders, files held against a browser. */
  heavy: { jest: ['torture/', 'fidelity/'] },
  /** The app in a real browser. */
  browser: { browser: true },
};
const asked = process.argv.slice(2);
const unknown = asked.find((name) => !Object.hasOwn(PARTS, name));
if (unknown) giveUp(`There is no part "${unknown}" of the tests; there are ${Object.keys(PARTS).join(', ')}.`);
const parts = (asked.length > 0 ? asked : Object.keys(PARTS)).map((name) => PARTS[name]);
const jestPaths = parts.flatMap(({ jest = [] }) => jest);
const isWhole = asked.length === 0;

checkNode();
installPackages();
if (isWhole || asked.some((name) => name !== 'fast')) needBrowser();
if (jestPaths.length > 0) {
  needPoppler();
  needGhostscript();
}

const reports = mkdtempSync(join(tmpdir(), 'tolvik-test-'));
const jestReport = join(reports, 'jest.json');
const playwrightReport = join(reports, 'playwright.json');
const bin = (name) => join(root, 'node_modules', '.bin', name);

let ok = true;
/** Steps beside the tests that did not pass, such as types and lint: each counts as a failure. */
let beside = 0;
const began = Date.now();
const step = (title, command, args, env = {}) => {
  say(`\n— ${title} (after ${Math.round((Date.now() - began) / 1000)} s)`);
  const went = run(command, args, { env: { ...process.env, ...env } });
  if (!went) say(`✗ ${title}`);
  ok = went && ok;
  return went;
};

if (parts.some(({ before }) => before)) {
  say('\n— types');
  const wrong = await checkTypes();
  beside += wrong;
  ok = ok && wrong === 0;
  if (!step('lint', bin('biome'), ['check', '.'])) beside++;
}
// What a test leaves open holds up nothing: its result is there.
if (jestPaths.length > 0)
  step('Jest', bin('jest'), [
    ...(isWhole ? [] : ['--testPathPatterns', jestPaths.join('|')]),
    '--json',
    `--outputFile=${jestReport}`,
    '--testLocationInResults',
    '--forceExit',
  ]);
const inBrowser = parts.some(({ browser }) => browser);
if (inBrowser) {
  buildIfChanged();
  step('Playwright', bin('playwright'), ['test'], { PLAYWRIGHT_JSON_OUTPUT_NAME: playwrightReport });
}

const read = (path) => (existsSync(path) ? JSON.parse(readFileSync(path, 'utf8')) : null);
const jest = read(jestReport);
const playwright = read(playwrightReport);
const passed = (jest?.numPassedTests ?? 0) + (playwright ? playwright.stats.expected + playwright.stats.flaky : 0);
// A file that does not even run holds tests that nobody counts.
const unread = jest?.numRuntimeErrorTestSuites ?? 0;
if (unread > 0) say(`\n${unread} ${unread === 1 ? 'file' : 'files'} of tests did not run`);
const failed = beside + unread + (jest?.numFailedTests ?? 0) + (playwright ? playwright.stats.unexpected : 0);
rmSync(reports, { recursive: true, force: true });
if ((jestPaths.length > 0 && !jest) || (inBrowser && !playwright) || passed === 0) ok = false;
if (playwright?.stats.flaky) say(`\n${playwright.stats.flaky} passed only at the second try`);
say(`\nIt took ${Math.round((Date.now() - began) / 1000)} s.`);
say(`\n${passed} passed, ${failed} failed`);
process.exit(ok && failed === 0 ? 0 : 1);
