/** npm run benchmark: builds, then measures; see benchmarks/run.ts. Results go to docs/performance.md. */
import { needBrowser, needNativeRenderer } from './parts/machine.mjs';
import { runProgram } from './parts/program.mjs';

await runProgram('benchmark', 'benchmarks/run.ts', needBrowser, needNativeRenderer);
