import { type QueryClient, QueryObserver } from '@tanstack/react-query';
import { ALL_FILES, type Receivers, type Taker } from '@tolvik/core';
import { request } from '../../api/client';
import { readLocalReceivers, useLocalReceivers } from './local-receivers';

/** Tells what the receivers take that get every export, those of this computer among them, whenever that changes. */
export function followIntakes(
  queries: QueryClient,
  projectId: string,
  onChange: (intakes: readonly Taker[]) => void,
): () => void {
  let told = '[]';
  const observer = new QueryObserver<Receivers>(queries, {
    queryKey: ['receivers', projectId],
    queryFn: () => request<Receivers>(`/projects/${projectId}/receivers`),
  });
  const tell = () => {
    const local = (useLocalReceivers.getState().all ?? []).filter((each) => each.projectId === projectId);
    const all = [...(observer.getCurrentResult().data?.receivers ?? []), ...local];
    const intakes = all.flatMap(({ on, rules, takes = ALL_FILES }): Taker[] => (on && rules ? [{ rules, takes }] : []));
    const text = JSON.stringify(intakes);
    if (text === told) return;
    told = text;
    onChange(intakes);
  };
  const stops = [observer.subscribe(tell), useLocalReceivers.subscribe(tell)];
  void readLocalReceivers().then(tell);
  return () => {
    for (const stop of stops) stop();
  };
}
