import { inputProblem, type Problem, Refusal } from '@tolvik/core';
import { RenderError } from '@tolvik/render';
import type { ErrorRequestHandler, Response } from 'express';
import { ZodError } from 'zod';
import { isDiskFull, isUnreachable } from '../db/database';
import { ThreadGone } from '../projects/project-thread';

/** Statuses of refusals that are not plain bad input. */
const STATUS: Record<string, number> = {
  'not.found': 404,
  'edit.clash': 409,
  'delivery.held': 409,
  'delivery.running': 409,
  'delivery.empty': 409,
  'upload.size': 413,
  'upload.files': 413,
  'upload.fields': 413,
  'upload.broken': 400,
  'upload.slow': 408,
  'input.json': 400,
  busy: 503,
  'edit.version': 409,
  'host.foreign': 403,
  'origin.foreign': 403,
};

/** An error as problem details (RFC 9457): `type` a relative code, `detail` a sentence for people. */
export function sendProblem(
  res: Response,
  status: number,
  problem: Problem,
  extra: Record<string, unknown> = {},
): void {
  const { code, message, ...rest } = problem;
  res
    .status(status)
    .type('application/problem+json')
    .json({ type: `/problems/${code}`, title: message, status, code, detail: message, ...rest, ...extra });
}

export const problemHandler =
  (log: (error: Error) => void): ErrorRequestHandler =>
  (error, _req, res, next) => {
    if (res.headersSent) return next(error);
    if (error instanceof Refusal) return sendProblem(res, STATUS[error.problem.code] ?? 422, error.problem);
    if (error instanceof ZodError) return sendProblem(res, 422, inputProblem(error));
    if (error instanceof RenderError)
      return sendProblem(res, error.code === 'stopped' ? 503 : 422, {
        code: `render.${error.code}`,
        message: error.message,
      });
    if (error instanceof ThreadGone)
      return sendProblem(res, 503, {
        code: 'project.busy',
        message: error.message,
        accepted: 'the same again in a moment',
      });
    if (isDiskFull(error))
      return sendProblem(res, 507, {
        code: 'disk.full',
        message:
          'the disk that the database is on is full; what was saved before is safe, and saving goes on once there is room',
      });
    if (isUnreachable(error))
      return sendProblem(res, 503, {
        code: 'database.away',
        message: 'the database cannot be reached at the moment; nothing was lost, try again',
      });
    if (error?.type === 'entity.too.large')
      return sendProblem(res, 413, {
        code: 'input.size',
        message: 'the request is larger than what is taken here',
        accepted: 'up to 1 MB, for an edit 64 MB',
      });
    if (error?.type === 'entity.parse.failed')
      return sendProblem(res, 400, { code: 'input.json', message: 'the request is not JSON' });
    // What the framework itself found wrong with a request: bad percent-encoding, a charset nobody knows, a length that lies.
    const status = Number(error?.status ?? error?.statusCode);
    if (status >= 400 && status < 500)
      return sendProblem(res, status, {
        code: 'input.request',
        message: 'the request cannot be read',
        accepted: 'a well-formed HTTP request',
      });
    // Values that no column takes (SQLSTATE class 22) came from outside; what is stored was checked before.
    if (/^22/.test(String(error?.code)))
      return sendProblem(res, 422, { code: 'input', message: 'the request holds a value that cannot be stored' });
    log(error);
    sendProblem(res, 500, { code: 'internal', message: 'something went wrong here; it has been noted' });
  };
