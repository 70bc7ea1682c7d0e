import * as z from 'zod';
import { unlike } from '../../basics/unlike';
import type { ProjectDocument } from '../../document/document';
import { newId } from '../../document/ids';
import { lastOrder, ordersAfter } from '../../document/order';
import { outputRecord, type ProjectRecord, recordId, type Spec, specRecord } from '../../document/records';
import { outputSettings } from '../../formats';
import { sizeRule } from '../../geometry/sizes';
import { defineAct } from '../act';
import { mayHold, outputsOfSpec, specOf } from './output-of';
import { allFollowers, type Follower } from './spec-followers';

export const addOutput = defineAct({
  name: 'add-output',
  title: 'Add an output',
  group: 'Files',
  needs: 'nothing',
  /** Of the last spec that most pieces follow, unless another is said; a PNG of a factor that is not there yet unless more is said. */
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

/**
 * The spec that outputs of these pieces are added to: the one asked for, or the last that at least half of them follow.
 * Where there is none, as where each makes files of its own, it is a new one that all of them follow.
 */
export function specToAddTo(
  doc: ProjectDocument,
  asked: string | undefined,
  meant: readonly Follower[] = allFollowers(doc),
): { specId: string; puts: ProjectRecord[] } {
  if (asked) return { specId: specOf(doc, asked).id, puts: [] };
  const specs = doc.list('spec');
  const isShared = ({ id }: Spec) => meant.filter(({ specIds }) => specIds.includes(id)).length * 2 >= meant.length;
  const shared = specs.filter(isShared).at(-1);
  if (shared) return { specId: shared.id, puts: [] };
  const name = unlike(
    'Files',
    specs.map((spec) => spec.name),
  );
  const order = ordersAfter(lastOrder(specs), 1)[0];
  const spec = specRecord.parse({ id: newId(), kind: 'spec', order, name });
  const puts: ProjectRecord[] = [spec];
  if (specs.length === 0) puts.push({ ...doc.settings, defaultSpecId: spec.id });
  for (const piece of meant) puts.push({ ...piece, specIds: [...piece.specIds, spec.id] });
  return { specId: spec.id, puts };
}
