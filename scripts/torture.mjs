/** npm run torture: builds, then attacks; see torture/run.ts. Results go to docs/reliability.md. */
import { build } from 'esbuild';
import { nodeBuild } from './build.mjs';
import { buildIfChanged, checkNode, installPackages, needBrowser, root } from './parts/machine.mjs';

checkNode();
installPackages();
needBrowser();
buildIfChanged();
const options = nodeBuild();
// dist/ lies where torture/ lies, so scripts are found by the same relative path.
const scriptsStayOutside = {
  name: 'scripts-stay-outside',
  setup: ({ onResolve }) => onResolve({ filter: /^\.\.\/scripts\// }, ({ path }) => ({ path, external: true })),
};
await build({
  ...options,
  entryPoints: { torture: 'torture/run.ts' },
  plugins: [scriptsStayOutside, ...options.plugins],
});
await import(`${root}dist/torture.mjs`);
