import { refuse } from '@tolvik/core';
import type { Config } from '../config';

/**
 * An address that whoever runs the server lets it send to: one of `TOLVIK_INTAKES` or below one, so that nobody can
 * have the server call other machines. Refuses all others, and what names a person, a query or a part of a page.
 */
export function allowedIntake({ intakes }: Pick<Config, 'intakes'>, address: string): URL {
  const accepted = intakes.length > 0 ? intakes.join(', ') : 'none; TOLVIK_INTAKES names some';
  const url = URL.canParse(address) ? new URL(address) : refuse('receiver.address', 'that is no address', { accepted });
  const isPlain = !url.username && !url.password && !url.search && !url.hash;
  const isBelow = (base: string) => url.href === base || url.href.startsWith(base.replace(/\/?$/, '/'));
  if (!isPlain || !intakes.some(isBelow))
    refuse('receiver.address', 'that address is none of those this server may send to', { accepted });
  return url;
}
