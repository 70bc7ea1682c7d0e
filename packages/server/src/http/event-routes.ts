import { Router } from 'express';
import { type Context, openProject } from './context';

const HEARTBEAT_MS = 20_000;

/** Server-sent events (HTML §9.2) of one project. */
export function eventRoutes(context: Context): Router {
  const router = Router();
  router.get('/projects/:id/events', async (req, res) => {
    const project = await openProject(context, String(req.params.id));
    res.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' });
    res.flushHeaders();
    res.write(`data: ${JSON.stringify({ type: 'edited', version: project.version, editId: '' })}\n\n`);
    const stop = context.hub.listen(project.id, (event) => res.write(`data: ${JSON.stringify(event)}\n\n`));
    const beat = setInterval(() => res.write(': still here\n\n'), HEARTBEAT_MS);
    req.on('close', () => {
      stop();
      clearInterval(beat);
    });
  });
  return router;
}
