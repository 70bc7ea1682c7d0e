import { cellKey, type Piece, pickPieces } from '@tolvik/core';
import { useMemo, useState } from 'react';
import { useFindings } from '../project/findings/findings';
import { planOf, useMade, useSession } from '../project/session/context';

export type Filter = 'all' | 'artboard' | 'slice' | 'edition' | 'on' | 'look';
export const ORDERS = {
  number: 'number',
  name: 'name',
  light: 'smallest files first',
  heavy: 'largest files first',
  soft: 'softest edges first',
} as const;
export type Order = keyof typeof ORDERS;

const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** Which pieces have rows, and in which order: found by name or number, of a kind, or in need of a look. */
export function useShownPieces() {
  const plan = planOf(useSession());
  const { files: made } = useMade();
  const { all, crisp } = useFindings();
  const [query, setQuery] = useState('');
  const [filter, setFilter] = useState<Filter>('all');
  const [picked, setPicked] = useState<string | null>(null);
  const [order, setOrder] = useState<Order>('number');
  const troubled = useMemo(
    () =>
      new Set([
        ...plan.troubled.map((file) => file.pieceId),
        ...all.flatMap((finding) =>
          finding.severity === 'hint' || finding.accepted || !finding.pieceId ? [] : [finding.pieceId],
        ),
      ]),
    [plan, all],
  );
  const ofKind = useMemo(() => {
    const ids = all.flatMap((finding) => (finding.check === picked && !finding.accepted ? [finding.pieceId] : []));
    return ids.length > 0 ? new Set(ids) : null;
  }, [all, picked]);
  const shown = useMemo(() => {
    const needsALook = ({ id }: Piece) => (ofKind ? ofKind.has(id) : troubled.has(id) || troubled.size === 0);
    const isShown = (piece: Piece): boolean => {
      if (filter === 'all') return true;
      if (filter === 'look') return needsALook(piece);
      return filter === 'on' ? piece.on : piece.kind === filter;
    };
    const kept = pickPieces(plan.pieces, query).filter(isShown);
    if (order === 'number') return kept;
    if (order === 'name') return kept.sort((a, b) => collator.compare(a.name, b.name));
    if (order === 'soft') {
      const least = new Map<string, number>();
      for (const { pieceId, outputId } of plan.files)
        least.set(pieceId, Math.min(least.get(pieceId) ?? 1, crisp.get(cellKey(pieceId, outputId)) ?? 1));
      return kept.sort((a, b) => (least.get(a.id) ?? 1) - (least.get(b.id) ?? 1));
    }
    const weights = new Map<string, number>();
    for (const { pieceId, outputId } of plan.files)
      weights.set(pieceId, (weights.get(pieceId) ?? 0) + (made.get(cellKey(pieceId, outputId))?.bytes ?? 0));
    const sign = order === 'light' ? 1 : -1;
    return kept.sort((a, b) => ((weights.get(a.id) ?? 0) - (weights.get(b.id) ?? 0)) * sign);
  }, [plan, query, filter, ofKind, troubled, order, made, crisp]);
  return {
    shown,
    query,
    setQuery,
    filter,
    setFilter,
    order,
    setOrder,
    /** The kind of finding whose pieces alone are shown. */
    picked,
    setPicked,
    troubled,
    /** Also when only hints are left, or something of the project as a whole: there is a place to read them. */
    hasFindings: troubled.size > 0 || all.length > 0,
  };
}

export type ShownPieces = ReturnType<typeof useShownPieces>;
