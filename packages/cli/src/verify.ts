import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join, relative, sep } from 'node:path';
import { count, RECEIPT_NAME, readReceipt } from '@tolvik/core';

/** Holds a folder against the receipt in it; exit code 1 when anything is missing, changed or extra, 2 without a receipt. */
export async function verify(folder: string): Promise<number> {
  const text = await readFile(join(folder, RECEIPT_NAME), 'utf8').catch(() => null);
  const receipt = text === null ? null : readReceipt(text);
  if (!receipt) {
    process.stderr.write(
      text === null ? `there is no ${RECEIPT_NAME} in ${folder}\n` : `${join(folder, RECEIPT_NAME)} is no receipt\n`,
    );
    return 2;
  }
  const lines: string[] = [];
  for (const { path, sha256 } of receipt.files) {
    const bytes = await readFile(join(folder, path)).catch(() => null);
    if (!bytes) lines.push(`missing: ${path}`);
    else if (createHash('sha256').update(bytes).digest('hex') !== sha256) lines.push(`changed: ${path}`);
  }
  const known = new Set([...receipt.files, ...receipt.leftovers].map(({ path }) => path));
  for (const path of await filesIn(folder)) if (path !== RECEIPT_NAME && !known.has(path)) lines.push(`extra: ${path}`);
  const { project, delivery, files, leftovers } = receipt;
  process.stdout.write(lines.map((line) => `${line}\n`).join(''));
  process.stdout.write(
    lines.length > 0
      ? `${count(lines.length, 'difference')} from delivery ${delivery.number} of ${project.name}\n`
      : `${count(files.length, 'file')} as delivery ${delivery.number} of ${project.name} wrote them${leftovers.length > 0 ? `, ${leftovers.length} left over from before` : ''}\n`,
  );
  return lines.length > 0 ? 1 : 0;
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
