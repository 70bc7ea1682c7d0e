import type { ProjectDocument } from '../document/document';
import type { Artboard, SmallestWidth } from '../document/records';
import { isPlainLockup } from './placements';

/**
 * The least width at which what an artboard shows may be shown: what was said of it; else of what it follows; of a
 * lockup in other colours, of the one that stands so in its own.
 */
export function smallestOf(doc: ProjectDocument, { id, smallest, follows }: Artboard): SmallestWidth | undefined {
  if (smallest || !follows) return smallest;
  const { artboardId, lockup } = follows;
  if (!lockup) return doc.find('artboard', artboardId)?.smallest;
  return doc
    .list('artboard')
    .find(
      (other) =>
        other.id !== id &&
        isPlainLockup(other) &&
        other.smallest &&
        other.follows?.artboardId === artboardId &&
        other.follows.lockup?.wordmarkId === lockup.wordmarkId &&
        other.follows.lockup.arrangement === lockup.arrangement,
    )?.smallest;
}

/** Whether an artboard is shown with its measures on a brand sheet: a lockup in its own colours, or what has a smallest width of its own. */
export const isMeasured = (artboard: Artboard | undefined): boolean =>
  !!artboard && (isPlainLockup(artboard) || (artboard.smallest !== undefined && !artboard.follows));

/** "24 px wide on screens, 8 mm in print"; empty where nothing was said. */
export const smallestWords = ({ px, mm }: SmallestWidth): string =>
  [
    { width: px, unit: 'px', where: 'on screens' },
    { width: mm, unit: 'mm', where: 'in print' },
  ]
    .flatMap(({ width, unit, where }) => (width === undefined ? [] : [{ width, unit, where }]))
    .map(({ width, unit, where }, i) => `${+width.toFixed(2)} ${unit}${i === 0 ? ' wide' : ''} ${where}`)
    .join(', ');
