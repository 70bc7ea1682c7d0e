import { resolve } from 'node:path';
import { asWritten, Composer, documentFonts, type IntakeRules, refusals } from '@tolvik/core';
import { RenderPool, renderJob, shippedFonts } from '@tolvik/render';
import { IntoFolder } from './into-folder';
import { RENDER_CHILD } from './render-child-path';
import { open, type Selection } from './source';

/** Files handed to the pool ahead of the one being made. */
const AHEAD = 64;

export type ExportOptions = {
  out: string;
  jobs?: number;
  /** Whether `delivery.json` is kept beside the files, by which it is known whose each is. */
  receipt: boolean;
  /** What the folder takes; what it does not take is not written. */
  rules?: IntakeRules;
  /** Whether what is left over from before is taken away. */
  removeLeftovers: boolean;
  /** Whether files that somebody else put or changed are replaced. */
  replaceForeign: boolean;
};

/** Makes the files and writes those that differ; a file that fails is told and the others go on. */
export async function exportFiles(selection: Selection, options: ExportOptions): Promise<number> {
  const { out, jobs, receipt, rules, removeLeftovers, replaceForeign } = options;
  const { name, doc, pictures, files, plan, refused, told } = await open(selection);
  for (const { message } of refused) process.stderr.write(`! ${message}\n`);
  for (const words of told) process.stderr.write(`- ${words}\n`);
  const troubled = files.filter((file) => file.problem || file.clashCount > 0);
  if (troubled.length > 0) {
    const nameOf = new Map(plan.pieces.map((piece) => [piece.id, piece.name]));
    for (const file of troubled)
      process.stderr.write(
        `! ${nameOf.get(file.pieceId)}: ${file.problem ?? `${file.path} is taken by another file`}\n`,
      );
    process.stderr.write(`nothing was written: ${troubled.length} files cannot be made as planned\n`);
    return 1;
  }
  const folder = resolve(out);
  const composer = new Composer(doc, {
    fonts: documentFonts(doc, shippedFonts(import.meta.url), (hash) => pictures.get(hash)?.bytes),
    pictures: (hash) => pictures.get(hash),
  });
  const pool = new RenderPool({ childPath: RENDER_CHILD, size: jobs });
  const terminal = process.stderr.isTTY;
  const paths = files.map(({ path }) => path);
  const into = await IntoFolder.open(folder, paths, receipt, { removeLeftovers, replaceForeign });
  let done = 0;
  let same = 0;
  let foreign = 0;
  let failed = 0;
  let notTaken = 0;
  let next = 0;
  const worker = async () => {
    while (next < files.length) {
      const file = files[next++];
      try {
        const { bytes, measured } = await pool.render(renderJob(composer.job(file), (hash) => pictures.get(hash)));
        const broken = rules ? refusals(rules, asWritten(file, measured)) : [];
        if (broken.length > 0) {
          notTaken++;
          for (const { words } of broken) process.stderr.write(`! ${file.path}: ${rules?.name} ${words}\n`);
          continue;
        }
        const became = await into.take(file, bytes);
        if (became === 'foreign') {
          foreign++;
          process.stderr.write(`! ${file.path}: somebody else put or changed it; --replace replaces it\n`);
          continue;
        }
        if (became === 'same') same++;
        done++;
        if (terminal) process.stderr.write(`\r${done} of ${files.length}  ${file.path.slice(0, 60).padEnd(60)}`);
        else process.stdout.write(`${file.path}\t${bytes.length}\n`);
      } catch (error) {
        failed++;
        process.stderr.write(`${terminal ? '\r' : ''}! ${file.path}: ${(error as Error).message}\n`);
      }
    }
  };
  try {
    await Promise.all(Array.from({ length: Math.min(AHEAD, files.length) }, worker));
  } finally {
    await pool.close();
  }
  const { leftovers, removed } = await into.finish(
    name,
    failed > 0 || notTaken > 0 || files.length < plan.files.length,
  );
  for (const path of leftovers)
    process.stderr.write(`- ${path}: left over from before; --leftovers remove takes it away\n`);
  const unwritten = same > 0 ? `, ${same} of them the same as before` : '';
  const gone = removed > 0 ? `, ${removed} left over taken away` : '';
  process.stderr.write(
    `${terminal ? '\r' : ''}${done} of ${files.length} files are in ${folder}${unwritten}${gone}${foreign > 0 ? `, ${foreign} left to somebody else` : ''}${notTaken > 0 ? `, ${notTaken} not taken` : ''}${failed > 0 ? `, ${failed} failed` : ''}${' '.repeat(terminal ? 30 : 0)}\n`,
  );
  return failed + foreign + notTaken > 0 || refused.length > 0 ? 1 : 0;
}
