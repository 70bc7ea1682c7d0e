import * as z from 'zod';
import { inputWords } from '../basics/input-words';
import { refuse } from '../basics/problem';
import { unlike } from '../basics/unlike';
import type { ProjectDocument } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { type Output, outputRecord, type Spec, specRecord } from '../document/records';

export const SPEC_FORMAT_VERSION = 1;

/** A spec by itself, as JSON: for keeping, for other projects, for other people. */
export const specFile = z.object({
  tolvik: z.literal('spec'),
  version: z.number().int().min(1).max(SPEC_FORMAT_VERSION),
  spec: specRecord.omit({ id: true, kind: true, order: true }),
  outputs: z.array(outputRecord.omit({ id: true, kind: true, order: true, specId: true })).max(200),
});
export type SpecFile = z.infer<typeof specFile>;

export function specToFile(doc: ProjectDocument, spec: Spec): SpecFile {
  const { id, kind: _k, order: _o, ...rest } = spec;
  const outputs = doc
    .list('output')
    .filter((output) => output.specId === id)
    .map(({ id: _i, kind: _kind, order: _order, specId: _s, ...output }) => output);
  return { tolvik: 'spec', version: SPEC_FORMAT_VERSION, spec: rest, outputs };
}

/** Reads a spec file; refuses what is none, what is broken and what is from the future, saying where. */
export function readSpecFile(text: string, file: string): SpecFile {
  const accepted = 'a spec saved by Tolvik';
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return refuse('spec.json', `${file} is not JSON`, { where: file, accepted });
  }
  const claimed = json as { tolvik?: unknown; version?: unknown } | null;
  if (claimed?.tolvik !== 'spec') return refuse('spec.not', `${file} holds no spec`, { where: file, accepted });
  if (typeof claimed.version === 'number' && claimed.version > SPEC_FORMAT_VERSION)
    return refuse('spec.version', `${file} was saved by a newer Tolvik (format ${claimed.version})`, {
      where: file,
      accepted: `format up to ${SPEC_FORMAT_VERSION}`,
    });
  const parsed = specFile.safeParse(json);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  return refuse('spec.broken', `${file} does not fit at ${issue.path.join('.') || 'its root'}: ${inputWords(issue)}`, {
    where: file,
    accepted,
  });
}

/** The records of a spec file, with ids of their own, behind the specs the document has. */
export function recordsOfSpecFile(
  { spec, outputs }: SpecFile,
  doc: ProjectDocument,
): { spec: Spec; outputs: Output[] } {
  const made = specRecord.parse({
    ...spec,
    name: unlike(
      spec.name,
      doc.list('spec').map((each) => each.name),
    ),
    id: newId(),
    kind: 'spec',
    order: ordersAfter(lastOrder(doc.list('spec')), 1)[0],
  });
  const orders = ordersAfter(null, outputs.length);
  return {
    spec: made,
    outputs: outputs.map((output, i) =>
      outputRecord.parse({ ...output, id: newId(), kind: 'output', specId: made.id, order: orders[i] }),
    ),
  };
}
