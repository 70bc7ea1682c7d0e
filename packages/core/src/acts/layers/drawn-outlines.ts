import * as z from 'zod';
import { refuse } from '../../basics/problem';
import { sha256Hex } from '../../basics/sha256';
import type { FileJob } from '../../compose/composer';
import { RENDERER_VERSION } from '../../compose/renderer-version';
import { readTree, type TreeNode } from '../../compose/tree';
import type { ProjectDocument } from '../../document/document';
import { defaultSettings, type SettingsOf } from '../../formats';
import { shapePath } from '../../geometry/shape-path';
import { SHAPES } from '../../profile/allow-list';
import type { Act, Intent, OutlineJob } from '../act';

/** The largest number of drawings that one act may have outlined. */
const MOST_AT_ONCE = 500;

/**
 * Outlines as SVG files, by the key of the drawing that each was made of (`outlineJobs`). The server and the command line
 * render them before the act is done. An outline of a drawing that changed meanwhile has another key, and is not found.
 */
export const drawnOutlines = z.record(z.string().regex(/^[0-9a-f]{64}$/), z.string().max(8_000_000)).default({});

const keyOf = (job: OutlineJob): string => sha256Hex(JSON.stringify(['outline', RENDERER_VERSION, job]));

/** The drawings that an act needs outlined, as files to be rendered; none for most acts. Throws a `Refusal` for too many. */
export function outlineJobs(doc: ProjectDocument, act: Act, intent: Intent): FileJob[] {
  const jobs = act.outlines?.(doc, intent) ?? [];
  if (jobs.length > MOST_AT_ONCE)
    refuse('act.many', `these are ${jobs.length.toLocaleString('en')} shapes`, {
      accepted: `up to ${MOST_AT_ONCE} at once`,
    });
  return jobs.map((job) => {
    const { svg, widthPx, heightPx, shapes } = job;
    const settings = { ...(defaultSettings('svg') as SettingsOf<'svg'>), decimals: 4, shapes };
    return { svg, key: keyOf(job), pictures: [], settings, widthPx, heightPx, dpi: 96, ground: null };
  });
}

/** The path data of a drawing's outline, in the units of the drawing; '' when it is empty. Throws a `Refusal` when there is none. */
export function outlineIn(outlines: Readonly<Record<string, string>>, job: OutlineJob, name: string): string {
  const none = () => refuse('act.outline', `no outline of ${name} was found`, { where: 'outlines' });
  const svg = outlines[keyOf(job)];
  if (svg === undefined)
    return refuse(
      'act.outlines',
      `the outline of ${name} is not here: it was changed meanwhile, or nobody worked it out`,
      {
        where: 'outlines',
      },
    );
  const paths: string[] = [];
  const visit = ({ tag, attrs, children }: TreeNode): void => {
    if ((attrs.stroke ?? 'none') !== 'none' || attrs.transform) none();
    if (SHAPES.has(tag)) paths.push(shapePath(tag, attrs));
    else if (tag !== 'svg' && tag !== 'g') none();
    children.forEach(visit);
  };
  const { root } = /^<svg[^<>]*\/?>/.test(svg) ? readTree(svg) : { root: undefined };
  if (!root) return none();
  visit(root);
  return paths.join('');
}
