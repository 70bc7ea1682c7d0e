import type { ServerResponse } from 'node:http';

/**
 * Calls back once when whoever asked is gone, also when they went before this was asked: what is waited for before an
 * answer begins gives them time, and a response tells of its end only once.
 */
export function whenGone(res: ServerResponse, then: () => void): void {
  if (res.closed || res.destroyed) then();
  else res.once('close', then);
}
