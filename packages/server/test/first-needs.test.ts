import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FIRST_FILES } from '@tolvik/core';
import { builtModules, firstNeedsOf } from '../src/http/first-needs';

const dataOf = (path: string) => firstNeedsOf({})(path).data;

test('a stage is told what it reads first, for paths that are a project', () => {
  expect(dataOf('/projects/abc_-9/proof')).toEqual([
    '/api/projects/abc_-9/records?since=0',
    `/api/projects/abc_-9/made?first=${FIRST_FILES}`,
  ]);
  for (const path of ['/projects/abc', '/projects/abc/', '/projects/abc/bench', '/projects/abc/deliveries/x'])
    expect(dataOf(path)).toEqual(['/api/projects/abc/records?since=0']);
  for (const path of [
    '/',
    '/projects/',
    '/projects/a b',
    '/projects/%3E%3Cx',
    '/projects/a>;b',
    `/projects/${'a'.repeat(65)}/proof`,
  ])
    expect(dataOf(path)).toEqual([]);
});

test('its code is all that its page reaches, but what the app itself begins with', () => {
  const needs = firstNeedsOf({
    'index.html': { file: 'assets/index.js', isEntry: true, imports: ['_react.js'] },
    '_react.js': { file: 'assets/react.js' },
    'src/app/ProjectPage.tsx': { file: 'assets/ProjectPage.js', imports: ['_react.js', '_document.js', 'index.html'] },
    'src/proof/ProofPage.tsx': { file: 'assets/ProofPage.js', imports: ['_document.js', '_matrix.js'] },
    // One that imports what imports it ends, too.
    '_matrix.js': { file: 'assets/matrix.js', imports: ['src/proof/ProofPage.tsx'] },
    '_document.js': { file: 'assets/document.js' },
    'src/shelf/ShelfPage.tsx': { file: 'assets/ShelfPage.js', imports: ['_gone.js'] },
  });
  expect(needs('/projects/abc/proof').code).toEqual([
    '/assets/ProjectPage.js',
    '/assets/document.js',
    '/assets/ProofPage.js',
    '/assets/matrix.js',
  ]);
  expect(needs('/').code).toEqual(['/assets/ShelfPage.js']);
  // On the Shelf the code of a project comes when there is nothing else to do; in one, the app itself sees to it.
  expect(needs('/').later).toEqual([
    '/assets/ProjectPage.js',
    '/assets/document.js',
    '/assets/ProofPage.js',
    '/assets/matrix.js',
  ]);
  expect(needs('/projects/abc/proof').later).toEqual([]);
  expect(needs('/projects/abc/bench').code).toEqual(['/assets/ProjectPage.js', '/assets/document.js']);
  for (const path of ['/projects/abc/elsewhere', '/nowhere', '/projects/']) expect(needs(path).code).toEqual([]);
});

test('a build that tells nothing of itself needs nothing told', () => {
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-built-'));
  expect(builtModules(folder)).toEqual({});
  mkdirSync(join(folder, '.vite'));
  writeFileSync(join(folder, '.vite', 'manifest.json'), '{"a.tsx":{"file":"assets/a.js"}}');
  expect(builtModules(folder)).toEqual({ 'a.tsx': { file: 'assets/a.js' } });
});
