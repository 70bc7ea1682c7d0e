import { useQuery, useQueryClient } from '@tanstack/react-query';
import { cellKey, type Seen, type Taker } from '@tolvik/core';
import { useEffect, useMemo, useState } from 'react';
import { request } from '../../api/client';
import type { Delivery } from '../../api/types';
import { fetched } from '../../ui/part';
import { serverMade } from '../files/made';
import { useOpenSession, useSessionPart } from '../session/context';

const NO_RULES: readonly Taker[] = [];
type LastDelivery = { number: number; paths: string[] };

/** What is not part of the first screen waits until that is drawn. */
export const FIRST_MS = 1200;

function useAfterFirstScreen(): boolean {
  const [calm, setCalm] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setCalm(true), FIRST_MS);
    return () => clearTimeout(timer);
  }, []);
  return calm;
}

/** The files of the newest finished delivery, as far as they are known. */
export function useLastDelivery(projectId: string): LastDelivery | undefined {
  const { data: list } = useQuery({
    queryKey: ['deliveries', projectId],
    queryFn: () => request<{ deliveries: Delivery[] }>(`/projects/${projectId}/deliveries`),
  });
  const last = list?.deliveries.find((each) => each.state === 'done');
  const calm = useAfterFirstScreen();
  const { data } = useQuery({
    queryKey: ['delivery paths', last?.id],
    enabled: calm && !!last,
    staleTime: Infinity,
    queryFn: () => request<LastDelivery>(`/deliveries/${last?.id}/paths`),
  });
  return data;
}

/**
 * What can be seen of rendered files on their grounds, by cell, as far as the Proof has learned it of the project as
 * it is now; the same map until something in it changes.
 */
export function useSeen(): ReadonlyMap<string, Seen> {
  const { id } = useOpenSession();
  const version = useSessionPart('version');
  const { data } = useQuery({ ...serverMade(id), enabled: false });
  const files = data?.version === version ? data.files : undefined;
  const facts = useMemo(
    () =>
      JSON.stringify(
        files?.flatMap(({ pieceId, outputId, seen }) => (seen ? [[cellKey(pieceId, outputId), seen]] : [])) ?? [],
      ),
    [files],
  );
  return useMemo(() => new Map(JSON.parse(facts) as [string, Seen][]), [facts]);
}

/** What the receivers take that get every export; the same list until one of them changes. */
export function useIntakes(projectId: string): readonly Taker[] {
  const queries = useQueryClient();
  const calm = useAfterFirstScreen();
  const [intakes, setIntakes] = useState<readonly Taker[]>(NO_RULES);
  useEffect(() => {
    let stop: (() => void) | null = () => {};
    if (calm)
      void fetched(() => import('../receivers/intakes')).then(({ followIntakes }) => {
        if (stop) stop = followIntakes(queries, projectId, setIntakes);
      });
    return () => {
      stop?.();
      stop = null;
    };
  }, [calm, queries, projectId]);
  return intakes;
}

/** Weights of files by cell, where rules go by them. */
export function useWeights(needed: boolean): ReadonlyMap<string, number> | undefined {
  const { id } = useOpenSession();
  const version = useSessionPart('version');
  const { data } = useQuery({ ...serverMade(id), enabled: false });
  const files = needed && data?.version === version ? data.files : undefined;
  return useMemo(
    () =>
      files &&
      new Map(
        files.flatMap(({ pieceId, outputId, bytes }) => (bytes === null ? [] : [[cellKey(pieceId, outputId), bytes]])),
      ),
    [files],
  );
}
