import { constants, existsSync } from 'node:fs';
import { type FileHandle, lstat, mkdir, open, realpath } from 'node:fs/promises';
import { join } from 'node:path';

const { O_RDONLY, O_DIRECTORY, O_NOFOLLOW, O_NONBLOCK } = constants;

/** Linux has every open folder by its descriptor, which stays the same folder whatever happens to its name. */
const BY_DESCRIPTOR = existsSync('/proc/self/fd');

export const codeOf = (error: unknown): string => (error as NodeJS.ErrnoException).code ?? '';

/**
 * A folder that was opened once and is held: what is done in it happens there, also when its name leads elsewhere by
 * then. Names are single components; there is no way up and no link is followed. Where the system has no paths by
 * descriptor, the name is looked at right before instead.
 */
export class HeldFolder {
  private constructor(
    /** Null where the system has no paths by descriptor; some do not even open folders. */
    private readonly handle: FileHandle | null,
    /** As it was called when it was opened; for words. */
    readonly where: string,
  ) {}

  /** Opens a folder by its path; links on the way are followed, since whoever named it means where they lead. Throws as `open` does. */
  static async open(path: string): Promise<HeldFolder> {
    const whole = await realpath(path);
    return new HeldFolder(await opened(whole), whole);
  }

  /** A path for one operation on an entry of this folder. Throws for what is no single name. */
  at(name: string): string {
    if (name === '' || name === '.' || name === '..' || /[/\0]/.test(name)) throw new Error(`${name} is no name`);
    return join(this.path, name);
  }

  /** This folder as a path, for listing it. */
  get path(): string {
    return this.handle ? `/proc/self/fd/${this.handle.fd}` : this.where;
  }

  /** A folder in it, made where `make` says so; null where there is none, `other` where something else has the name, also a link. */
  async into(name: string, make: boolean): Promise<HeldFolder | null | 'other'> {
    for (let tries = 0; ; tries++) {
      try {
        return new HeldFolder(await opened(this.at(name), O_NOFOLLOW), join(this.where, name));
      } catch (error) {
        const code = codeOf(error);
        if (code === 'ENOTDIR' || code === 'ELOOP' || code === 'ENXIO') return 'other';
        if (code !== 'ENOENT') throw error;
        if (!make || tries > 3) return null;
        await mkdir(this.at(name)).catch((failed) => {
          // Made by another writing in this moment.
          if (codeOf(failed) !== 'EEXIST') throw failed;
        });
      }
    }
  }

  async close(): Promise<void> {
    await this.handle?.close();
  }
}

/** Opens a folder; where that is of no use, looks that it is one, and no link where none is to be followed. Throws as `open` does. */
async function opened(path: string, noFollow = 0): Promise<FileHandle | null> {
  if (BY_DESCRIPTOR) return open(path, O_RDONLY | O_DIRECTORY | O_NONBLOCK | noFollow);
  if (!(await lstat(path)).isDirectory()) throw Object.assign(new Error(`${path} is no folder`), { code: 'ENOTDIR' });
  return null;
}
