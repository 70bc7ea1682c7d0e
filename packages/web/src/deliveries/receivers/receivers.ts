import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { Receiver, Receivers } from '@tolvik/core';
import { useEffect } from 'react';
import { request } from '../../api/client';
import { askAnew } from '../../project/files/ask-anew';
import { useOpenSession, useSessionPart } from '../../project/session/context';
import { count, when } from '../../ui/words';

/** How the receivers of a project are asked for. */
export const receiversOf = (projectId: string) => ({
  queryKey: ['receivers', projectId],
  queryFn: () => request<Receivers>(`/projects/${projectId}/receivers`),
});

/** Who takes the deliveries of the open project; fetched again when one was written to. */
export function useReceivers() {
  const { id } = useOpenSession();
  const told = useSessionPart('receiversTold');
  const queries = useQueryClient();
  const query = useQuery({ ...receiversOf(id), refetchOnMount: 'always' });
  useEffect(() => {
    if (told > 0) void askAnew(queries, receiversOf(id).queryKey);
  }, [told, queries, id]);
  return query;
}

/** The whole folder of a receiver, or its address. */
export function placeOf(receiver: Receiver): string {
  if (receiver.kind === 'intake') return receiver.address;
  return receiver.folder ? `${receiver.root}/${receiver.folder}` : receiver.root;
}

export const TONES = { good: 'text-spruce', plain: 'text-ink-2', warn: 'text-ochre', bad: 'text-bad' };

/** How a receiver stands, in words; `newest` is the newest delivery that is done, and whether the project was edited since. */
export function standingWords(
  {
    standing,
    trouble,
    on,
    onItsWay,
    follows,
  }: Pick<Receiver, 'standing' | 'trouble' | 'on'> & Partial<Pick<Receiver, 'onItsWay' | 'follows'>>,
  newest: { number: number; edited: boolean } | undefined,
): { words: string; tone: 'good' | 'plain' | 'warn' | 'bad' } {
  if (onItsWay) {
    const { number, done, of } = onItsWay;
    const come = of === null ? '' : `: ${done.toLocaleString('en')} of ${count(of, 'file')}`;
    return { words: `No. ${number} is on its way${come}`, tone: 'plain' };
  }
  if (trouble) return { words: `! ${trouble}`, tone: 'bad' };
  if (!standing && newest && on) return { words: `has nothing yet; No. ${newest.number} is there`, tone: 'warn' };
  if (!standing) return { words: on ? 'takes the next export' : 'nothing written yet', tone: 'plain' };
  const { delivery, at, foreign, leftovers, refused } = standing;
  const notes = [
    refused > 0 && `refused ${refused.toLocaleString('en')}`,
    foreign > 0 && `${count(foreign, 'file')} of somebody else`,
    leftovers > 0 && `${count(leftovers, 'file')} left over`,
  ].filter(Boolean);
  if (follows && on && newest && (newest.number > delivery.number || newest.edited))
    return { words: 'being brought in step', tone: 'plain' };
  if (newest && newest.number > delivery.number)
    return { words: `has No. ${delivery.number}; No. ${newest.number} is newer`, tone: 'warn' };
  const beside = notes.length > 0 ? `; ${notes.join(', ')}` : '';
  if (foreign + refused > 0) return { words: `has No. ${delivery.number}${beside}`, tone: 'warn' };
  if (newest?.edited) return { words: `has No. ${delivery.number}, edited since${beside}`, tone: 'plain' };
  return { words: `in step since ${when(at)}${beside}`, tone: 'good' };
}
