import { acts } from '@tolvik/core';
import { doAct, plainIntent } from '../session/act';
import type { Session } from '../session/session';

/** Brings artboards to one size, with what lies on them. */
export const toOneSize = (session: Session, ids: readonly string[], longestPx: number): boolean =>
  doAct(session, acts.bringToSize, plainIntent(ids), { longestPx });
