import { FORMATS } from '@tolvik/core';
import { open, type Selection } from './source';

/** Prints every file that would be made: path, size, format. */
export async function list(selection: Selection): Promise<number> {
  const { files, plan, refused } = await open(selection);
  for (const file of files) {
    const size = FORMATS[file.format].raster
      ? `${file.widthPx} x ${file.heightPx} px`
      : `${+file.widthPt.toFixed(2)} x ${+file.heightPt.toFixed(2)} pt`;
    const trouble = file.problem ?? (file.clashCount > 0 ? 'its path is taken by another file' : '');
    process.stdout.write(`${file.path}\t${size}${trouble ? `\t! ${trouble}` : ''}\n`);
  }
  for (const { message } of refused) process.stderr.write(`! ${message}\n`);
  process.stderr.write(`${plan.pieces.length} pieces, ${files.length} files\n`);
  return refused.length > 0 || files.some((file) => file.problem || file.clashCount > 0) ? 1 : 0;
}
