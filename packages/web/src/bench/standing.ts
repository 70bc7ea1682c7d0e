import { useSession } from '../project/session/context';
import { count } from '../ui/words';

/** What is on the Bench, in words: "24 artboards, 3 slices". */
export function useBenchStanding(): { note: string } {
  const { doc } = useSession();
  const [artboards, slices, editions] = (['artboard', 'slice', 'edition'] as const).map(
    (kind) => doc.list(kind).length,
  );
  const note = [
    count(artboards, 'artboard'),
    slices > 0 && count(slices, 'slice'),
    editions > 0 && count(editions, 'edition'),
  ]
    .filter(Boolean)
    .join(', ');
  return { note };
}
