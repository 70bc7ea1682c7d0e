/** npm run stand-ins: builds, then starts the simulated intakes; see packages/stand-ins. */
import { buildIfChanged, checkNode, installPackages, root } from './parts/machine.mjs';

checkNode();
installPackages();
buildIfChanged();
await import(`${root}dist/stand-ins.mjs`);
