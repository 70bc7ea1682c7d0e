import { spawn } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import type { Source } from './server-process';

const here = (name: string) => fileURLToPath(new URL(`../benchmarks/${name}`, import.meta.url));

/** The libraries themselves, the same six files from each source, on that many threads; seconds. */
export async function bareLibraries(sources: readonly Source[], workers: number): Promise<number> {
  const threads = Array.from({ length: workers }, (_, i) => new Worker(here('bare-worker.mjs'), { workerData: sources.filter((_, at) => at % workers === i) }));
  await Promise.all(threads.map((thread) => new Promise((resolve) => thread.once('message', resolve))));
  const from = performance.now();
  await Promise.all(
    threads.map((thread) => {
      thread.postMessage('go');
      return new Promise((resolve) => thread.once('message', resolve));
    }),
  );
  const seconds = (performance.now() - from) / 1000;
  await Promise.all(threads.map((thread) => thread.terminate()));
  return seconds;
}

/** One process for each file, two at a time; files a second. */
export async function processPerFile(sources: readonly Source[], folder: string): Promise<{ perSecond: number }> {
  const jobs = sources.flatMap((source, i) => ['svg', 'pdf', 'png64', 'png128', 'png192', 'jpeg192'].map((kind) => ({ source, kind, i })));
  const from = performance.now();
  let next = 0;
  const runner = async () => {
    while (next < jobs.length) {
      const { source, kind, i } = jobs[next++];
      const path = join(folder, `one-${i}-${kind}.svg`);
      writeFileSync(path, source.text);
      await new Promise<void>((resolve, reject) => {
        const child = spawn(process.execPath, [here('one-file.mjs'), path, kind, `${path}.out`], { stdio: ['ignore', 'ignore', 'inherit'] });
        child.once('exit', (code) => (code === 0 ? resolve() : reject(new Error(`one file ended with ${code}`))));
      });
      rmSync(path);
    }
  };
  await Promise.all([runner(), runner()]);
  return { perSecond: jobs.length / ((performance.now() - from) / 1000) };
}
