import { createHash, createHmac, timingSafeEqual } from 'node:crypto';
import express, { type Request, type RequestHandler, type Response, Router } from 'express';
import { LRUCache } from 'lru-cache';
import { sendProblem } from './problem';

const COOKIE = 'tolvik-access';
const A_MONTH_S = 30 * 24 * 3600;
/** Tries that cost nothing, and the longest that somebody has to wait after more of them. */
const FREE_TRIES = 5;
const LONGEST_WAIT_S = 300;

const digest = (text: string) => createHash('sha256').update(text).digest();
const same = (one: string, other: string) => timingSafeEqual(digest(one), digest(other));

/** What stands for the key in the browser: whoever has it may in, and nobody reads the key out of it. */
const tokenOf = (key: string) => createHmac('sha256', key).update('tolvik access, first form').digest('hex');

function cookieOf(req: Request): string | undefined {
  for (const part of (req.headers.cookie ?? '').split(';')) {
    const at = part.indexOf('=');
    if (at > 0 && part.slice(0, at).trim() === COOKIE) return part.slice(at + 1).trim();
  }
  return undefined;
}

/**
 * Asks everybody for the key before anything else: a browser once, by a form; a program in every request, as
 * `Authorization: Bearer KEY`. Who tries again and again waits longer each time.
 */
export function accessKey(key: string): Router {
  const token = tokenOf(key);
  const tries = new LRUCache<string, { failed: number; until: number }>({ max: 10_000, ttl: 3_600_000 });
  const router = Router();

  const waits = (req: Request): number => Math.ceil(((tries.get(who(req))?.until ?? 0) - Date.now()) / 1000);
  const failed = (req: Request): void => {
    const count = (tries.get(who(req))?.failed ?? 0) + 1;
    const wait = count <= FREE_TRIES ? 0 : Math.min(LONGEST_WAIT_S, 2 ** (count - FREE_TRIES));
    tries.set(who(req), { failed: count, until: Date.now() + wait * 1000 });
  };
  const tooSoon = (res: Response, wait: number) => {
    res.set('Retry-After', String(wait));
    sendProblem(res, 429, { code: 'access.wait', message: `that was tried too often; try again in ${wait} s` });
  };

  router.post('/access', express.urlencoded({ extended: false, limit: '2kb' }), (req, res) => {
    const wait = waits(req);
    if (wait > 0)
      return wantsPage(req)
        ? void sendForm(res, 429, `That was tried too often. Try again in ${wait} s.`)
        : tooSoon(res, wait);
    const given = String((req.body as { key?: unknown } | undefined)?.key ?? '');
    if (!same(given, key)) {
      failed(req);
      return wantsPage(req)
        ? void sendForm(res, 401, 'That is not the key.')
        : sendProblem(res, 401, { code: 'access.key', message: 'that is not the key' });
    }
    tries.delete(who(req));
    res.cookie(COOKIE, token, { httpOnly: true, sameSite: 'strict', path: '/', maxAge: A_MONTH_S * 1000 });
    return wantsPage(req) ? res.redirect(303, '/') : void res.status(204).end();
  });

  const ask: RequestHandler = (req, res, next) => {
    const cookie = cookieOf(req);
    if (cookie !== undefined && same(cookie, token)) return next();
    const bearer = /^Bearer (.+)$/.exec(req.headers.authorization ?? '')?.[1];
    if (bearer !== undefined) {
      const wait = waits(req);
      if (wait > 0) return tooSoon(res, wait);
      if (same(bearer, key)) return next();
      failed(req);
    }
    if (wantsPage(req)) return sendForm(res, 401);
    res.set('WWW-Authenticate', 'Bearer');
    sendProblem(res, 401, {
      code: 'access.key',
      message: 'this server asks for its access key',
      accepted: 'the key as "Authorization: Bearer …", or the form at /',
    });
  };
  router.use(ask);
  return router;
}

const who = (req: Request): string => req.socket.remoteAddress ?? '';
const wantsPage = (req: Request): boolean => !req.path.startsWith('/api/') && req.accepts(['json', 'html']) === 'html';

function sendForm(res: Response, status: number, words = ''): void {
  // Without a referrer the browser would send the form as if it came from nowhere.
  res
    .status(status)
    .set({ 'Cache-Control': 'no-store', 'Referrer-Policy': 'same-origin' })
    .type('html')
    .send(FORM.replace('__NONCE__', res.locals.nonce).replace('__WORDS__', words));
}

const FORM = `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Tolvik</title>
<style nonce="__NONCE__">
body { margin: 0; min-height: 100vh; display: grid; place-items: center; background: #cfd0cc; color: #171b1c; font: 13px/1.5 system-ui, sans-serif }
form { position: relative; width: 272px; padding: 24px; background: #f8f8f5 }
form::before, form::after { content: ""; position: absolute; inset: -14px 0; border: solid #171b1c; border-width: 0 1px; clip-path: polygon(0 0, 100% 0, 100% 10px, 0 10px, 0 calc(100% - 10px), 100% calc(100% - 10px), 100% 100%, 0 100%, 0 calc(100% - 10px), 0 10px) }
form::after { inset: 0 -14px; border-width: 1px 0; clip-path: polygon(0 0, 10px 0, 10px 100%, calc(100% - 10px) 100%, calc(100% - 10px) 0, 100% 0, 100% 100%, 0 100%) }
h1 { margin: 0 0 12px; font-size: 15px }
label { display: block; margin-bottom: 4px }
input { box-sizing: border-box; width: 100%; height: 30px; padding: 0 8px; border: 1px solid #8b8f8c; border-radius: 4px; background: #fff; font: inherit }
button { margin-top: 12px; height: 30px; padding: 0 14px; border: 0; border-radius: 4px; background: #0c6a53; color: #fff; font: inherit; font-weight: 600; cursor: pointer }
:focus-visible { outline: 2px solid #0c6a53; outline-offset: 2px }
p { margin: 12px 0 0; color: #be2f22 }
p:empty { display: none }
</style>
</head>
<body>
<form method="post" action="/access">
<h1>This Tolvik is kept closed</h1>
<label for="key">Access key</label>
<input id="key" name="key" type="password" autocomplete="current-password" required autofocus aria-describedby="words">
<button>Open</button>
<p id="words" role="alert">__WORDS__</p>
</form>
</body>
</html>
`;
