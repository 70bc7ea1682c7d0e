import * as z from 'zod';
import { refuse } from '../basics/problem';
import { plainText } from '../profile/values';
import { newId } from './ids';
import { anyRecord, type ProjectRecord, recordId } from './records';

/** Versions are counted in a 32-bit integer. */
export const MAX_VERSION = 2_147_483_647;

/** Letters of an edit's label; what is longer is cut, since a label is only for reading. */
export const MAX_LABEL = 200;

/** More than this in one act is sent as several edits. */
export const MAX_RECORDS_PER_EDIT = 50_000;

/**
 * One change to a project: idempotent by id, carried out whole or not at all.
 * `baseVersion` is the project version the author had seen; a record changed since then by someone
 * else makes the edit a clash.
 */
export const edit = z
  .object({
    id: recordId,
    baseVersion: z.number().int().min(0).max(MAX_VERSION),
    /** For people: "rename artboard", shown as "Undo: rename artboard". */
    label: z
      .string()
      .default('edit')
      .transform((label) => plainText(label, MAX_LABEL)),
    puts: z.array(anyRecord).max(MAX_RECORDS_PER_EDIT),
    removes: z.array(recordId).max(MAX_RECORDS_PER_EDIT),
  })
  .superRefine(({ puts }, context) => {
    const ids = new Set<string>();
    for (const [i, { id }] of puts.entries()) {
      if (ids.has(id))
        return context.addIssue({
          code: 'custom',
          message: `each record once, and "${id}" is there twice`,
          path: ['puts', i, 'id'],
        });
      ids.add(id);
    }
  });
export type Edit = z.infer<typeof edit>;

export type Change = { label: string; puts: ProjectRecord[]; removes: string[] };

export const asEdit = (change: Change, baseVersion: number): Edit => ({ id: newId(), baseVersion, ...change });

/** A change that sets some fields of one record; nothing when it no longer exists. */
export function patchRecord<T extends ProjectRecord>(label: string, record: T, fields: Partial<T>): Change {
  return { label, puts: [{ ...record, ...fields } as ProjectRecord], removes: [] };
}

/** An edit from JSON text. Throws a `Refusal` when the text is no JSON, a `ZodError` when it is no edit. */
export function parseEdit(text: string): Edit {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return refuse('input.json', 'the request is not JSON', { accepted: 'an edit as JSON' });
  }
  return edit.parse(json);
}
