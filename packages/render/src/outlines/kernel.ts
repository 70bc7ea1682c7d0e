/// <reference path="./pathkit-wasm.d.ts" />
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { PathKernel } from '@tolvik/core';

const EVENTS = ['uncaughtException', 'unhandledRejection'] as const;

let loaded: Promise<PathKernel> | undefined;

/** The geometry kernel, compiled at the first call in a thread. */
export function pathKernel(): Promise<PathKernel> {
  return (loaded ??= load());
}

async function load(): Promise<PathKernel> {
  const path = createRequire(import.meta.url).resolve('pathkit-wasm/bin/pathkit.wasm');
  const { default: start } = await import('pathkit-wasm/bin/pathkit.js');
  const before = EVENTS.map((event) => process.listeners(event as 'exit'));
  const kernel = await start({ wasmBinary: readFileSync(path) });
  // It would have whatever goes wrong anywhere end the process.
  for (const [i, event] of EVENTS.entries())
    for (const listener of process.listeners(event as 'exit'))
      if (!before[i].includes(listener)) process.off(event, listener);
  return kernel;
}
