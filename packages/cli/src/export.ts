import { mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve, sep } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Composer, documentFonts } from '@tolvik/core';
import { RenderPool, renderJob, shippedFonts } from '@tolvik/render';
import { open, type Selection } from './source';

/** Files handed to the pool ahead of the one being made. */
const AHEAD = 64;

/** Makes the files and writes them; a file that fails is told and the others go on. */
export async function exportFiles(selection: Selection, out: string, jobs?: number): Promise<number> {
  const { doc, pictures, files, plan, refused, told } = await open(selection);
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
  const pool = new RenderPool({ childPath: fileURLToPath(new URL('./render-child.mjs', import.meta.url)), size: jobs });
  const terminal = process.stderr.isTTY;
  let done = 0;
  let failed = 0;
  let next = 0;
  const worker = async () => {
    while (next < files.length) {
      const file = files[next++];
      try {
        const { bytes } = await pool.render(renderJob(composer.job(file), (hash) => pictures.get(hash)));
        write(folder, file.path, bytes);
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
  process.stderr.write(
    `${terminal ? '\r' : ''}${done} of ${files.length} files written to ${folder}${failed > 0 ? `, ${failed} failed` : ''}${' '.repeat(terminal ? 30 : 0)}\n`,
  );
  return failed > 0 || refused.length > 0 ? 1 : 0;
}

/** Writes beside its place first, so that a file is whole or not there. Paths of a plan cannot climb; it is made sure all the same. */
function write(folder: string, path: string, bytes: Buffer): void {
  const target = join(folder, path);
  if (!target.startsWith(folder.endsWith(sep) ? folder : folder + sep)) throw new Error('its path leaves the folder');
  mkdirSync(dirname(target), { recursive: true });
  const part = `${target}.part`;
  writeFileSync(part, bytes);
  renameSync(part, target);
}
