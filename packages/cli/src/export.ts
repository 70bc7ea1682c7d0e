import { resolve } from 'node:path';
import { type MakeOptions, Maker, notesOf, plannedTrouble } from './make';
import { open, type Selection } from './source';

export type ExportOptions = MakeOptions & { jobs?: number };

/** Makes the files and writes those that differ; a file that fails is told and the others go on. */
export async function exportFiles(selection: Selection, options: ExportOptions): Promise<number> {
  const opened = await open(selection);
  const { files, refused, told } = opened;
  for (const { message } of refused) process.stderr.write(`! ${message}\n`);
  for (const words of told) process.stderr.write(`- ${words}\n`);
  const trouble = plannedTrouble(opened);
  if (trouble.length > 0) {
    for (const words of trouble) process.stderr.write(`${words}\n`);
    process.stderr.write(`nothing was written: ${trouble.length} files cannot be made as planned\n`);
    return 1;
  }
  const terminal = process.stderr.isTTY;
  const maker = new Maker(options.jobs);
  const made = await maker
    .make(opened, options, {
      made(file, bytes, done) {
        if (terminal) process.stderr.write(`\r${done} of ${files.length}  ${file.path.slice(0, 60).padEnd(60)}`);
        else process.stdout.write(`${file.path}\t${bytes}\n`);
      },
      trouble: (words) => process.stderr.write(`${terminal ? '\r' : ''}${words}\n`),
    })
    .finally(() => maker.close());
  const unwritten = made.same > 0 ? [`${made.same} of them the same as before`] : [];
  const sentence = [
    `${made.done} of ${files.length} files are in ${resolve(options.out)}`,
    ...unwritten,
    ...notesOf(made),
  ];
  process.stderr.write(`${terminal ? '\r' : ''}${sentence.join(', ')}${' '.repeat(terminal ? 30 : 0)}\n`);
  return made.failed + made.foreign + made.notTaken > 0 || refused.length > 0 ? 1 : 0;
}
