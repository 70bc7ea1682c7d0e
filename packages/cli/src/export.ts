import { resolve } from 'node:path';
import { count } from '@tolvik/core';
import { lackedSizes, type MakeOptions, Maker, notesOf, plannedTrouble } from './make';
import { err, out, over } from './say';
import { open, type Selection } from './source';

export type ExportOptions = MakeOptions & { jobs?: number };

/** Makes the files and writes those that differ; a file that fails is told and the others go on. */
export async function exportFiles(selection: Selection, options: ExportOptions): Promise<number> {
  const opened = await open(selection);
  const { files, refused, told } = opened;
  for (const { message } of refused) err(`! ${message}`);
  for (const words of told) err(`- ${words}`);
  const trouble = plannedTrouble(opened);
  if (trouble.length > 0) {
    for (const words of trouble) err(words);
    err(`nothing was written: ${count(trouble.length, 'file')} cannot be made as planned`);
    return 1;
  }
  const terminal = process.stderr.isTTY;
  const maker = new Maker(options.jobs);
  const made = await maker
    .make(opened, options, {
      made(file, bytes, done) {
        if (terminal) over(`${done} of ${files.length}  ${file.path.slice(0, 60).padEnd(60)}`);
        else out(file.path, bytes);
      },
      trouble(words) {
        if (terminal) over('');
        err(words);
      },
    })
    .finally(() => maker.close());
  const unwritten = made.same > 0 ? [`${made.same} of them the same as before`] : [];
  const sentence = [
    `${made.done} of ${files.length} files are in ${resolve(options.out)}`,
    ...unwritten,
    ...notesOf(made),
  ];
  if (terminal) over('');
  err(`${sentence.join(', ')}${' '.repeat(terminal ? 30 : 0)}`);
  const incomplete = lackedSizes(opened, options.rules);
  for (const words of incomplete) err(`! ${words}`);
  const off = made.failed + made.foreign + made.notTaken + incomplete.length + refused.length;
  if (files.length === 0) err('there was nothing to make');
  return off > 0 || files.length === 0 ? 1 : 0;
}
