import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { request } from '../api/client';
import type { Delivery } from '../api/types';
import { askAnew } from '../project/files/ask-anew';
import { useLocalReceivers } from '../project/receivers/local-receivers';
import { useOpenSession, useSession, useSessionPart } from '../project/session/context';
import { when } from '../ui/words';
import { receiversOf, standingWords } from './receivers/receivers';

/**
 * When the last delivery was finished; asked for again when an export ends. Where a receiver follows the project: how
 * it stands.
 */
export function useDeliveriesStanding(): { note: string; bad?: boolean } {
  const { id } = useSession();
  const delivery = useSessionPart('delivery');
  const queries = useQueryClient();
  const { data } = useQuery({
    queryKey: ['deliveries', id],
    queryFn: () => request<{ deliveries: Delivery[] }>(`/projects/${id}/deliveries`),
  });
  const finished = delivery && delivery.state !== 'running' ? `${delivery.id} ${delivery.state}` : '';
  useEffect(() => {
    if (finished) void askAnew(queries, ['deliveries', id]);
  }, [finished, id, queries]);
  const following = useFollowing(data?.deliveries ?? []);
  if (following) return following;
  const last = data?.deliveries.find((each) => each.state === 'done');
  return { note: last ? `last: ${when(last.finishedAt ?? last.createdAt)}` : 'none yet' };
}

/** How the receivers stand that follow the project, as far as somebody asked for them; undefined when none does. */
function useFollowing(deliveries: readonly Delivery[]): { note: string; bad?: boolean } | undefined {
  const session = useOpenSession();
  const version = useSessionPart('version');
  const told = useSessionPart('receiversTold');
  const queries = useQueryClient();
  const { data } = useQuery({ ...receiversOf(session.id), enabled: false });
  useEffect(() => {
    if (told > 0) void askAnew(queries, receiversOf(session.id).queryKey);
  }, [told, queries, session]);
  const { all, trouble } = useLocalReceivers();
  const local = (all ?? [])
    .filter(({ projectId }) => projectId === session.id)
    .map((receiver) => ({ ...receiver, trouble: trouble[receiver.id] ?? null }));
  const followers = [...(data?.receivers ?? []), ...local].filter(({ on, follows }) => on && follows);
  if (followers.length === 0) return undefined;
  const newest = deliveries.find(({ state }) => state === 'done');
  const last = newest && { number: newest.number, edited: version > newest.version };
  const standings = followers.map((receiver) => standingWords(receiver, last));
  const worst = (['bad', 'warn', 'plain'] as const).find((tone) => standings.some((each) => each.tone === tone));
  if (worst === 'bad') return { note: 'not in step', bad: true };
  if (worst === 'warn') return { note: 'in step, but for some files' };
  return { note: worst === 'plain' ? 'being brought in step' : 'in step' };
}
