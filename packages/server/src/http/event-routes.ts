import { type ProjectEvent, refuse } from '@tolvik/core';
import { type Request, type Response, Router } from 'express';
import { LRUCache } from 'lru-cache';
import { findProject } from '../db/projects';
import type { Context } from './context';
import { whenGone } from './gone';
import { eventsQuery } from './schemas';

const HEARTBEAT_MS = 20_000;
const MOST_UNREAD = 1_048_576;
/** Streams at once, of one address and of all: what is left of the connections answers requests. */
const MOST_OF_ADDRESS = 200;
const MOST_OF_ALL = 1200;
/** Server-sent events (HTML §9.2): of one project, or of several in one stream, since a browser opens few connections. */
export function eventRoutes(context: Context): Router {
  const router = Router();
  const streams = new LRUCache<string, number>({ max: 100_000 });
  let all = 0;

  /** Begins a stream; refuses one more than there may be. */
  function begin(req: Request, res: Response): void {
    const address = req.ip ?? '';
    const own = streams.get(address) ?? 0;
    if (all >= MOST_OF_ALL || own >= MOST_OF_ADDRESS)
      refuse('busy', 'too many windows listen at the moment', { accepted: 'fewer windows, or one later' });
    all++;
    streams.set(address, own + 1);
    whenGone(res, () => {
      all--;
      streams.set(address, Math.max(0, (streams.get(address) ?? 1) - 1));
    });
    res.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' });
    res.flushHeaders();
    const beat = setInterval(() => res.write(': still here\n\n'), HEARTBEAT_MS);
    whenGone(res, () => clearInterval(beat));
  }

  /** Tells of a project from now on, first of the version it has. */
  function tell(res: Response, project: { id: string; version: number }, say: (event: ProjectEvent) => unknown): void {
    const send = (event: ProjectEvent) => {
      // Who reads nothing is let go, and asks again when it does.
      if (res.writableLength > MOST_UNREAD) res.destroy();
      else res.write(`data: ${JSON.stringify(say(event))}\n\n`);
    };
    send({ type: 'edited', version: project.version, editId: '' } as ProjectEvent);
    whenGone(res, context.hub.listen(project.id, send));
  }

  router.get('/projects/:id/events', async (req, res) => {
    const project = await findProject(context.db, String(req.params.id));
    if (!project) return void refuse('not.found', 'there is no such project');
    begin(req, res);
    tell(res, project, (event) => event);
  });

  router.get('/events', async (req, res) => {
    const found = await Promise.all(eventsQuery.parse(req.query).of.map((id) => findProject(context.db, id)));
    begin(req, res);
    for (const project of found) if (project) tell(res, project, (event) => ({ projectId: project.id, event }));
  });
  return router;
}
