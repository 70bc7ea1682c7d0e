import { useQuery } from '@tanstack/react-query';
import type { IntakeAnswers } from '@tolvik/core';
import { useMemo } from 'react';
import { request } from '../api/client';
import { useSession } from '../project/session/context';
import { count } from '../ui/words';
import { receiversOf } from './receivers/receivers';

/** What intakes answered for the files of a delivery: in words by path what was not taken, and in short what was. */
export function useAnswers(deliveryId: string, state: string | undefined) {
  const { data: receivers } = useQuery(receiversOf(useSession().id));
  const intakes = receivers?.receivers.filter(({ kind }) => kind === 'intake') ?? [];
  // Asked again when one of them was sent to.
  const sent = intakes.map(({ standing, trouble }) => `${standing?.at} ${trouble}`).join();
  const { data } = useQuery({
    queryKey: ['answers', deliveryId, state, sent],
    enabled: intakes.length > 0 && state !== undefined,
    queryFn: () => request<IntakeAnswers>(`/deliveries/${deliveryId}/answers`),
    placeholderData: (before) => before,
  });
  return useMemo(() => {
    const refused = new Map<string, string>();
    for (const { name, refused: list } of data?.receivers ?? [])
      for (const { path, why } of list)
        refused.set(path, [refused.get(path), `${name} refused it: ${why}`].filter(Boolean).join('; '));
    const words = (data?.receivers ?? []).map(({ name, taken }) => `${name} took ${count(taken, 'file')}`).join(', ');
    return { refused, words };
  }, [data]);
}
