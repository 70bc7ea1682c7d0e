/** What the scripts need of the machine: Node, packages, Debian's programs. No dependencies. */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('../..', import.meta.url));
export const dataFolder = () => process.env.TOLVIK_DATA || join(root, '.tolvik');
export const isRoot = () => process.getuid?.() === 0;

export const say = (words) => console.log(words);

/** Ends the script with one sentence. */
export function giveUp(words) {
  console.error(words);
  process.exit(1);
}

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    giveUp(`Tolvik needs Node.js 20.19 or newer; this is ${process.versions.node}.`);
}

const hashOf = (text) => createHash('sha256').update(text).digest('hex');

/** Runs a program to its end; answers whether it went well. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { stdio: 'inherit', cwd: root, ...options });
  return !error && status === 0;
}

/** Installs the npm packages when the lock file changed since they were installed. */
export function installPackages() {
  const lock = hashOf(readFileSync(join(root, 'package-lock.json')));
  const mark = join(root, 'node_modules', '.tolvik-lock');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === lock) return;
  say('Installing packages…');
  if (!run('npm', ['ci', '--ignore-scripts', '--no-audit', '--no-fund', '--loglevel=error']))
    giveUp('The npm packages could not be installed; run "npm ci" to see why.');
  writeFileSync(mark, lock);
}

export const onPath = (program) => spawnSync('sh', ['-c', `command -v ${program}`]).status === 0;

let updated = false;
/** Installs Debian packages where that is possible; answers whether they are there now. */
export function aptInstall(...packages) {
  if (!isRoot() || !onPath('apt-get')) return false;
  const quiet = { stdio: 'ignore', env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } };
  if (!updated) run('apt-get', ['update', '-q'], quiet);
  updated = true;
  return run('apt-get', ['install', '-y', '-q', '--no-install-recommends', ...packages], quiet);
}

/** The native renderer that measurements are held against. */
export function needNativeRenderer() {
  if (onPath('rsvg-convert')) return;
  say('Installing librsvg2-bin…');
  if (!aptInstall('librsvg2-bin'))
    giveUp('The benchmark needs rsvg-convert; run "sudo apt-get install librsvg2-bin" and try again.');
}

/** What draws and reads PDFs in tests and measurements. */
export function needPoppler() {
  if (onPath('pdftocairo')) return;
  say('Installing poppler-utils…');
  if (!aptInstall('poppler-utils'))
    giveUp('This needs poppler-utils; run "sudo apt-get install poppler-utils" and try again.');
}

/** What draws EPS files in tests. */
export function needGhostscript() {
  if (onPath('gs')) return;
  say('Installing ghostscript…');
  if (!aptInstall('ghostscript'))
    giveUp('This needs ghostscript; run "sudo apt-get install ghostscript" and try again.');
}

/** Debian's Chromium without windows, which needs a fifth less of the processor, or the whole of it. */
const BROWSERS = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'];

/** The browser that tests, measurements and screenshots drive. */
export const browserPath = () => process.env.CHROMIUM ?? BROWSERS.find((path) => existsSync(path)) ?? BROWSERS[1];

/** Installs that browser where there is none. */
export function needBrowser() {
  if (process.env.CHROMIUM || existsSync(BROWSERS[0])) return;
  say('Installing Chromium…');
  if (aptInstall('chromium-headless-shell') || existsSync(BROWSERS[1]) || aptInstall('chromium')) return;
  giveUp('This needs Chromium; run "sudo apt-get install chromium-headless-shell" and try again.');
}

/** A port of the loopback interface that nobody uses now. */
export function freePort() {
  return new Promise((resolve, reject) => {
    const server = createServer();
    server.on('error', reject);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });
}

export function portIsFree(port, host = '127.0.0.1') {
  return new Promise((resolve) => {
    const server = createServer();
    server.on('error', () => resolve(false));
    server.listen(port, host, () => server.close(() => resolve(true)));
  });
}

function* filesBelow(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) {
      if (entry.name !== 'node_modules' && entry.name !== 'test') yield* filesBelow(path);
    } else yield path;
  }
}

/** A mark that changes when anything that is built from does. */
export function sourceMark() {
  const parts = [];
  for (const folder of ['packages', 'demo'])
    for (const path of filesBelow(join(root, folder))) parts.push(`${path} ${statSync(path).mtimeMs}`);
  for (const file of ['package-lock.json', 'scripts/build.mjs'])
    parts.push(`${file} ${statSync(join(root, file)).mtimeMs}`);
  return hashOf(parts.sort().join('\n'));
}

/** Builds dist/ when the sources changed since it was built. */
export function buildIfChanged() {
  const mark = join(root, 'dist', '.built');
  const now = sourceMark();
  if (existsSync(mark) && readFileSync(mark, 'utf8') === now) return;
  say('Building…');
  if (!run(process.execPath, ['scripts/build.mjs'])) giveUp('The build failed; what is wrong is said above.');
  mkdirSync(join(root, 'dist'), { recursive: true });
  writeFileSync(mark, now);
}
