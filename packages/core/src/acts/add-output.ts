import { z } from 'zod';
import { refuse } from '../basics/problem';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { outputRecord, type ProjectRecord, recordId, specRecord } from '../document/records';
import { outputSettings } from '../formats';
import { sizeRule } from '../geometry/sizes';
import { defineAct } from './act';

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
    const puts: ProjectRecord[] = [];
    let spec = said.specId ? doc.find('spec', said.specId) : doc.list('spec').at(-1);
    if (!spec && said.specId) refuse('spec.missing', 'there is no such spec in the project');
    if (!spec) {
      // A project without a spec gets one that all pieces follow.
      spec = specRecord.parse({ id: newId(), kind: 'spec', order: ordersAfter(null, 1)[0], name: 'Files' });
      puts.push(spec, { ...doc.settings, defaultSpecId: spec.id });
      for (const kind of ['artboard', 'slice', 'edition'] as const)
        for (const record of doc.list(kind)) puts.push({ ...record, specIds: [...record.specIds, spec.id] });
    }
    const specId = spec.id;
    const siblings = doc.list('output').filter((output) => output.specId === specId);
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
