import { Refusal } from '@tolvik/core';

const WORDS: Readonly<Record<string, (where: string) => string>> = {
  ENOSPC: (where) => `the disk that ${where} is on is full`,
  EDQUOT: (where) => `the disk that ${where} is on has no room left for this user`,
  EACCES: (where) => `there is no right to write in ${where}`,
  EPERM: (where) => `there is no right to write in ${where}`,
  EROFS: (where) => `${where} is on a disk that can only be read`,
  ENOENT: (where) => `${where} is not there`,
  ENOTDIR: (where) => `something on the way to ${where} is no folder`,
  EEXIST: (where) => `something that is no folder has the place of one in ${where}`,
  EISDIR: (where) => `a folder has the name of a file in ${where}`,
  ENOTEMPTY: (where) => `a folder has the name of a file in ${where}`,
  EBUSY: (where) => `a file in ${where} is held open by another program`,
  ENAMETOOLONG: (where) => `a name is too long for the disk that ${where} is on`,
  ELOOP: (where) => `a link in ${where} leads in a circle`,
  EIO: (where) => `the disk that ${where} is on does not answer`,
};

/** Works in a folder; what goes wrong there is a refusal in words. */
export async function inWords<T>(where: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    throw diskTrouble(error, where);
  }
}

/** What went wrong on a disk, as a refusal in words; anything else stays what it is. */
function diskTrouble(error: unknown, where: string): unknown {
  const code = (error as NodeJS.ErrnoException).code ?? '';
  if (error instanceof Refusal || !(code in WORDS)) return error;
  return new Refusal({ code: 'receiver.disk', message: WORDS[code](where), where });
}
