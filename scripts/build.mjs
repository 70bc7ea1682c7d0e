/**
 * Builds dist/: server, workers, command line and demo loader with esbuild, the web app with Vite. With TOLVIK_LANGUAGE
 * it says the words of `words/LANGUAGE/`, and its own English where those have none.
 */

import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { brotliCompressSync, constants } from 'node:zlib';
import { build } from 'esbuild';
import { folderOfPackage, packageFolders, writeNotices } from './parts/notices.mjs';
import { pagesOfModules, sharedFile } from './parts/shared-code.mjs';
import { language, speaking } from './parts/words.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));

/** Packages of which a workspace has a version of its own: dist/ would find the root's, so these are bundled. */
const nested = new Set(
  readdirSync(`${root}packages`).flatMap((name) =>
    existsSync(`${root}packages/${name}/node_modules`) ? readdirSync(`${root}packages/${name}/node_modules`) : [],
  ),
);

/**
 * Packages of many small modules, of which every thread and process that starts would find and read each: bundled, they
 * come up in two thirds of the time. The others stay outside: they bring native code or files of their own.
 */
const BUNDLED = new Set([
  '@noble/hashes',
  'css-tree',
  'culori',
  'flatbush',
  'fractional-indexing',
  'nanoid',
  'svgpath',
  'chokidar',
  'css-select',
  'css-what',
  'papaparse',
  're2js',
  'saxes',
  'zod',
]);
/** "@scope/name/part" as the package it is in. */
export const packageOf = (path) => /^(?:@[^/]+\/)?[^/]+/.exec(path)[0];

const { TOLVIK_LANGUAGE: spoken = 'en' } = process.env;
const otherWords = spoken === 'en' ? undefined : speaking(spoken, language(root, spoken));

export const nodeBuild = () => ({
  absWorkingDir: root,
  entryPoints: {
    server: 'packages/server/src/main.ts',
    'read-worker': 'packages/server/src/bring-in/read-worker.ts',
    'project-worker': 'packages/server/src/projects/project-worker.ts',
    'render-child': 'packages/render/src/pool/child.ts',
    'outline-thread': 'packages/render/src/outlines/thread.ts',
    'folder-child': 'packages/folders/src/process/child.ts',
    cli: 'packages/cli/src/main.ts',
    demo: 'demo/load.ts',
    'stand-ins': 'packages/stand-ins/src/main.ts',
  },
  outdir: 'dist',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  splitting: false,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  sourcemap: true,
  loader: { '.sql': 'text' },
  logLevel: 'warning',
  plugins: [
    ...(otherWords ? [otherWords.esbuild] : []),
    {
      name: 'packages-stay-outside',
      setup({ onResolve }) {
        onResolve({ filter: /^[^./]/ }, ({ path, kind, importer }) =>
          kind === 'entry-point' ||
          path.startsWith('@tolvik/') ||
          nested.has(packageOf(path)) ||
          // What a bundled package needs comes with it.
          importer.includes('/node_modules/') ||
          BUNDLED.has(packageOf(path))
            ? undefined
            : { path, external: true, sideEffects: false },
        );
      },
    },
  ],
});

export async function buildNode() {
  const { metafile } = await build({ ...nodeBuild(), metafile: true });
  writeNotices(
    `${root}dist/third-party-notices.txt`,
    packagesOf(metafile, 'server', 'render', 'cli', 'core', 'intake'),
  );
}

/** The folders of the packages in what was built, and of those that it imports as some workspaces ask for them. */
export function packagesOf({ inputs, outputs }, ...workspaces) {
  const imported = Object.values(outputs).flatMap(({ imports }) =>
    imports.flatMap(({ path, external }) => (external && !path.startsWith('node:') ? [packageOf(path)] : [])),
  );
  const folders = imported.flatMap((name) => {
    const folder = workspaces.map((workspace) => folderOfPackage(name, workspace)).find((each) => existsSync(each));
    return folder ? [folder] : [];
  });
  return [...new Set([...packageFolders(Object.keys(inputs)), ...folders])].sort();
}

export async function buildWeb() {
  // Whoever builds, also a test whose own mode is another: what is built is what is shipped.
  process.env.NODE_ENV = 'production';
  const { build: viteBuild } = await import('vite');
  const builtWith = (build) =>
    viteBuild({
      root: `${root}packages/web`,
      logLevel: 'warn',
      plugins: otherWords ? [otherWords.vite] : [],
      worker: { plugins: () => (otherWords ? [otherWords.vite] : []) },
      build,
    });
  // Once to see which page needs what, and once with that in few files.
  const { output } = await builtWith({ write: false, minify: false, manifest: false });
  const pages = pagesOfModules(output.filter(({ type }) => type === 'chunk'));
  const name = (id) => sharedFile(id, pages.get(id));
  const groups = [{ name, debugName: 'shared by pages', includeDependenciesRecursively: false }];
  await builtWith({ rolldownOptions: { output: { codeSplitting: { groups } } } });
  packAssets(`${root}dist/web/assets/`);
  const modules = output.flatMap((chunk) => (chunk.type === 'chunk' ? Object.keys(chunk.modules) : []));
  writeNotices(`${root}dist/web/third-party-notices.txt`, [...packageFolders(modules), ...shippedFonts()]);
}

/** Fonts of the app and of its rasteriser come as files that no module imports. */
const shippedFonts = () =>
  ['web', 'render'].flatMap((workspace) =>
    Object.keys(JSON.parse(readFileSync(`${root}packages/${workspace}/package.json`, 'utf8')).dependencies)
      .filter((name) => name.startsWith('@fontsource') || name.startsWith('@resvg'))
      .map((name) => folderOfPackage(name, workspace)),
  );

/** What gets smaller by it is compressed once, here, and not each time it is sent. */
function packAssets(folder) {
  for (const name of readdirSync(folder)) {
    if (!/\.(?:js|css|svg|wasm)$/.test(name)) continue;
    const params = { [constants.BROTLI_PARAM_QUALITY]: 9 };
    writeFileSync(`${folder}${name}.br`, brotliCompressSync(readFileSync(`${folder}${name}`), { params }));
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  await buildNode();
  await buildWeb();
}
