/** npm run fidelity -- [FOLDER]: builds, then holds what comes out against what came in; see fidelity/run.ts. */
import { existsSync } from 'node:fs';
import { aptInstall, needBrowser, needGhostscript, needPoppler } from './parts/machine.mjs';
import { runProgram } from './parts/program.mjs';

/** Drawings by which a renderer of others is tested, from Debian's package. */
const needPeer = () => {
  if (process.argv[2] === 'peer' && !existsSync('/usr/libexec/installed-tests/RSVG')) aptInstall('librsvg2-tests');
};

await runProgram('fidelity', 'fidelity/run.ts', needBrowser, needPoppler, needGhostscript, needPeer);
