import { request } from '../../api/client';

const EVERY_MS = 1000;

/**
 * Tells the server of a gesture, once a second while it is called: on the machine that one draws on, files that nobody
 * asked for yet are not made meanwhile. Nothing depends on its getting there.
 */
export function gestureTeller(projectId: string): () => void {
  let toldAt = Number.NEGATIVE_INFINITY;
  return () => {
    const now = performance.now();
    if (now - toldAt < EVERY_MS) return;
    toldAt = now;
    void request(`/projects/${projectId}/gesture`, { method: 'POST' }).catch(() => {});
  };
}
