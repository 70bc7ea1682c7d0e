import { useQuery, useQueryClient } from '@tanstack/react-query';
import {
  acts,
  cellKey,
  type Finding,
  type Meetings,
  measuredSources,
  measureTextWith,
  NO_FONTS,
  type ProjectDocument,
  type Seen,
  type Taker,
} from '@tolvik/core';
import { createContext, type ReactNode, useContext, useEffect, useMemo, useState } from 'react';
import { request } from '../api/client';
import type { Delivery } from '../api/types';
import type { Checker } from '../checker/checker';
import type { Painter } from '../painter/painter';
import { usePainter } from '../painter/use-painter';
import { useNotice } from '../ui/notices';
import { fetched, later } from '../ui/part';
import { doAct, plainIntent } from './act';
import { planOf, useOpenSession, useSession, useSessionPart } from './context';
import { serverMade } from './made';

type Findings = {
  all: readonly Finding[];
  /** Errors and warnings: what wants a look. */
  byPiece: ReadonlyMap<string, readonly Finding[]>;
  needsALook: number;
};

const NONE: Findings = { all: [], byPiece: new Map(), needsALook: 0 };
const FindingsContext = createContext<Findings>(NONE);
export const useFindings = (): Findings => useContext(FindingsContext);

const QUIET_MS = 350;
type LastDelivery = { number: number; paths: string[] };

/** What is not part of the first screen waits until that is drawn. */
const FIRST_MS = 1200;

function useAfterFirstScreen(): boolean {
  const [calm, setCalm] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setCalm(true), FIRST_MS);
    return () => clearTimeout(timer);
  }, []);
  return calm;
}

/** The files of the newest finished delivery, as far as they are known. */
function useLastDelivery(projectId: string): LastDelivery | undefined {
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
function useSeen(): ReadonlyMap<string, Seen> {
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
function useIntakes(projectId: string): readonly Taker[] {
  const queries = useQueryClient();
  const calm = useAfterFirstScreen();
  const [intakes, setIntakes] = useState<readonly Taker[]>(NO_RULES);
  useEffect(() => {
    let stop: (() => void) | null = () => {};
    if (calm)
      void fetched(() => import('./intakes')).then(({ followIntakes }) => {
        if (stop) stop = followIntakes(queries, projectId, setIntakes);
      });
    return () => {
      stop?.();
      stop = null;
    };
  }, [calm, queries, projectId]);
  return intakes;
}
const NO_RULES: readonly Taker[] = [];

/** Weights of files by cell, where rules go by them. */
function useWeights(needed: boolean): ReadonlyMap<string, number> | undefined {
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

function hasTextIn(doc: ProjectDocument): boolean {
  for (const layer of doc.each('layer')) if (layer.tag === 'text') return true;
  return false;
}

/** Where the colours of all artwork meet that is followed in other colours, as far as it can be measured. */
async function meetingsFor(doc: ProjectDocument, painter: Painter): Promise<ReadonlyMap<string, Meetings>> {
  const known = new Map<string, Meetings>();
  const look = async (id: string) => {
    const meetings = await painter.meetings(id);
    if (meetings) known.set(id, meetings);
  };
  await Promise.all([...measuredSources(doc)].map(look));
  return known;
}

/** Keeps the findings of the open project up to date, a moment after each edit, in the worker. */
export function WithFindings({ checker, children }: { checker: Checker; children: ReactNode }) {
  const session = useSession();
  const painter = usePainter();
  const [all, setAll] = useState<readonly Finding[] | null>(null);
  const { revision } = session.doc;
  const lastDelivery = useLastDelivery(session.id);
  const seen = useSeen();
  const intakes = useIntakes(session.id);
  const weights = useWeights(intakes.some(({ rules }) => rules.largestBytes !== null));
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked again whenever the document moved on
  useEffect(() => {
    let live = true;
    const look = async () => {
      const meetings = await meetingsFor(session.doc, painter);
      if (!live) return;
      const found = await checker.check({ projectName: session.name, lastDelivery, seen, meetings, intakes, weights });
      if (live) setAll(found);
    };
    const timer = setTimeout(() => void look(), all ? QUIET_MS : FIRST_MS);
    return () => {
      live = false;
      clearTimeout(timer);
    };
  }, [checker, painter, session, revision, lastDelivery, seen, intakes, weights]);
  const { layerRevision } = session.doc;
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked for again when layers changed
  const hasText = useMemo(() => hasTextIn(session.doc), [session, layerRevision]);
  useEffect(() => {
    // What reads fonts comes only when there is text: it is a large part of the app's code.
    if (hasText)
      void import('../painter/load-fonts')
        .then(({ loadFonts }) => loadFonts())
        .then((fonts) => measureTextWith(session.doc, fonts));
  }, [session, hasText]);
  const value = useMemo((): Findings => {
    const byPiece = new Map<string, Finding[]>();
    let needsALook = 0;
    for (const finding of all ?? []) {
      if (finding.severity !== 'hint' && !finding.accepted) needsALook++;
      const list = byPiece.get(finding.pieceId);
      if (list) list.push(finding);
      else byPiece.set(finding.pieceId, [finding]);
    }
    return { all: all ?? [], byPiece, needsALook };
  }, [all]);
  return <FindingsContext.Provider value={value}>{children}</FindingsContext.Provider>;
}

/** Says of findings that they are all right, and why; they stay so until what they say changes. */
export function useAccept(): {
  accept(findings: readonly Finding[], reason: string): void;
  takeBack(finding: Finding): void;
} {
  const session = useOpenSession();
  return {
    accept: (findings, reason) =>
      void doAct(session, acts.acceptFindings, plainIntent([]), {
        findings: [...findings],
        reason: reason.trim() || undefined,
      }),
    takeBack: (finding) => void doAct(session, acts.lookAgain, plainIntent([]), { findings: [finding] }),
  };
}

const mending = later(() => import('./mend'));

/** Mends findings in one step that one undo takes back. */
export function useMend(): (findings: readonly Finding[]) => Promise<void> {
  const session = useOpenSession();
  const painter = usePainter();
  const tell = useNotice();
  return async (findings) => {
    const { mendFindings } = await mending();
    const meetings = await meetingsFor(session.doc, painter);
    const meetingsOf = (artboardId: string) => meetings.get(artboardId);
    const change = mendFindings(findings, { doc: session.doc, plan: planOf(session), fonts: NO_FONTS, meetingsOf });
    if (change) session.commit(change);
    else tell('There is nothing left to mend.');
  };
}

/** The worst that is known of a piece, for places with room for one sentence. */
export const worst = (findings: readonly Finding[] | undefined): Finding | undefined =>
  findings?.find((finding) => finding.severity !== 'hint' && !finding.accepted);
