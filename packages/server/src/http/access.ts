import { createHash, createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import express, { type Request, type RequestHandler, type Response, Router } from 'express';
import ipaddr from 'ipaddr.js';
import { LRUCache } from 'lru-cache';
import { endSession, findSession, forgetPlace, isKnownPlace, keepSession, knowPlace, SESSION_DAYS } from '../db/access';
import type { Database } from '../db/database';
import { Guesses } from './guesses';
import { sendProblem } from './problem';

/** The session, and the browser as one in which the key was right before. */
const COOKIE = 'tolvik-access';
const KNOWN_COOKIE = 'tolvik-known';
const DAY_MS = 86_400_000;
const KNOWN_DAYS = 365;
const TOKEN = /^[0-9a-f]{64}$/;
/** A session is looked up anew after so long: ended elsewhere, it is over here, too. */
const LOOKED_UP_MS = 15_000;
/** Wrong keys in a row from a browser that is known, until it is one like any other. */
const MOST_OF_KNOWN = 10;

const digest = (text: string) => createHash('sha256').update(text).digest();
const same = (one: string, other: string) => timingSafeEqual(digest(one), digest(other));
const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

function cookieOf(req: Request, name: string): string | undefined {
  for (const part of (req.headers.cookie ?? '').split(';')) {
    const at = part.indexOf('=');
    if (at > 0 && part.slice(0, at).trim() === name) {
      const value = part.slice(at + 1).trim();
      return TOKEN.test(value) ? value : undefined;
    }
  }
  return undefined;
}

/** An address as guesses are counted by it: of IPv6 the network, since one machine has as many addresses as it likes. */
export function countedAddress(address: string): string {
  const plain = address.split('%')[0];
  if (!ipaddr.isValid(plain)) return plain;
  const parsed = ipaddr.process(plain);
  return parsed.kind() === 'ipv4' ? parsed.toString() : parsed.toNormalizedString().split(':').slice(0, 4).join(':');
}

/**
 * Asks everybody for the key before anything else: a browser once, by a form, after which a random token is its session;
 * a program in every request, as `Authorization: Bearer KEY`. Guessing is limited by `Guesses`; who was let in before is
 * not held up by others. `POST /access/end` ends a session, for this server and all others on the database.
 */
export function accessKey(key: string, db: Database): Router {
  const ofKey = createHmac('sha256', key).update('tolvik access sessions').digest('hex').slice(0, 32);
  const guesses = new Guesses();
  const sessions = new LRUCache<string, boolean>({ max: 10_000, ttl: LOOKED_UP_MS });
  const wrongOfKnown = new LRUCache<string, number>({ max: 10_000, ttl: DAY_MS });
  const router = Router();

  /** Holds a key against the right one, where that may be tried now: `wait` says for how many seconds it may not. */
  const tried = async (
    req: Request,
    given: string,
    place: string | null,
  ): Promise<{ right: boolean; wait: number }> => {
    const address = addressOf(req);
    const wait = guesses.waitS(address);
    if (wait > 0) {
      if (!place || !(await isKnownPlace(db, place).catch(() => false))) return { right: false, wait };
      if (!(await guesses.turn(place))) return { right: false, wait: 1 };
    }
    if (same(given, key)) return { right: true, wait: 0 };
    guesses.failed(address);
    return { right: false, wait: 0 };
  };

  /** A browser is known by a cookie of its own, whoever else is at its address. */
  const browserOf = (req: Request): string | null => {
    const known = cookieOf(req, KNOWN_COOKIE);
    return known ? `browser ${hashOf(known)}` : null;
  };
  /** Wrong keys of a known browser: after some it is one like any other. */
  const wrongIn = async (browser: string | null): Promise<void> => {
    if (!browser) return;
    const wrong = (wrongOfKnown.get(browser) ?? 0) + 1;
    wrongOfKnown.set(browser, wrong);
    if (wrong >= MOST_OF_KNOWN) await forgetPlace(db, browser);
  };

  const tooSoon = (req: Request, res: Response, wait: number): void => {
    res.set('Retry-After', String(wait));
    if (wantsPage(req)) return sendForm(res, 429, `That was tried too often. Try again in ${wait} s.`);
    sendProblem(res, 429, { code: 'access.wait', message: `that was tried too often; try again in ${wait} s` });
  };

  router.post('/access', express.urlencoded({ extended: false, limit: '2kb' }), async (req, res) => {
    const browser = browserOf(req);
    const given = String((req.body as { key?: unknown } | undefined)?.key ?? '');
    const { right, wait } = await tried(req, given, browser);
    if (wait > 0) return tooSoon(req, res, wait);
    if (!right) {
      await wrongIn(browser);
      return wantsPage(req)
        ? void sendForm(res, 401, 'That is not the key.')
        : sendProblem(res, 401, { code: 'access.key', message: 'that is not the key' });
    }
    const [session, known] = [
      randomBytes(32).toString('hex'),
      cookieOf(req, KNOWN_COOKIE) ?? randomBytes(32).toString('hex'),
    ];
    await keepSession(db, { hash: hashOf(session), ofKey });
    await knowPlace(db, `browser ${hashOf(known)}`);
    if (browser) wrongOfKnown.delete(browser);
    guesses.succeeded(addressOf(req));
    const kept = { httpOnly: true, sameSite: 'strict', path: '/', secure: req.secure } as const;
    res.cookie(COOKIE, session, { ...kept, maxAge: SESSION_DAYS * DAY_MS });
    res.cookie(KNOWN_COOKIE, known, { ...kept, maxAge: KNOWN_DAYS * DAY_MS });
    return wantsPage(req) ? res.redirect(303, '/') : void res.status(204).end();
  });

  const isSession = async (token: string): Promise<boolean> => {
    const hash = hashOf(token);
    const looked = sessions.get(hash);
    if (looked !== undefined) return looked;
    const there = await findSession(db, { hash, ofKey });
    sessions.set(hash, there);
    return there;
  };

  router.post('/access/end', async (req, res) => {
    const token = cookieOf(req, COOKIE);
    if (token) {
      sessions.delete(hashOf(token));
      await endSession(db, hashOf(token));
    }
    res.clearCookie(COOKIE, { path: '/' });
    return wantsPage(req) ? res.redirect(303, '/') : void res.status(204).end();
  });

  const ask: RequestHandler = async (req, res, next) => {
    const token = cookieOf(req, COOKIE);
    if (token !== undefined && (await isSession(token))) return next();
    const bearer = /^Bearer (.+)$/.exec(req.headers.authorization ?? '')?.[1];
    if (bearer !== undefined) {
      const program = `address ${addressOf(req)}`;
      const { right, wait } = await tried(req, bearer, program);
      if (wait > 0) return tooSoon(req, res, wait);
      if (right) {
        if (!rightFrom.has(program)) await knowPlace(db, program);
        rightFrom.set(program, true);
        return next();
      }
    }
    if (wantsPage(req)) return sendForm(res, 401);
    res.set('WWW-Authenticate', 'Bearer');
    sendProblem(res, 401, {
      code: 'access.key',
      message: 'this server asks for its access key',
      accepted: 'the key as "Authorization: Bearer …", or the form at /',
    });
  };
  /** Addresses of programs that were noted not long ago. */
  const rightFrom = new LRUCache<string, boolean>({ max: 10_000, ttl: DAY_MS });
  router.use(ask);
  return router;
}

const addressOf = (req: Request): string => countedAddress(req.ip ?? req.socket.remoteAddress ?? '');
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
