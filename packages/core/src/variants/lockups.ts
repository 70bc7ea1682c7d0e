import { refuse } from '../basics/problem';
import type { ProjectDocument } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { type Artboard, artboardRecord, type LockupRule, lockupRule } from '../document/records';
import { lockupLayout, wholeUp } from '../pieces/placements';

export type Arrangement = LockupRule['arrangement'];
export const ARRANGEMENTS: readonly Arrangement[] = ['wide', 'stacked', 'emblem', 'wordmark'];

/** What a lockup is made by, the arrangement apart. */
export type LockupOptions = Omit<LockupRule, 'arrangement' | 'wordmarkId' | 'guide'>;
export const LOCKUP_OPTIONS: LockupOptions = lockupRule
  .pick({ gap: true, clearSpace: true, emblemHeight: true, align: true })
  .parse({});

/** Which of two artboards is the emblem: the one whose sides are nearer to each other. */
export function emblemFirst([one, other]: readonly [Artboard, Artboard]): [emblem: Artboard, wordmark: Artboard] {
  const aspect = ({ width, height }: Artboard) => Math.max(width / height, height / width);
  return aspect(one) <= aspect(other) ? [one, other] : [other, one];
}

/** A lockup's size in whole px, by its rule. */
export function lockupSize(emblem: Artboard, wordmark: Artboard, rule: LockupRule): { width: number; height: number } {
  const { width, height } = lockupLayout(rule.arrangement === 'wordmark' ? null : emblem, wordmark, rule);
  return { width: wholeUp(width), height: wholeUp(height) };
}

/**
 * Lockups that follow an emblem and a wordmark, one row right of everything, a gap apart. Names from a template in
 * which `{lockup}` is the arrangement. Throws a `Refusal` when either follows another artboard.
 */
export function makeLockups(
  doc: ProjectDocument,
  emblem: Artboard,
  wordmark: Artboard,
  arrangements: readonly Arrangement[],
  options: LockupOptions,
  naming = '{lockup}',
): Artboard[] {
  for (const part of [emblem, wordmark])
    if (part.follows)
      refuse('lockup.chain', `${part.name} follows another artboard itself`, {
        accepted: 'artboards with artwork of their own',
      });
  const orders = ordersAfter(lastOrder(doc.list('artboard')), arrangements.length);
  const boards = doc.list('artboard');
  const gap = Math.max(16, Math.round(wordmark.height / 2));
  let x = Math.ceil(Math.max(...boards.map((board) => board.x + board.width))) + gap;
  const y = Math.floor(Math.min(emblem.y, wordmark.y));
  return arrangements.map((arrangement, i) => {
    const lockup = lockupRule.parse({ ...options, arrangement, wordmarkId: wordmark.id });
    const size = lockupSize(emblem, wordmark, lockup);
    const name =
      naming
        .replace(/\{lockup\}/g, arrangement)
        .replace(/\{emblem\}/g, emblem.name)
        .replace(/\{wordmark\}/g, wordmark.name)
        .trim() || arrangement;
    const made = artboardRecord.parse({
      ...emblem,
      id: newId(),
      order: orders[i],
      name,
      x,
      y,
      ...size,
      background: emblem.background,
      on: true,
      smallest: undefined,
      follows: { artboardId: emblem.id, rule: { kind: 'asDrawn' }, lockup },
    });
    x += size.width + gap;
    return made;
  });
}

/** A lockup by another rule; its size follows, its upper left corner stays. */
export function withLockup(doc: ProjectDocument, artboard: Artboard, change: Partial<LockupRule>): Artboard {
  const { follows } = artboard;
  const lockup = follows?.lockup && lockupRule.parse({ ...follows.lockup, ...change });
  const wordmark = lockup && doc.find('artboard', lockup.wordmarkId);
  const emblem = follows && doc.find('artboard', follows.artboardId);
  if (!follows || !lockup || !wordmark) return artboard;
  return { ...artboard, ...(emblem ? lockupSize(emblem, wordmark, lockup) : {}), follows: { ...follows, lockup } };
}

/** A sheet that shows a lockup with its clear space and measures, below it; it follows the same emblem and wordmark. */
export function makeGuide(doc: ProjectDocument, source: Artboard): Artboard {
  const { follows } = source;
  if (!follows?.lockup)
    return refuse('guide.not', `${source.name} is no lockup`, { accepted: 'a lockup of an emblem and a wordmark' });
  const [order] = ordersAfter(lastOrder(doc.list('artboard')), 1);
  const column = doc
    .list('artboard')
    .filter((artboard) => artboard.x < source.x + source.width && artboard.x + artboard.width > source.x);
  const y =
    Math.ceil(Math.max(...column.map((artboard) => artboard.y + artboard.height))) +
    Math.max(16, Math.round(source.height / 6));
  return artboardRecord.parse({
    ...source,
    id: newId(),
    order,
    name: `${source.name}-clear-space`,
    y,
    background: source.background ?? '#ffffff',
    backgroundUse: undefined,
    smallest: undefined,
    follows: { ...follows, lockup: { ...follows.lockup, guide: true } },
  });
}
