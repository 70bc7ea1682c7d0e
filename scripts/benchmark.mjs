/** npm run benchmark: builds, then measures; see benchmarks/run.ts. Results as a table and in benchmarks/results/. */
import { build } from 'esbuild';
import { nodeBuild } from './build.mjs';
import { buildIfChanged, checkNode, installPackages, needBrowser, needNativeRenderer, root } from './parts/machine.mjs';

checkNode();
installPackages();
needBrowser();
needNativeRenderer();
buildIfChanged();
const options = nodeBuild();
// dist/ lies where benchmarks/ lies, so scripts are found by the same relative path.
const scriptsStayOutside = {
  name: 'scripts-stay-outside',
  setup: ({ onResolve }) => onResolve({ filter: /^\.\.\/scripts\// }, ({ path }) => ({ path, external: true })),
};
await build({
  ...options,
  entryPoints: { benchmark: 'benchmarks/run.ts' },
  plugins: [scriptsStayOutside, ...options.plugins],
});
await import(`${root}dist/benchmark.mjs`);
