import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { request } from '../api/client';
import type { Delivery } from '../api/types';
import { useSession, useSessionPart } from '../project/context';
import { when } from '../ui/words';

/** When the last delivery was finished; asked for again when an export ends. */
export function useDeliveriesStanding(): { note: string } {
  const { id } = useSession();
  const delivery = useSessionPart('delivery');
  const queries = useQueryClient();
  const { data } = useQuery({
    queryKey: ['deliveries', id],
    queryFn: () => request<{ deliveries: Delivery[] }>(`/projects/${id}/deliveries`),
  });
  const finished = delivery && delivery.state !== 'running' ? `${delivery.id} ${delivery.state}` : '';
  useEffect(() => {
    if (finished) void queries.invalidateQueries({ queryKey: ['deliveries', id] });
  }, [finished, id, queries]);
  const last = data?.deliveries.find((each) => each.state === 'done');
  return { note: last ? `last: ${when(last.finishedAt ?? last.createdAt)}` : 'none yet' };
}
