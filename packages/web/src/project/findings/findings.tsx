import { type Finding, measureTextWith, type ProjectDocument } from '@tolvik/core';
import { createContext, type ReactNode, useContext, useEffect, useMemo, useState } from 'react';
import type { Checker } from '../../checker/checker';
import { usePainter } from '../../painter/use-painter';
import { useSession } from '../session/context';
import { FIRST_MS, useIntakes, useLastDelivery, useSeen, useWeights } from './looked-with';
import { meetingsFor } from './meetings';

type Findings = {
  all: readonly Finding[];
  /** Errors and warnings: what wants a look. */
  byPiece: ReadonlyMap<string, readonly Finding[]>;
  needsALook: number;
  /** How much of their edges lies on pixels, for small pictures, by cell; the same object as long as nothing differs. */
  crisp: ReadonlyMap<string, number>;
};

const NONE: Findings = { all: [], byPiece: new Map(), needsALook: 0, crisp: new Map() };
const FindingsContext = createContext<Findings>(NONE);
export const useFindings = (): Findings => useContext(FindingsContext);

const QUIET_MS = 350;

const sameShares = (one: ReadonlyMap<string, number>, other: ReadonlyMap<string, number>): boolean =>
  one.size === other.size && [...one].every(([cell, share]) => other.get(cell) === share);

function hasTextIn(doc: ProjectDocument): boolean {
  for (const layer of doc.each('layer')) if (layer.tag === 'text') return true;
  return false;
}

/** Keeps the findings of the open project up to date, a moment after each edit, in the worker. */
export function WithFindings({ checker, children }: { checker: Checker; children: ReactNode }) {
  const session = useSession();
  const painter = usePainter();
  const [all, setAll] = useState<readonly Finding[] | null>(null);
  const [crisp, setCrisp] = useState(NONE.crisp);
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
      if (!live) return;
      setAll(found.findings);
      setCrisp((before) => (sameShares(before, found.crisp) ? before : found.crisp));
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
      void import('../../painter/load-fonts')
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
    return { all: all ?? [], byPiece, needsALook, crisp };
  }, [all, crisp]);
  return <FindingsContext.Provider value={value}>{children}</FindingsContext.Provider>;
}

/** The worst that is known of a piece, for places with room for one sentence. */
export const worst = (findings: readonly Finding[] | undefined): Finding | undefined =>
  findings?.find((finding) => finding.severity !== 'hint' && !finding.accepted);
