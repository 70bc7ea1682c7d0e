import { acts, type Finding, NO_FONTS } from '@tolvik/core';
import { usePainter } from '../../painter/use-painter';
import { useNotice } from '../../ui/notices';
import { later } from '../../ui/part';
import { doAct, plainIntent } from '../session/act';
import { planOf, useOpenSession } from '../session/context';
import { meetingsFor } from './meetings';

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
  return (findings) =>
    session.comesOf(async () => {
      const { mendFindings } = await mending();
      const meetings = await meetingsFor(session.doc, painter);
      const meetingsOf = (artboardId: string) => meetings.get(artboardId);
      const change = mendFindings(findings, { doc: session.doc, plan: planOf(session), fonts: NO_FONTS, meetingsOf });
      if (change) session.commit(change);
      else tell('There is nothing left to mend.');
    });
}
