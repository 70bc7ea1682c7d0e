import * as z from 'zod';
import type { ProjectDocument } from '../../document/document';
import { recordId } from '../../document/records';
import { pickPieces, pieces } from '../../pieces/pieces';
import type { Intent, Outcome } from '../act';
import { outlineJobs } from '../layers/drawn-outlines';
import { intentOf } from './intent';
import { perform } from './perform';
import { actNamed } from './registry';

/** An act as it is asked for from outside a window: on what, in which edition, and with which settings. */
export const actRequest = z.object({
  /** Ids of layers, artboards, slices and editions. */
  ids: z.array(recordId).max(50_000).default([]),
  /** Pieces by number or name, such as "3-9,12". */
  pieces: z.string().max(2000).optional(),
  /** Layers by name, wherever they are. */
  layers: z.array(z.string().max(300)).max(1000).optional(),
  /** The edition that is meant, and whether changes of layers go to it or to the base. */
  editionId: recordId.optional(),
  changes: z.enum(['edition', 'base']).default('edition'),
  /** Whether what lies on artboards goes along with them. */
  carry: z.boolean().default(true),
  settings: z.record(z.string(), z.unknown()).default({}),
});
export type ActRequest = z.input<typeof actRequest>;

/** Does an act that was asked for. Throws a `Refusal` that says why not, a `ZodError` for what is no request. */
export function performRequest(doc: ProjectDocument, name: string, request: ActRequest): Outcome {
  const { intent, settings } = asked(doc, request);
  return perform(doc, actNamed(name), intent, settings);
}

/** The drawings that a requested act needs outlined, as files to be rendered. Throws as `performRequest` does. */
export function jobsOfRequest(doc: ProjectDocument, name: string, request: ActRequest): ReturnType<typeof outlineJobs> {
  const act = actNamed(name);
  return act.outlines ? outlineJobs(doc, act, asked(doc, request).intent) : [];
}

/** A request with the rendered outlines in its settings, by the keys of their jobs; outlines that it brought along are replaced. */
export const withOutlinesOf = (request: ActRequest, outlines: Readonly<Record<string, string>>): ActRequest => ({
  ...request,
  settings: { ...request.settings, outlines },
});

function asked(doc: ProjectDocument, request: ActRequest): { intent: Intent; settings: Record<string, unknown> } {
  const { ids, pieces: query, layers, settings, ...options } = actRequest.parse(request);
  const chosen = [...ids];
  if (query !== undefined) chosen.push(...pickPieces(pieces(doc), query).map((piece) => piece.id));
  if (layers) {
    const names = new Set(layers);
    for (const layer of doc.each('layer')) if (names.has(layer.name)) chosen.push(layer.id);
  }
  return { intent: intentOf(doc, chosen, options), settings };
}
