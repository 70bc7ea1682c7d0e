import { type Change, type Edit, newId, type ProjectRecord } from '@tolvik/core';

/**
 * An edit as the database takes it: its records as JSON text that nobody has to take apart again, and beside it what
 * has to be looked at before it is stored. Made wherever the edit was read, which for a large one is another thread.
 */
export type PreparedEdit = {
  id: string;
  baseVersion: number;
  label: string;
  /** A JSON array of records. */
  puts: string;
  putIds: string[];
  kinds: string[];
  /** Ids of the layers among them, with their parents. */
  layers: [id: string, parentId: string][];
  removes: string[];
};

export function prepareEdit({ label, puts, removes }: Change, baseVersion: number, id: string = newId()): PreparedEdit {
  const put = new Set(puts.map((record) => record.id));
  return {
    id,
    baseVersion,
    label,
    puts: JSON.stringify(puts),
    putIds: puts.map((record) => record.id),
    kinds: puts.map((record) => record.kind),
    layers: puts.flatMap((record: ProjectRecord): [string, string][] =>
      record.kind === 'layer' ? [[record.id, record.parentId]] : [],
    ),
    // What is put as well is not gone.
    removes: [...new Set(removes)].filter((each) => !put.has(each)),
  };
}

export const preparedOf = (edit: Edit): PreparedEdit => prepareEdit(edit, edit.baseVersion, edit.id);
