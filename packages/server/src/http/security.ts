import { randomBytes } from 'node:crypto';
import { networkInterfaces } from 'node:os';
import type { RequestHandler } from 'express';
import helmet from 'helmet';
import { isLoopback } from '../config';
import { sendProblem } from './problem';

const hostName = (host: string) => host.toLowerCase().replace(/:\d+$/, '');

/** The addresses of this machine, as a browser writes them. A name that points here is none of them. */
const ownAddresses = (): Set<string> =>
  new Set(
    Object.values(networkInterfaces())
      .flatMap((list) => list ?? [])
      .map(({ address, family }) => (family === 'IPv6' ? `[${address.replace(/%.*$/, '')}]` : address)),
  );

/**
 * Answers only under names that are known, and changes things only for pages of this very origin:
 * a page elsewhere cannot reach the app by pointing its own name here.
 */
export function ownHostOnly(hosts: readonly string[], bind: string): RequestHandler {
  const named = new Set(hosts.map(hostName));
  const addresses = isLoopback(bind) ? new Set<string>() : ownAddresses();
  const isKnown = (name: string) => name !== '' && (isLoopback(name) || named.has(name) || addresses.has(name));
  return (req, res, next) => {
    const host = req.headers.host ?? '';
    if (!isKnown(hostName(host)))
      return sendProblem(res, 403, {
        code: 'host.foreign',
        message: `this server does not answer as "${host.slice(0, 100)}"`,
      });
    const { origin } = req.headers;
    if (origin !== undefined) {
      let same = false;
      try {
        same = new URL(origin).host === host;
      } catch {
        same = false;
      }
      if (!same)
        return sendProblem(res, 403, {
          code: 'origin.foreign',
          message: 'requests from pages of another origin are refused',
        });
    }
    if (req.headers['sec-fetch-site'] === 'cross-site')
      return sendProblem(res, 403, {
        code: 'origin.foreign',
        message: 'requests from pages of another origin are refused',
      });
    next();
  };
}

/** Within a machine, packing and unpacking take longer than the bytes do: what is asked for under its own name comes as it is. */
export const plainOnThisMachine: RequestHandler = (req, _res, next) => {
  if (isLoopback(hostName(req.headers.host ?? ''))) req.headers['accept-encoding'] = 'identity';
  next();
};

/** A number used once per answer; style sheets that dialogs insert must carry it. */
export const withNonce: RequestHandler = (_req, res, next) => {
  res.locals.nonce = randomBytes(16).toString('base64');
  next();
};

export const securityHeaders: RequestHandler = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      'default-src': ["'none'"],
      'script-src': ["'self'", "'wasm-unsafe-eval'"],
      'style-src': [
        "'self'",
        (_req, res) => `'nonce-${(res as unknown as { locals: { nonce: string } }).locals.nonce}'`,
      ],
      'img-src': ["'self'", 'blob:', 'data:'],
      'font-src': ["'self'"],
      'connect-src': ["'self'"],
      'worker-src': ["'self'"],
      'form-action': ["'self'"],
      'base-uri': ["'none'"],
      'frame-ancestors': ["'none'"],
    },
  },
  crossOriginEmbedderPolicy: false,
  strictTransportSecurity: false,
  referrerPolicy: { policy: 'no-referrer' },
});

/** For bytes that came from a user's artwork: opened on their own they may do nothing at all. */
export const INERT = "sandbox; default-src 'none'; img-src data:; style-src 'unsafe-inline'";
