import { closeSync, existsSync, openSync, readSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { BackupTrouble } from './archive';
import { backup } from './backup';
import { isOfBefore, restore } from './restore';

/** `backup FILE` and `restore FILE [--replace]` on the database of DATABASE_URL; what goes wrong is thrown in a sentence. */
export async function run(
  command: 'backup' | 'restore',
  args: readonly string[],
  databaseUrl: string,
): Promise<string> {
  const given = args.find((arg) => !arg.startsWith('--'));
  if (!given)
    throw new Error(
      command === 'backup' ? 'Say where to: npm run backup -- FILE' : 'Say which: npm run restore -- FILE',
    );
  const file = resolve(given);
  if (command === 'backup') return save(file, given, databaseUrl);
  if (!existsSync(file)) throw new Error(`There is no file ${file}.`);
  if (isOfBefore(firstBytes(file)))
    throw new Error(
      `${file} was made by Tolvik 0.1, as statements that a database runs. Bring it back with that version, and make a backup with this one.`,
    );
  try {
    await restore(databaseUrl, file, args.includes('--replace'));
  } catch (error) {
    throw new Error(`${file} could not be brought back, and nothing was changed: ${wordsOf(error)}.`);
  }
  return 'The backup is back. Start with "npm start".';
}

async function save(file: string, given: string, databaseUrl: string): Promise<string> {
  if (existsSync(file)) throw new Error(`${file} is there already. Choose another name, or move it away.`);
  if (!existsSync(dirname(file))) throw new Error(`There is no folder ${dirname(file)}.`);
  const part = `${file}.part`;
  rmSync(part, { force: true });
  try {
    await backup(databaseUrl, part);
  } catch (error) {
    throw new Error(`The backup could not be made: ${wordsOf(error)}.`);
  }
  renameSync(part, file);
  return `${file}: ${(statSync(file).size / 1_048_576).toFixed(1)} MB. Bring it back with "npm run restore -- ${given}".`;
}

const wordsOf = (error: unknown): string => {
  const { message } = error as Error;
  return error instanceof BackupTrouble ? message : message.split('\n')[0].replace(/\.$/, '').slice(0, 600);
};

function firstBytes(file: string): Uint8Array {
  const descriptor = openSync(file, 'r');
  try {
    const bytes = Buffer.alloc(16);
    return bytes.subarray(0, readSync(descriptor, bytes));
  } finally {
    closeSync(descriptor);
  }
}
