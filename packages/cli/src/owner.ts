import { createHash } from 'node:crypto';
import { relative, resolve, sep } from 'node:path';
import { wholePath } from '@tolvik/folders';
import type { Owner } from './into-folder';
import type { Opened } from './source';

const idFrom = (kind: string, text: string): string =>
  `${kind}-${createHash('sha256').update(text).digest('hex').slice(0, 24)}`;

/**
 * Whose files an export writes: by the name that somebody gave, else by the id in the project file, else by the way from
 * the folder to the source. So two sources that write into one folder are told apart, and a checkout that lies elsewhere
 * is the same.
 */
export async function ownerOf(
  { name, source, projectId }: Pick<Opened, 'name' | 'source' | 'projectId'>,
  { out, project }: { out: string; project?: string },
): Promise<Owner> {
  const called = (project ?? name).slice(0, 300);
  if (project !== undefined) return { id: idFrom('name', project), name: called };
  if (projectId !== null) return { id: projectId, name: called };
  const way = relative(await wholePath(resolve(out)), await wholePath(resolve(source)));
  return { id: idFrom('way', way.split(sep).join('/')), name: called };
}
