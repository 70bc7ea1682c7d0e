/** npm run torture: builds, then attacks; see torture/run.ts. Results go to docs/reliability.md. */
import { needBrowser } from './parts/machine.mjs';
import { runProgram } from './parts/program.mjs';

await runProgram('torture', 'torture/run.ts', needBrowser);
