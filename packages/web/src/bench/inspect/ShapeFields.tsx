import { acts, type Layer } from '@tolvik/core';
import { useSession } from '../../project/session/context';
import { NumberField } from '../../ui/NumberField';
import { act } from '../act';

/** What only a rectangle has: the radius of its corners, in its own units. */
export function ShapeFields({ layer }: { layer: Layer }) {
  const session = useSession();
  if (layer.tag !== 'rect') return null;
  return (
    <NumberField
      label="corner radius"
      value={Number.parseFloat(layer.attrs.rx ?? layer.attrs.ry ?? '0') || 0}
      min={0}
      max={10_000}
      onChange={(radius) => act(session, acts.roundCorners, { radius }, [layer.id])}
      className="mt-2"
    />
  );
}
