import * as z from 'zod';
import { refuse } from '../../basics/problem';
import { sha256Hex } from '../../basics/sha256';
import { RENDERER_VERSION } from '../../compose/compose';
import type { FileJob } from '../../compose/composer';
import { readTree, type TreeNode } from '../../compose/tree';
import type { ProjectDocument } from '../../document/document';
import { recordId } from '../../document/records';
import { defaultSettings, type SettingsOf } from '../../formats';
import { shapePath } from '../../geometry/shape-path';
import { SHAPES } from '../../profile/allow-list';
import type { Act, Intent } from '../act';

/** Shapes that are outlined by one act. */
const MOST_AT_ONCE = 500;

/**
 * SVG files with outlines, by the ids of what they are of: worked out beside the act, by whoever has the geometry kernel
 * (`outlineJobs` says of what), and put in before it is done.
 */
export const drawnOutlines = z.record(recordId, z.string().max(8_000_000)).default({});

/** What has to be outlined before an act can be done, as files to be rendered; none for most acts. */
export function outlineJobs(doc: ProjectDocument, act: Act, intent: Intent): (FileJob & { id: string })[] {
  const jobs = act.outlines?.(doc, intent) ?? [];
  if (jobs.length > MOST_AT_ONCE)
    refuse('act.many', `these are ${jobs.length.toLocaleString('en')} shapes`, {
      accepted: `up to ${MOST_AT_ONCE} at once`,
    });
  return jobs.map(({ id, svg, widthPx, heightPx, shapes }) => ({
    id,
    svg,
    key: sha256Hex(JSON.stringify(['outline', RENDERER_VERSION, shapes, widthPx, heightPx, svg])),
    pictures: [],
    settings: { ...(defaultSettings('svg') as SettingsOf<'svg'>), decimals: 4, shapes },
    widthPx,
    heightPx,
    dpi: 96,
    ground: null,
  }));
}

/** The path data of an outline, in the units of its drawing; '' where nothing is left. Throws a `Refusal` where there is none. */
export function outlineIn(outlines: Readonly<Record<string, string>>, id: string, name: string): string {
  const none = () => refuse('act.outline', `no outline of ${name} was found`, { where: 'outlines' });
  const svg = outlines[id];
  if (svg === undefined)
    return refuse('act.outlines', 'outlines are worked out by the server and the command line, not here', {
      where: 'outlines',
    });
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
