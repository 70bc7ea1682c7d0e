import type { ActRequest } from '@tolvik/core';
import type { FileMaker } from './file-maker';
import type { ProjectHandle } from './open-projects';

const AT_ONCE = 24;

/** What an act has to have outlined before it is done, made like files are, by ids; null when it needs none. What cannot be made is ''. */
export async function outlinesFor(
  project: ProjectHandle,
  maker: FileMaker,
  name: string,
  request: ActRequest,
): Promise<Record<string, string> | null> {
  const jobs = await project.ask('outlineJobs', { name, request });
  if (jobs.length === 0) return null;
  const outlines: Record<string, string> = {};
  const cell = { pieceId: '', outputId: '' };
  for (let at = 0; at < jobs.length; at += AT_ONCE)
    await Promise.all(
      jobs.slice(at, at + AT_ONCE).map(async ({ id, ...job }) => {
        const made = await maker.made({ cell, job, format: 'svg', path: 'outline.svg' }, project.id).catch(() => null);
        outlines[id] = made?.bytes.toString('utf8') ?? '';
      }),
    );
  return outlines;
}
