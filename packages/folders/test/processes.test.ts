import type { ChildProcess } from 'node:child_process';
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Refusal } from '@tolvik/core';
import { FolderProcesses } from '../src';

const childPath = join(__dirname, '../../../dist/folder-child.mjs');
let root: string;
let processes: FolderProcesses;
beforeEach(() => {
  root = mkdtempSync(join(tmpdir(), 'tolvik-processes-'));
});
afterEach(() => {
  processes.close();
  rmSync(root, { recursive: true, force: true });
});
const codeOf = (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'none',
    (error: Error) => (error instanceof Refusal ? error.problem.code : error.message),
  );
const alive = () => [...(processes as unknown as { all: Set<ChildProcess> }).all];

test('a disk that does not answer is told after a while, and others are answered', async () => {
  processes = new FolderProcesses(childPath, 1500);
  mkdirSync(join(root, 'build'));
  expect((await processes.where({ root, folder: 'build' }))?.whole).toMatch(/build$/);
  // As one that waits for a disk: it does nothing, and nobody can tell why.
  alive()[0].kill('SIGSTOP');
  const stuck = codeOf(processes.where({ root, folder: 'build' }));
  expect((await processes.where({ root, folder: '' }))?.identity).toMatch(/^\d+ \d+$/);
  expect(await stuck).toBe('receiver.stuck');
  expect(await codeOf(processes.where({ root, folder: 'build' }))).toBe('none');
});

test('a process that is ended is told, and the next one works', async () => {
  processes = new FolderProcesses(childPath);
  await processes.where({ root, folder: '' });
  const [child] = alive();
  const asked = codeOf(processes.where({ root, folder: '' }));
  child.kill('SIGKILL');
  expect(['receiver.gone', 'none']).toContain(await asked);
  expect(await codeOf(processes.where({ root, folder: '' }))).toBe('none');
});

test('links, what is no folder and what climbs are refused; what is not there is none', async () => {
  processes = new FolderProcesses(childPath);
  symlinkSync(tmpdir(), join(root, 'link'));
  execFileSync('mkfifo', [join(root, 'pipe')]);
  expect(await codeOf(processes.where({ root, folder: 'link' }))).toBe('receiver.link');
  expect(await codeOf(processes.where({ root, folder: 'link/below' }))).toBe('receiver.link');
  expect(await codeOf(processes.where({ root, folder: 'pipe' }))).toBe('receiver.path');
  expect(await codeOf(processes.where({ root, folder: '../up' }))).toBe('receiver.path');
  expect(await codeOf(processes.where({ root: join(root, 'gone'), folder: '' }))).toBe('receiver.disk');
  expect(await processes.where({ root, folder: 'gone' })).toBeNull();
});
