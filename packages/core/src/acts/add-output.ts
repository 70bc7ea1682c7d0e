import { z } from 'zod';
import { refuse } from '../basics/problem';
import type { ProjectDocument } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { outputRecord, type ProjectRecord, recordId, specRecord } from '../document/records';
import { outputSettings } from '../formats';
import { sizeRule } from '../geometry/sizes';
import { defineAct } from './act';
import { mayHold, outputsOfSpec } from './output-of';

export const addOutput = defineAct({
  name: 'add-output',
  title: 'Add an output',
  group: 'Files',
  needs: 'nothing',
  /** Of the last spec unless another is said; a PNG of a factor that is not there yet unless more is said. */
  settings: z.object({
    specId: recordId.optional(),
    size: sizeRule.optional(),
    suffix: z.string().max(100).optional(),
    settings: outputSettings.optional(),
  }),
  nothing: 'There is nothing to add',
  run: (doc, _intent, said) => {
    const { specId, puts } = specToAddTo(doc, said.specId);
    const siblings = outputsOfSpec(doc, specId);
    mayHold(siblings.length + 1);
    const factors = new Set(
      siblings.flatMap(({ settings, size }) =>
        settings.format === 'png' && size.kind === 'factor' ? [size.factor] : [],
      ),
    );
    let factor = 1;
    while (factors.has(factor)) factor++;
    const plain = said.size === undefined && said.settings === undefined;
    const output = outputRecord.parse({
      id: newId(),
      kind: 'output',
      specId,
      order: ordersAfter(lastOrder(siblings), 1)[0],
      size: said.size ?? { kind: 'factor', factor: plain ? factor : 1 },
      suffix: said.suffix ?? (plain && factor > 1 ? `@${factor}x` : ''),
      settings: said.settings ?? { format: 'png' },
    });
    return { label: 'add an output', puts: [...puts, output], removes: [] };
  },
});

/** The spec that outputs are added to: the one asked for or the last; a project without one gets one that all pieces follow. */
export function specToAddTo(
  doc: ProjectDocument,
  asked: string | undefined,
): { specId: string; puts: ProjectRecord[] } {
  const known = asked ? doc.find('spec', asked) : doc.list('spec').at(-1);
  if (known) return { specId: known.id, puts: [] };
  if (asked) refuse('spec.missing', 'there is no such spec in the project');
  const spec = specRecord.parse({ id: newId(), kind: 'spec', order: ordersAfter(null, 1)[0], name: 'Files' });
  const puts: ProjectRecord[] = [spec, { ...doc.settings, defaultSpecId: spec.id }];
  for (const kind of ['artboard', 'slice', 'edition'] as const)
    for (const record of doc.list(kind)) puts.push({ ...record, specIds: [...record.specIds, spec.id] });
  return { specId: spec.id, puts };
}
