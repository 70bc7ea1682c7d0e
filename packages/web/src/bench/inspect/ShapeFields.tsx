import type { Layer } from '@tolvik/core';
import { useSession } from '../../project/context';
import { NumberField } from '../../ui/NumberField';

/** What only a rectangle has: the radius of its corners, in its own units. */
export function ShapeFields({ layer }: { layer: Layer }) {
  const session = useSession();
  if (layer.tag !== 'rect') return null;
  const set = (radius: number) => {
    const { rx: _rx, ry: _ry, ...attrs } = layer.attrs;
    session.commit({
      label: `corners of ${layer.name || 'a rectangle'}`,
      puts: [{ ...layer, attrs: radius > 0 ? { ...attrs, rx: String(radius) } : attrs }],
      removes: [],
    });
  };
  return (
    <NumberField
      label="corner radius"
      value={Number.parseFloat(layer.attrs.rx ?? layer.attrs.ry ?? '0') || 0}
      min={0}
      max={10_000}
      onChange={set}
      className="mt-2"
    />
  );
}
