import type { ActRequest } from '@tolvik/core';
import { RenderError } from '@tolvik/render';
import type { FileMaker } from './file-maker';
import type { ProjectHandle } from './open-projects';

const AT_ONCE = 24;

/**
 * The outlines that an act needs, rendered as files are, by the keys of their jobs; null when it needs none. A drawing that
 * cannot be outlined gives ''. Throws when rendering was stopped, or the database is away: that is not the drawing's fault.
 */
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
      jobs.slice(at, at + AT_ONCE).map(async (job) => {
        try {
          const { bytes } = await maker.made({ cell, job, format: 'svg', path: 'outline.svg' }, project.id);
          outlines[job.key] = bytes.toString('utf8');
        } catch (error) {
          if (!(error instanceof RenderError) || error.code === 'stopped') throw error;
          outlines[job.key] = '';
        }
      }),
    );
  return outlines;
}
