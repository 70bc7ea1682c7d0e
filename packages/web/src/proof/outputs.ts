import {
  allOutputs,
  lastOrder,
  newId,
  type Output,
  orderBetween,
  ordersAfter,
  outputRecord,
  type ProjectRecord,
  specRecord,
} from '@tolvik/core';
import type { Session } from '../project/session';

/** A new output behind the others of the last spec; a project without a spec gets one that all pieces follow. */
export function addOutput(session: Session): void {
  const { doc } = session;
  const puts: ProjectRecord[] = [];
  let spec = doc.list('spec').at(-1);
  if (!spec) {
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
  puts.push(
    outputRecord.parse({
      id: newId(),
      kind: 'output',
      specId,
      order: ordersAfter(lastOrder(siblings), 1)[0],
      size: { kind: 'factor', factor },
      suffix: factor === 1 ? '' : `@${factor}x`,
      settings: { format: 'png' },
    }),
  );
  session.commit({ label: 'add an output', puts, removes: [] });
}

/** A copy right behind, changed as said. */
export function duplicateOutput(session: Session, output: Output, fields: Partial<Output> = {}): void {
  const siblings = session.doc.list('output').filter((each) => each.specId === output.specId);
  const next = siblings[siblings.findIndex((each) => each.id === output.id) + 1];
  session.commit({
    label: 'duplicate an output',
    puts: [{ ...output, ...fields, id: newId(), order: orderBetween(output.order, next?.order ?? null) }],
    removes: [],
  });
}

/** One place to the left or right among the outputs of its spec. */
export function shiftOutput(session: Session, output: Output, by: -1 | 1): void {
  const siblings = allOutputs(session.doc).filter((each) => each.specId === output.specId);
  const at = siblings.findIndex((each) => each.id === output.id);
  const to = at + by;
  if (to < 0 || to >= siblings.length) return;
  const [before, after] = by < 0 ? [siblings[to - 1], siblings[to]] : [siblings[to], siblings[to + 1]];
  session.commit({
    label: 'reorder outputs',
    puts: [{ ...output, order: orderBetween(before?.order ?? null, after?.order ?? null) }],
    removes: [],
  });
}

export function removeOutput(session: Session, output: Output): void {
  session.commit({ label: 'remove an output', puts: [], removes: [output.id] });
}
