import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { expect, test } from '@playwright/test';
import { builtModules, firstNeedsOf } from '../packages/server/src/http/first-needs';
import { root } from '../scripts/parts/machine.mjs';

const assets = join(root, 'dist', 'web', 'assets');
const scripts = () => readdirSync(assets).filter((name) => name.endsWith('.js'));

/** A script and all that it must have before it runs. */
function withNeeded(name: string, seen = new Set<string>()): Set<string> {
  if (seen.has(name)) return seen;
  seen.add(name);
  const text = readFileSync(join(assets, name), 'utf8');
  for (const [, needed] of text.matchAll(/(?:from|import)\s*"\.\/([^"]+\.js)"/g)) withNeeded(needed, seen);
  return seen;
}

/** The scripts that some chunks and all that they need are made of. */
function scriptsOf(...chunks: string[]): Set<string> {
  const all = new Set<string>();
  for (const chunk of chunks) {
    const name = scripts().find((script) => script.startsWith(`${chunk}-`));
    if (!name) throw new Error(`there is no chunk ${chunk}`);
    for (const needed of withNeeded(name)) all.add(needed);
  }
  return all;
}

/** What a stage loads of script before it shows anything, in KB as it goes over the wire. */
function weightOf(...chunks: string[]): number {
  let bytes = 0;
  for (const name of scriptsOf('index', ...chunks)) bytes += gzipSync(readFileSync(join(assets, name))).length;
  return bytes / 1024;
}

test('the app is loaded by stage: the shelf needs little, no stage what only another one shows', () => {
  expect(weightOf('ShelfPage')).toBeLessThan(150);
  expect(weightOf('ProjectPage', 'BenchPage')).toBeLessThan(300);
  expect(weightOf('ProjectPage', 'ProofPage')).toBeLessThan(300);
  expect(weightOf('ProjectPage', 'DeliveriesPage')).toBeLessThan(250);
});

test('the page of a stage names all of its code, so that none of it has to wait for other code', () => {
  const needs = firstNeedsOf(builtModules(join(root, 'dist', 'web')));
  const index = scriptsOf('index');
  for (const [path, ...chunks] of [
    ['/', 'ShelfPage'],
    ['/projects/p/bench', 'ProjectPage', 'BenchPage'],
    ['/projects/p/proof', 'ProjectPage', 'ProofPage'],
    ['/projects/p/deliveries', 'ProjectPage', 'DeliveriesPage'],
  ]) {
    const others = [...scriptsOf(...chunks)].filter((name) => !index.has(name));
    // Each file costs the browser about a millisecond before anything runs.
    expect(others.length).toBeLessThan(13);
    expect([...needs(path).code].sort()).toEqual(others.map((name) => `/assets/${name}`).sort());
  }
});
