import { artworkIndex, layerTitle, type Slice, sliceRegion } from '@tolvik/core';
import { useSession } from '../../project/session/context';
import { NumberField } from '../../ui/NumberField';
import { PickOne } from '../../ui/PickOne';

const SHAPE_TITLES = {
  rectangle: 'plain',
  rounded: 'rounded',
  ellipse: 'ellipse',
  outline: 'outline of a layer',
} as const;

/** What lies outside the shape is transparent. */
export function SliceShapeFields({ slice, put }: { slice: Slice; put(fields: Pick<Slice, 'shape'>): void }) {
  const { doc } = useSession();
  const { shape, source } = slice;
  // Layers whose outline could be the shape: drawn shapes that the slice touches, the one it is cut from first.
  const region = sliceRegion(doc, slice);
  const near =
    typeof region === 'string'
      ? []
      : artworkIndex(doc).search({
          minX: region.x,
          minY: region.y,
          maxX: region.x + region.width,
          maxY: region.y + region.height,
        });
  const outlines = [
    ...new Set(near.map((leaf) => leaf.layer).filter((layer) => layer.tag !== 'text' && layer.tag !== 'image')),
  ].slice(0, 50);
  const choose = (kind: keyof typeof SHAPE_TITLES) => {
    const layerId =
      outlines.find((layer) => source.kind === 'layer' && layer.id === source.layerId)?.id ?? outlines[0]?.id;
    if (kind === 'rounded') put({ shape: { kind, radius: 8 } });
    else if (kind !== 'outline') put({ shape: { kind } });
    else if (layerId) put({ shape: { kind, layerId } });
  };
  return (
    <div className="mt-2 flex items-center gap-2">
      <select
        className="field min-w-0 flex-1"
        aria-label="Shape of the slice"
        value={shape.kind}
        onChange={(event) => choose(event.target.value as keyof typeof SHAPE_TITLES)}
      >
        {Object.entries(SHAPE_TITLES).map(([kind, title]) => (
          <option key={kind} value={kind} disabled={kind === 'outline' && outlines.length === 0}>
            {title}
          </option>
        ))}
      </select>
      {shape.kind === 'rounded' && (
        <NumberField
          label="radius"
          value={shape.radius}
          min={0}
          max={100_000}
          onChange={(radius) => put({ shape: { kind: 'rounded', radius } })}
          className="w-[110px]"
        />
      )}
      {shape.kind === 'outline' && (
        <PickOne
          className="w-[110px]"
          label="Layer whose outline it is"
          value={shape.layerId}
          empty={
            outlines.some((layer) => layer.id === shape.layerId)
              ? undefined
              : { value: shape.layerId, title: 'a layer elsewhere' }
          }
          options={outlines.map((layer) => ({ value: layer.id, title: layerTitle(layer) }))}
          onChange={(layerId) => put({ shape: { kind: 'outline', layerId } })}
        />
      )}
    </div>
  );
}
