import { refuse } from '@tolvik/core';
import type { Config } from '../config';

/** Encoded slashes, dots and backslashes: what a server behind may read as another way. */
const HIDDEN_WAY = /%(?:2f|5c|2e)/i;

/**
 * Whether an address is one of some bases or below one, with nothing in it but a way: no person, query or part of a page,
 * and nothing that may lead up again once it is decoded.
 */
export function isAllowedIntake(bases: readonly string[], address: string): boolean {
  if (!URL.canParse(address)) return false;
  const url = new URL(address);
  const isPlain = !url.username && !url.password && !url.search && !url.hash && !/[?#]/.test(url.href);
  const isBelow = (base: string) =>
    url.href === base ||
    (url.href.startsWith(base.replace(/\/?$/, '/')) && !HIDDEN_WAY.test(url.href.slice(base.length)));
  return isPlain && bases.some(isBelow);
}

/**
 * An address that whoever runs the server lets it send to: one of `TOLVIK_INTAKES` or below one, so that nobody can
 * have the server call other machines. Refuses all others.
 */
export function allowedIntake({ intakes }: Pick<Config, 'intakes'>, address: string): URL {
  const accepted = intakes.length > 0 ? intakes.join(', ') : 'none; TOLVIK_INTAKES names some';
  if (!URL.canParse(address)) refuse('receiver.address', 'that is no address', { accepted });
  if (!isAllowedIntake(intakes, address))
    refuse('receiver.address', 'that address is none of those this server may send to', { accepted });
  return new URL(address);
}
