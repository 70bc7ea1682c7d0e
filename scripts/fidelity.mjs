/** npm run fidelity -- [FOLDER]: builds, then holds what comes out against what came in; see fidelity/run.ts. */
import { needBrowser, needPoppler } from './parts/machine.mjs';
import { runProgram } from './parts/program.mjs';

await runProgram('fidelity', 'fidelity/run.ts', needBrowser, needPoppler);
