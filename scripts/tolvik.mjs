#!/usr/bin/env node
/** npx tolvik: builds the command line when it is not there, then runs it. */
import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const cli = new URL('../dist/cli.mjs', import.meta.url);
if (!existsSync(fileURLToPath(cli))) {
  const { buildNode } = await import('./build.mjs');
  await buildNode();
}
await import(cli.href);
