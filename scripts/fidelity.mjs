/** npm run fidelity -- [FOLDER]: builds, then holds what comes out against what came in; see fidelity/run.ts. */
import { build } from 'esbuild';
import { nodeBuild } from './build.mjs';
import { buildIfChanged, checkNode, installPackages, needBrowser, needPoppler, root } from './parts/machine.mjs';

checkNode();
installPackages();
needBrowser();
needPoppler();
buildIfChanged();
await build({ ...nodeBuild(), entryPoints: { fidelity: 'fidelity/run.ts' } });
await import(`${root}dist/fidelity.mjs`);
