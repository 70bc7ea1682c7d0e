import { refuse } from '@tolvik/core';
import { Router } from 'express';
import { findProject } from '../db/projects';
import type { Context } from './context';
import { whenGone } from './gone';

const HEARTBEAT_MS = 20_000;
const MOST_UNREAD = 1_048_576;

/** Server-sent events (HTML §9.2) of one project. */
export function eventRoutes(context: Context): Router {
  const router = Router();
  router.get('/projects/:id/events', async (req, res) => {
    const project = await findProject(context.db, String(req.params.id));
    if (!project) return void refuse('not.found', 'there is no such project');
    res.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' });
    res.flushHeaders();
    res.write(`data: ${JSON.stringify({ type: 'edited', version: project.version, editId: '' })}\n\n`);
    const stop = context.hub.listen(project.id, (event) => {
      // Who reads nothing is let go, and asks again when it does.
      if (res.writableLength > MOST_UNREAD) res.destroy();
      else res.write(`data: ${JSON.stringify(event)}\n\n`);
    });
    const beat = setInterval(() => res.write(': still here\n\n'), HEARTBEAT_MS);
    whenGone(res, () => {
      stop();
      clearInterval(beat);
    });
  });
  return router;
}
