/** npm run benchmark: builds, then measures; see benchmarks/run.ts. Results as a table and in benchmarks/results/. */
import { needBrowser, needNativeRenderer } from './parts/machine.mjs';
import { runProgram } from './parts/program.mjs';

await runProgram('benchmark', 'benchmarks/run.ts', needBrowser, needNativeRenderer);
