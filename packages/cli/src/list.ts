import { count, FORMATS } from '@tolvik/core';
import { err, out } from './say';
import { open, type Selection } from './source';

/** Prints every file that would be made: path, size, format. */
export async function list(selection: Selection): Promise<number> {
  const { files, plan, refused, told } = await open(selection);
  for (const file of files) {
    const size = FORMATS[file.format].raster
      ? `${file.widthPx} x ${file.heightPx} px`
      : `${+file.widthPt.toFixed(2)} x ${+file.heightPt.toFixed(2)} pt`;
    const trouble = file.problem ?? (file.clashCount > 0 ? 'its path is taken by another file' : '');
    out(file.path, size, ...(trouble ? [`! ${trouble}`] : []));
  }
  for (const { message } of refused) err(`! ${message}`);
  for (const words of told) err(`- ${words}`);
  err(`${count(plan.pieces.length, 'piece')}, ${count(files.length, 'file')}`);
  return refused.length > 0 || files.some((file) => file.problem || file.clashCount > 0) ? 1 : 0;
}
