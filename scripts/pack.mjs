/**
 * npm run pack: the command line as an npm package of its own, dist/tolvik-VERSION.tgz, to be installed in any project
 * without this repository. `-- FOLDER` packs it there instead.
 */
import { spawnSync } from 'node:child_process';
import { chmodSync, copyFileSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { builtinModules } from 'node:module';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { checkNode, installPackages } from './parts/machine.mjs';

checkNode();
installPackages();
// Only now: on a machine that had nothing they were not there.
const { build } = await import('esbuild');
const { nodeBuild, packageOf, packagesOf } = await import('./build.mjs');
const { writeNotices } = await import('./parts/notices.mjs');

const root = fileURLToPath(new URL('..', import.meta.url));
const SOURCES = ['cli', 'core', 'folders', 'intake', 'render'];
const NOTICES = 'third-party-notices.txt';
const SCHEMAS = ['delivery.schema.json', 'intake-rules.schema.json'];

const json = (path) => JSON.parse(readFileSync(join(root, path), 'utf8'));
const isBuiltin = (path) => path.startsWith('node:') || builtinModules.includes(path);

/** The packages that built files import, by how the workspaces they come from ask for them. */
function dependenciesOf(metafile) {
  const asked = Object.assign({}, ...SOURCES.map((name) => json(`packages/${name}/package.json`).dependencies));
  const imported = new Set(
    Object.values(metafile.outputs).flatMap(({ imports }) =>
      imports.flatMap(({ path, external }) => (external && !isBuiltin(path) ? [packageOf(path)] : [])),
    ),
  );
  // Fonts are read as files, and imported by nobody.
  for (const name of Object.keys(asked)) if (name.startsWith('@fontsource/')) imported.add(name);
  return Object.fromEntries(
    [...imported].sort().map((name) => {
      if (!asked[name]) throw new Error(`${name} is imported, and no package of the command line asks for it`);
      return [name, asked[name]];
    }),
  );
}

/** What the command line runs: itself, the processes that draw, and their thread for outlines. */
const PROGRAMS = ['cli', 'render-child', 'outline-thread'];

/** Packs the command line into a folder; answers the path of the packed file. */
async function pack(into) {
  const at = mkdtempSync(join(tmpdir(), 'tolvik-pack-'));
  mkdirSync(into, { recursive: true });
  const { entryPoints, ...options } = nodeBuild();
  const { metafile } = await build({
    ...options,
    entryPoints: Object.fromEntries(PROGRAMS.map((name) => [name, entryPoints[name]])),
    outdir: at,
    sourcemap: false,
    metafile: true,
    banner: { js: '#!/usr/bin/env node' },
  });
  chmodSync(join(at, 'cli.mjs'), 0o755);
  const { name, version, description, license, engines } = json('package.json');
  const about = {
    name,
    version,
    description,
    license,
    type: 'module',
    engines,
    bin: { tolvik: 'cli.mjs' },
    files: ['*.mjs', ...SCHEMAS, NOTICES],
    dependencies: dependenciesOf(metafile),
  };
  writeFileSync(join(at, 'package.json'), `${JSON.stringify(about, null, 2)}\n`);
  for (const schema of SCHEMAS) copyFileSync(join(root, 'docs', schema), join(at, schema));
  copyFileSync(join(root, 'docs', 'build-scripts.md'), join(at, 'README.md'));
  copyFileSync(join(root, 'LICENSE'), join(at, 'LICENSE'));
  const shipped = packagesOf(metafile, ...SOURCES);
  const fonts = Object.keys(about.dependencies).filter((name) => name.startsWith('@fontsource/'));
  writeNotices(join(at, NOTICES), [...shipped, ...fonts.map((name) => join(root, 'node_modules', name))]);
  const { status, stdout, stderr } = spawnSync('npm', ['pack', '--json', '--pack-destination', into], {
    cwd: at,
    encoding: 'utf8',
  });
  rmSync(at, { recursive: true, force: true });
  if (status !== 0) throw new Error(stderr);
  return join(into, JSON.parse(stdout)[0].filename);
}

console.log(await pack(resolve(process.argv[2] ?? join(root, 'dist'))));
