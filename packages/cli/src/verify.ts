import { readdir } from 'node:fs/promises';
import { join, relative, sep } from 'node:path';
import { count, LONGEST_RECEIPT, RECEIPT_NAME, readReceipt } from '@tolvik/core';
import { HeldFolder, NodeDisk } from '@tolvik/folders';
import { err, out } from './say';

/** Holds a folder against the receipt in it; exit code 1 when anything is missing, changed or extra, 2 without a receipt. */
export async function verify(folder: string): Promise<number> {
  const held = await HeldFolder.open(folder).catch(() => null);
  if (!held) {
    err(`there is no folder ${folder}`);
    return 2;
  }
  const disk = new NodeDisk(held);
  try {
    const text = await disk.text(RECEIPT_NAME, LONGEST_RECEIPT);
    const receipt = text === null || text === 'other' ? null : readReceipt(text.text);
    if (!receipt) {
      err(text === null ? `there is no ${RECEIPT_NAME} in ${folder}` : `${join(folder, RECEIPT_NAME)} is no receipt`);
      return 2;
    }
    const lines: string[] = [];
    for (const { path, sha256, bytes } of receipt.files) {
      const found = await disk.find(path, (length) => length === bytes);
      if (!found) lines.push(`missing: ${path}`);
      else if (found === 'other' || found.sha256 !== sha256) lines.push(`changed: ${path}`);
    }
    const known = new Set([...receipt.files, ...receipt.leftovers].map(({ path }) => path));
    for (const path of await filesIn(folder))
      if (path !== RECEIPT_NAME && !known.has(path)) lines.push(`extra: ${path}`);
    const { project, delivery, files, leftovers } = receipt;
    for (const line of lines) out(line);
    out(
      lines.length > 0
        ? `${count(lines.length, 'difference')} from delivery ${delivery.number} of ${project.name}`
        : `${count(files.length, 'file')} as delivery ${delivery.number} of ${project.name} wrote them${leftovers.length > 0 ? `, ${leftovers.length} left over from before` : ''}`,
    );
    return lines.length > 0 ? 1 : 0;
  } finally {
    await disk.close();
  }
}

/** Paths of all files below a folder, with slashes; what begins with a dot is nobody's delivery. */
async function filesIn(folder: string): Promise<string[]> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  return entries
    .filter((entry) => !entry.isDirectory())
    .map((entry) => relative(folder, join(entry.parentPath, entry.name)).split(sep).join('/'))
    .filter((path) => !path.split('/').some((part) => part.startsWith('.')))
    .sort();
}
