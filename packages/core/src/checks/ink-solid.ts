import type { Leaf } from '../artwork/bounds/bounds';
import { parseColour } from '../artwork/colour/colours';
import { count } from '../basics/words';
import type { ProjectDocument } from '../document/document';
import { COVERS } from '../outlines/ink-steps';
import { referred } from '../profile/references';
import type { Check } from './check';

/** What one ink makes of a paint that is no flat, solid colour. */
type Becomes = 'solid gradient' | 'solid' | 'nothing' | null;

function becomes(doc: ProjectDocument, leaf: Leaf, name: 'fill' | 'stroke', around: number): Becomes {
  const paint = leaf[name];
  if (paint === 'none' || (name === 'stroke' && leaf.strokePx === 0)) return null;
  // From the layer outwards: the first that says it counts.
  const said = [...doc.lineage(leaf.layer)].map(({ attrs }) => attrs[`${name}-opacity`]).find(Boolean);
  const alpha = around * Number.parseFloat(said ?? '1') * (parseColour(paint)?.a ?? 1);
  if (alpha < COVERS) return alpha > 0 ? 'nothing' : null;
  const server = doc.find('layer', referred(paint) ?? '');
  if (server && /Gradient$/.test(server.tag)) return 'solid gradient';
  return alpha < 1 ? 'solid' : null;
}

export const inkSolid: Check = {
  name: 'ink-solid',
  plural: 'lose tints in one ink',
  about:
    'One ink knows no tints: gradients become solid, what covers half or more becomes solid, and less is left out.',
  example: 'A mono variant of an emblem whose leaf is shaded from green to dark green.',
  look({ piece: { record }, leaves }, { doc }) {
    if (record.kind !== 'artboard' || record.follows?.rule.kind !== 'ink') return [];
    const found = leaves.flatMap((leaf) => {
      if (leaf.layer.tag === 'image') return [];
      const around = [...doc.lineage(leaf.layer)].reduce((all, at) => all * at.opacity, 1);
      return [becomes(doc, leaf, 'fill', around), becomes(doc, leaf, 'stroke', around)];
    });
    const of = (what: Becomes) => found.filter((each) => each === what).length;
    const told = [
      of('solid gradient') > 0 && count(of('solid gradient'), 'gradient becomes solid', 'gradients become solid'),
      of('solid') > 0 &&
        count(of('solid'), 'half transparent part becomes solid', 'half transparent parts become solid'),
      of('nothing') > 0 && count(of('nothing'), 'faint part is left out', 'faint parts are left out'),
    ].filter((each) => each !== false);
    return told.length > 0 ? [{ severity: 'hint' as const, message: `in one ink ${told.join(', ')}` }] : [];
  },
};
