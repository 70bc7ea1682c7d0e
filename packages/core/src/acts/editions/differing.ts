import { same } from '../../basics/same';
import type { ProjectDocument } from '../../document/document';
import type { ProjectRecord } from '../../document/records';

/** Of some records those that are not in the project as they are: what an act would put back the same is no change. */
export const differing = (doc: ProjectDocument, puts: readonly ProjectRecord[]): ProjectRecord[] =>
  puts.filter((put) => !same(doc.get(put.id), put));
