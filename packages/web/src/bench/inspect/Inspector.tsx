import {
  type Artboard,
  artworkIndex,
  cellKey,
  FORMATS,
  layerTitle,
  outputsOf,
  type Piece,
  planFile,
  type Region,
  regionOf,
  resizeArtboard,
  type Slice,
  sliceRegion,
} from '@tolvik/core';
import { Suspense } from 'react';
import { fileUrl, planOf, useMade, useSession } from '../../project/context';
import { FindingList } from '../../project/FindingList';
import { useFindings } from '../../project/findings';
import { Button } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { part } from '../../ui/part';
import { Shortened } from '../../ui/Shortened';
import { TextField } from '../../ui/TextField';
import { Tick } from '../../ui/Tick';
import { count, plain, weight } from '../../ui/words';
import { act } from '../act';
import { useBench } from '../bench-state';
import { useRemove } from '../remove';
import { renamePiece } from '../rename';
import { AlignActions } from './AlignActions';
import { ArrangeActions } from './ArrangeActions';
import { BackgroundField } from './BackgroundField';

// Each comes when something is selected that has a use for it.
const EditionDifferences = part(async () => (await import('../editions/EditionDifferences')).EditionDifferences);
const FollowFields = part(async () => (await import('../variants/FollowFields')).FollowFields);
const LayerInspector = part(async () => (await import('./LayerInspector')).LayerInspector);

/** What is selected, its exact numbers, and the files it becomes. */
export function Inspector() {
  const session = useSession();
  const plan = planOf(session);
  const selected = plan.pieces.filter((piece) => session.selection.has(piece.id));
  const layers = [...session.selection].flatMap((id) => session.doc.find('layer', id) ?? []);
  return (
    <aside aria-label="Selection" className="flex w-[272px] flex-none flex-col overflow-y-auto bg-paper">
      {selected.length === 0 && layers.length === 0 && <NothingSelected />}
      {selected.length === 0 && layers.length > 0 && (
        <Suspense fallback={null}>
          <LayerInspector key={layers.map((layer) => layer.id).join()} layers={layers} />
        </Suspense>
      )}
      {selected.length === 1 && <OnePiece piece={selected[0]} />}
      {selected.length > 1 && <ManyPieces pieces={selected} />}
    </aside>
  );
}

function NothingSelected() {
  const session = useSession();
  const plan = planOf(session);
  const { settings } = session.doc;
  const { set } = useBench();
  return (
    <div className="px-3.5 py-3 text-ink-2">
      <h2 className="font-bold text-[13px] text-ink">Nothing selected</h2>
      <p className="mt-1">
        {plan.files.length === 0
          ? 'Select a piece to see the files it becomes.'
          : `${count(plan.pieces.length, 'piece')} become ${count(plan.files.length, 'file')}. Select one to see which.`}
      </p>
      <h3 className="heading mt-4 mb-1.5">This project</h3>
      <NumberField
        label="grid in px"
        showLabel="drawn on a grid of"
        value={settings.gridPx}
        min={1}
        max={1000}
        onChange={(gridPx) =>
          session.commit({ label: 'change the grid', puts: [{ ...settings, gridPx }], removes: [] })
        }
        className="[&>span]:whitespace-nowrap [&>span]:font-sans [&_input]:w-16"
      />
      <Button small className="mt-2" onClick={() => set({ sheet: 'colours' })}>
        Colours…
      </Button>
    </div>
  );
}

function OnePiece({ piece }: { piece: Piece }) {
  const session = useSession();
  const { record } = piece;
  const { byPiece } = useFindings();
  return (
    <>
      <section className="border-line border-b px-3.5 pt-3 pb-3.5">
        <div className="mb-2 flex items-center justify-between">
          <h2 className="font-bold text-[13px] capitalize">{piece.kind}</h2>
          <span className="font-mono text-[11.5px] text-ink-3">{String(piece.number).padStart(2, '0')}</span>
        </div>
        <TextField
          label="Name"
          value={piece.name}
          required
          onChange={(name) => renamePiece(session, piece.id, name)}
          className="mb-2 [&_input]:font-semibold"
        />
        {record.kind === 'artboard' && <ArtboardNumbers artboard={record} />}
        {record.kind === 'slice' && <SliceNumbers slice={record} piece={piece} />}
        {/* What is not here yet holds up nothing beside it. */}
        <Suspense fallback={null}>{record.kind === 'artboard' && <FollowFields artboard={record} />}</Suspense>
        {record.kind === 'artboard' && !record.follows && <CarryTick />}
        <ArrangeActions pieces={[piece]} />
        <div className="mt-2.5 flex flex-wrap gap-2">
          <DeletePieces ids={[piece.id]} />
        </div>
      </section>
      <Suspense fallback={null}>{record.kind === 'edition' && <EditionDifferences edition={record} />}</Suspense>
      <FindingList findings={byPiece.get(piece.id) ?? []} />
      <BecomesFiles piece={piece} />
    </>
  );
}

function CarryTick() {
  const { carry, set } = useBench();
  return (
    <label className="mt-2 flex items-center gap-1.5 text-ink-2">
      <Tick checked={carry} onChange={(on) => set({ carry: on })} label="Carry artwork when moved" /> Carry artwork when
      moved
    </label>
  );
}

function ArtboardNumbers({ artboard }: { artboard: Artboard }) {
  const session = useSession();
  const set = (fields: Partial<Artboard>, label: string) =>
    session.commit({ label: `${label} ${artboard.name}`, puts: [{ ...artboard, ...fields }], removes: [] });
  const move = (x: number, y: number) => act(session, 'move', { dx: x - artboard.x, dy: y - artboard.y });
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <NumberField label="x" value={artboard.x} onChange={(x) => move(x, artboard.y)} />
        <NumberField label="y" value={artboard.y} onChange={(y) => move(artboard.x, y)} />
        <NumberField
          label="width"
          showLabel="w"
          value={artboard.width}
          min={0.01}
          onChange={(width) => act(session, 'set-rect', { width }, [artboard.id])}
        />
        <NumberField
          label="height"
          showLabel="h"
          value={artboard.height}
          min={0.01}
          onChange={(height) => act(session, 'set-rect', { height }, [artboard.id])}
        />
      </div>
      <BackgroundField
        label="Background"
        value={artboard.background}
        onChange={(background) => set({ background }, 'background of')}
      />
    </>
  );
}

/** Where a slice is cut from, its margin and its shape; one whose layer is gone says so. */
function SliceNumbers({ slice, piece }: { slice: Slice; piece: Piece }) {
  const session = useSession();
  const { region } = piece;
  const { source } = slice;
  const set = (rect: Partial<Region>) => act(session, 'set-rect', rect, [slice.id]);
  const put = (fields: Partial<Slice>, label: string) =>
    session.commit({ label: `${label} ${slice.name}`, puts: [{ ...slice, ...fields }], removes: [] });
  return (
    <>
      {source.kind === 'region' ? (
        <div className="grid grid-cols-2 gap-2">
          <NumberField label="x" value={source.x} onChange={(n) => set({ x: n })} />
          <NumberField label="y" value={source.y} onChange={(n) => set({ y: n })} />
          <NumberField
            label="width"
            showLabel="w"
            value={source.width}
            min={0.01}
            onChange={(n) => set({ width: n })}
          />
          <NumberField
            label="height"
            showLabel="h"
            value={source.height}
            min={0.01}
            onChange={(n) => set({ height: n })}
          />
        </div>
      ) : (
        <p className="text-ink-2 text-note">
          {piece.problem ? (
            <span className="text-bad">! {piece.problem}</span>
          ) : (
            `${plain(region.width)} × ${plain(region.height)} at ${plain(region.x)}, ${plain(region.y)}`
          )}
        </p>
      )}
      <NumberField
        label="margin of the slice"
        showLabel="margin"
        value={slice.margin}
        min={-10_000}
        max={10_000}
        onChange={(margin) => put({ margin }, 'margin of')}
        className="mt-2"
      />
      <SliceShapeFields slice={slice} put={put} />
    </>
  );
}

const SHAPE_TITLES = {
  rectangle: 'plain',
  rounded: 'rounded',
  ellipse: 'ellipse',
  outline: 'outline of a layer',
} as const;

/** What lies outside the shape is transparent. */
function SliceShapeFields({ slice, put }: { slice: Slice; put(fields: Partial<Slice>, label: string): void }) {
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
    if (kind === 'rounded') put({ shape: { kind, radius: 8 } }, 'shape of');
    else if (kind !== 'outline') put({ shape: { kind } }, 'shape of');
    else if (layerId) put({ shape: { kind, layerId } }, 'shape of');
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
          onChange={(radius) => put({ shape: { kind: 'rounded', radius } }, 'shape of')}
          className="w-[110px]"
        />
      )}
      {shape.kind === 'outline' && (
        <select
          className="field w-[110px]"
          aria-label="Layer whose outline it is"
          value={shape.layerId}
          onChange={(event) => put({ shape: { kind: 'outline', layerId: event.target.value } }, 'shape of')}
        >
          {!outlines.some((layer) => layer.id === shape.layerId) && (
            <option value={shape.layerId}>a layer elsewhere</option>
          )}
          {outlines.map((layer) => (
            <option key={layer.id} value={layer.id}>
              {layerTitle(layer)}
            </option>
          ))}
        </select>
      )}
    </div>
  );
}

/** Deletes pieces; of artboards, what lies on them goes along when artwork is carried, or stays. */
function DeletePieces({ ids }: { ids: readonly string[] }) {
  const { doc } = useSession();
  const remove = useRemove();
  const { carry } = useBench();
  const boards = ids.filter((id) => doc.find('artboard', id) && !doc.find('artboard', id)?.follows).length;
  return (
    <>
      <Button small kind="danger" onClick={() => remove(ids)}>
        {ids.length > 1 ? `Delete ${ids.length}` : 'Delete'}
        {boards > 0 && carry ? ' with artwork' : ''}
      </Button>
      {boards > 0 && (
        <Button small onClick={() => remove(ids, !carry)}>
          {carry ? 'Keep the artwork' : 'With artwork'}
        </Button>
      )}
    </>
  );
}

/** The files of one piece by their real names and weights, with small pictures at real sizes and on dark. */
function BecomesFiles({ piece }: { piece: Piece }) {
  const session = useSession();
  const { doc } = session;
  const { files } = useMade();
  const plan = planOf(session);
  const outputs = outputsOf(doc, piece);
  const planned = new Set(plan.files.filter((file) => file.pieceId === piece.id).map((file) => file.outputId));
  const specs = plan.specs.filter((spec) => piece.specIds.includes(spec.id));
  const toggle = (outputId: string, on: boolean) => {
    const { record } = piece;
    const offOutputIds = on ? record.offOutputIds.filter((id) => id !== outputId) : [...record.offOutputIds, outputId];
    session.commit({
      label: `${on ? 'make' : 'leave out'} a file of ${record.name}`,
      puts: [{ ...record, on: on ? true : record.on, offOutputIds }],
      removes: [],
    });
  };
  const raster = outputs
    .filter((output) => FORMATS[output.settings.format].raster && planned.has(output.id))
    .map((output) => ({ output, made: files.get(cellKey(piece.id, output.id)) }));
  const small = raster.filter(({ output }) => planFile(doc, session.name, piece, output).widthPx <= 96).slice(0, 4);
  return (
    <section className="px-3.5 py-3">
      <div className="mb-1.5 flex items-baseline justify-between gap-2">
        <h2 className="heading shrink-0">Becomes {count(planned.size, 'file')}</h2>
        <span className="truncate font-semibold text-note text-spruce">
          {specs.map((spec) => spec.name).join(' + ') || 'follows no spec'}
        </span>
      </div>
      <ul>
        {outputs.map((output) => {
          const file = planFile(doc, session.name, piece, output);
          const on = planned.has(output.id);
          const made = files.get(cellKey(piece.id, output.id));
          return (
            <li
              key={output.id}
              className={`flex h-[23px] items-center gap-2 font-mono text-[11.5px] ${on ? '' : 'text-ink-3'}`}
            >
              <Tick checked={on} onChange={(next) => toggle(output.id, next)} label={`Make ${file.path}`} />
              <Shortened text={file.path} className="min-w-0 flex-1" />
              <span className="text-ink-3">
                {FORMATS[file.format].raster ? `${file.widthPx} × ${file.heightPx}` : 'vector'}
              </span>
              <span className="w-14 whitespace-nowrap text-right">
                {on && made?.bytes != null ? weight(made.bytes) : ''}
              </span>
            </li>
          );
        })}
      </ul>
      {small.length > 0 && (
        <div className="mt-3 flex items-end gap-2 overflow-hidden">
          {small.map(({ output, made }) => {
            const { widthPx, heightPx } = planFile(doc, session.name, piece, output);
            return (
              <figure key={output.id} className="text-center">
                <span className="checker inline-block border border-line p-1">
                  {made?.key ? (
                    <img
                      src={fileUrl(session.id, made)}
                      width={widthPx}
                      height={heightPx}
                      alt={`${piece.name} at ${widthPx} px`}
                    />
                  ) : (
                    <span className="making block" style={{ width: widthPx, height: heightPx }} title="Being made" />
                  )}
                </span>
                <figcaption className="font-mono text-[10.5px] text-ink-3">{widthPx}</figcaption>
              </figure>
            );
          })}
          {small[0]?.made?.key && (
            <figure className="text-center">
              <span className="inline-block border border-line bg-[#12343b] p-1">
                <img
                  src={fileUrl(session.id, small.at(-1)?.made as NonNullable<(typeof small)[0]['made']>)}
                  className="max-h-12 max-w-12"
                  alt={`${piece.name} on dark`}
                />
              </span>
              <figcaption className="font-mono text-[10.5px] text-ink-3">dark</figcaption>
            </figure>
          )}
        </div>
      )}
    </section>
  );
}

function ManyPieces({ pieces }: { pieces: readonly Piece[] }) {
  const session = useSession();
  const plan = planOf(session);
  const ids = new Set(pieces.map((piece) => piece.id));
  const files = plan.files.filter((file) => ids.has(file.pieceId)).length;
  const artboards = pieces.flatMap(({ record }) => (record.kind === 'artboard' ? [record] : []));
  const resizeAll = (fields: Partial<Region>) =>
    session.commit({
      label: `resize ${count(artboards.length, 'artboard')}`,
      puts: artboards.flatMap((artboard) =>
        resizeArtboard(session.doc, artboard, { ...regionOf(artboard), ...fields }),
      ),
      removes: [],
    });
  const same = (of: (artboard: Artboard) => number) =>
    new Set(artboards.map(of)).size === 1 ? of(artboards[0]) : null;
  return (
    <>
      <section className="border-line border-b px-3.5 py-3">
        <h2 className="font-bold text-[13px]">{count(pieces.length, 'piece')}</h2>
        <p className="mt-0.5 mb-2.5 text-ink-2">become {count(files, 'file')}</p>
        {artboards.length > 0 && (
          <div className="grid grid-cols-2 gap-2">
            <NumberField
              label="width of all"
              showLabel="w"
              value={same((a) => a.width)}
              min={0.01}
              onChange={(width) => resizeAll({ width })}
            />
            <NumberField
              label="height of all"
              showLabel="h"
              value={same((a) => a.height)}
              min={0.01}
              onChange={(height) => resizeAll({ height })}
            />
          </div>
        )}
        <ArrangeActions pieces={pieces} />
        <div className="mt-3 flex flex-wrap gap-2">
          <DeletePieces ids={[...ids]} />
        </div>
      </section>
      {artboards.length > 1 && <AlignActions layers={false} />}
    </>
  );
}
