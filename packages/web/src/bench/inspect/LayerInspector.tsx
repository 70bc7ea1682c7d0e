import { type Alike, acts, type Layer, layersAlike, layerTitle, siblingsOf } from '@tolvik/core';
import { useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { TextField } from '../../ui/TextField';
import { Tick } from '../../ui/Tick';
import { count } from '../../ui/words';
import { act, isShownHere } from '../act';
import { useRemove } from '../remove';
import { editedEdition } from '../shown-artwork';
import { AlignActions } from './AlignActions';
import { EditionFields } from './EditionFields';
import { HoldFields } from './HoldFields';
import { LayerNumbers } from './LayerNumbers';
import { MakePieces } from './MakePieces';
import { PaintFields } from './PaintFields';
import { ShapeFields } from './ShapeFields';
import { TextFields } from './TextFields';

const MARKS = [
  ['shown', 'Shown'],
  ['locked', 'Locked'],
  ['benchOnly', 'In no file'],
] as const;

/** What is selected of the artwork: exact place, paint, marks, and what can be made of it. */
export function LayerInspector({ layers }: { layers: readonly Layer[] }) {
  const session = useSession();
  const remove = useRemove();
  const ids = layers.map((layer) => layer.id);
  const [first] = layers;
  const one = layers.length === 1;
  const name = one ? layerTitle(first) : count(layers.length, 'layer');
  const edition = editedEdition(session, ids);
  return (
    <>
      <section className="border-line border-b px-3.5 pt-3 pb-3">
        <h2 className="mb-2 font-bold text-[13px]">{one ? 'Layer' : name}</h2>
        {one && (
          <TextField
            label="Name"
            value={first.name}
            placeholder={layerTitle(first)}
            onChange={(text) => act(session, acts.renameLayer, { name: text }, ids)}
            className="mb-2 [&_input]:font-semibold"
          />
        )}
        <LayerNumbers />
        {one && <ShapeFields layer={first} />}
        <div className="mt-2 flex flex-wrap justify-between gap-x-3 whitespace-nowrap text-ink-2">
          {MARKS.map(([field, title]) => (
            <label key={field} className="flex items-center gap-1.5">
              <Tick
                checked={layers.every((layer) => (field === 'shown' ? isShownHere(session, layer) : layer[field]))}
                onChange={(on) =>
                  field === 'shown'
                    ? act(session, acts.show, { shown: on }, ids)
                    : act(session, acts.markLayers, { [field]: on }, ids)
                }
                label={title}
              />{' '}
              {title}
            </label>
          ))}
        </div>
      </section>
      <HoldFields layers={layers} />
      {one && first.tag === 'text' && <TextFields layer={first} />}
      {edition && <EditionFields layers={layers} edition={edition} />}
      <PaintFields layers={layers} title={edition ? 'Paint of the base' : 'Paint'} />
      <AlignActions layers />
      <MakePieces layers={layers} />
      <section className="flex flex-wrap gap-2 px-3.5 py-3">
        <Button small onClick={() => act(session, acts.group, {})}>
          Group
        </Button>
        {layers.some((layer) => layer.tag === 'g') && (
          <Button small onClick={() => act(session, acts.ungroup, {})}>
            Ungroup
          </Button>
        )}
        <Button small onClick={() => act(session, acts.duplicate, {})}>
          Duplicate
        </Button>
        {one && (
          <>
            <Button small onClick={() => act(session, acts.reorder, { to: 'front' })}>
              To front
            </Button>
            <Button small onClick={() => act(session, acts.reorder, { to: 'back' })}>
              To back
            </Button>
          </>
        )}
        <Button small kind="danger" onClick={() => remove(ids)}>
          Delete
        </Button>
      </section>
      <section className="px-3.5 pb-3">
        <h3 className="heading mb-1.5">Pick more</h3>
        <div className="flex flex-wrap gap-2">
          <Button small onClick={() => session.select(siblingsOf(session.doc, session.selection))}>
            All beside it
          </Button>
          {(['fill', 'stroke', 'size'] satisfies Alike[]).map((by) => (
            <Button key={by} small onClick={() => session.select(layersAlike(session.doc, session.selection, by))}>
              Same {by}
            </Button>
          ))}
        </div>
      </section>
    </>
  );
}
