import { spawn } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { Worker } from 'node:worker_threads';
import {
  Composer,
  NO_FONTS,
  newId,
  outputRecord,
  ProjectDocument,
  placeFiles,
  planFiles,
  readSvg,
  specRecord,
} from '@tolvik/core';
import { renderFile } from '@tolvik/render';
import type { Source } from './server-process';

const here = (name: string) => fileURLToPath(new URL(`../benchmarks/${name}`, import.meta.url));

/** The libraries themselves, the same six files from each source, on that many threads; seconds. */
export async function bareLibraries(sources: readonly Source[], workers: number): Promise<number> {
  const threads = Array.from(
    { length: workers },
    (_, i) => new Worker(here('bare-worker.mjs'), { workerData: sources.filter((_, at) => at % workers === i) }),
  );
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

/** What a native renderer is asked for, to make the same six files. */
const NATIVE: Record<string, readonly string[]> = {
  svg: ['-f', 'svg'],
  pdf: ['-f', 'pdf'],
  png64: ['-w', '64'],
  png128: ['-w', '128'],
  png192: ['-w', '192'],
  png192again: ['-w', '192'],
};

/** A native renderer's process for each file, two at a time; files a second. */
export async function processPerFile(sources: readonly Source[], folder: string): Promise<{ perSecond: number }> {
  const jobs = sources.flatMap((source, i) =>
    Object.entries(NATIVE).map(([kind, args]) => ({
      path: join(folder, `one-${i}-${kind}.svg`),
      text: source.text,
      args,
    })),
  );
  for (const { path, text } of jobs) writeFileSync(path, text);
  const from = performance.now();
  let next = 0;
  const runner = async () => {
    while (next < jobs.length) {
      const { path, args } = jobs[next++];
      await new Promise<void>((resolve, reject) => {
        const child = spawn('rsvg-convert', [...args, '-o', `${path}.out`, path], {
          stdio: ['ignore', 'ignore', 'inherit'],
        });
        child.once('error', reject);
        child.once('exit', (code) => (code === 0 ? resolve() : reject(new Error(`one file ended with ${code}`))));
      });
    }
  };
  await Promise.all([runner(), runner()]);
  const perSecond = jobs.length / ((performance.now() - from) / 1000);
  for (const { path } of jobs) rmSync(path);
  return { perSecond };
}

/** How many times as fast our PDF is as the converter's, over the same drawings, one after the other. */
export async function pdfAgainstConverter(sources: readonly Source[]): Promise<number> {
  const { KINDS } = (await import(pathToFileURL(here('bare.mjs')).href)) as {
    KINDS: { pdf(text: string): Promise<Buffer> };
  };
  const doc = new ProjectDocument();
  const spec = specRecord.parse({ id: newId(), kind: 'spec', order: 'a0', name: 'PDF' });
  const output = outputRecord.parse({
    id: newId(),
    kind: 'output',
    specId: spec.id,
    order: 'a0',
    size: { kind: 'factor', factor: 1 },
    settings: { format: 'pdf' },
  });
  const files = sources.map(({ name, text }) => ({ name, artwork: readSvg(text, name) }));
  doc.apply({ puts: [spec, output, ...placeFiles(doc, files, [spec.id])], removes: [] });
  const composer = new Composer(doc, { fonts: NO_FONTS, pictures: () => undefined });
  const jobs = planFiles(doc, 'pdf').files.map((file) => composer.job(file));
  const seconds = async <T>(all: readonly T[], make: (one: T) => Promise<unknown>) => {
    for (const one of all.slice(0, 50)) await make(one);
    const from = performance.now();
    for (const one of all) await make(one);
    return performance.now() - from;
  };
  const converter = await seconds(sources, ({ text }) => KINDS.pdf(text));
  return converter / (await seconds(jobs, ({ pictures: _, ...job }) => renderFile(job)));
}
