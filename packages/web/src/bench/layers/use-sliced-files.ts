import { useMemo } from 'react';
import { planOf, useSession } from '../../project/session/context';

/** How many files the slices of each layer make, by the layer's id; only layers that are sliced. */
export function useSlicedFiles(): ReadonlyMap<string, number> {
  const plan = planOf(useSession());
  return useMemo(() => {
    const layerOf = new Map(
      plan.pieces.flatMap(({ id, record }) =>
        record.kind === 'slice' && record.source.kind === 'layer' ? [[id, record.source.layerId] as const] : [],
      ),
    );
    const counts = new Map([...layerOf.values()].map((id) => [id, 0]));
    for (const { pieceId } of plan.files) {
      const id = layerOf.get(pieceId);
      if (id) counts.set(id, (counts.get(id) ?? 0) + 1);
    }
    return counts;
  }, [plan]);
}
