import { acts, type Piece, Refusal, type TilesOptions, tileRegions, tilesOf } from '@tolvik/core';
import { useState } from 'react';
import { doAct, plainIntent } from '../../project/session/act';
import { useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { Sheet } from '../../ui/Sheet';
import { Ticked } from '../../ui/Tick';
import { count, plain } from '../../ui/words';
import { type Cuts, TileCuts } from './TileCuts';
import { TilesPicture } from './TilesPicture';

/** "9 keep their names, specs and switches, 3 go." */
const inTheirPlace = (goOn: number, go: number): string =>
  `${[
    goOn > 0 && `${count(goOn, 'keeps its name, specs and switches', 'keep their names, specs and switches')}`,
    go > 0 && count(go, 'goes', 'go'),
  ]
    .filter(Boolean)
    .join(', ')}.`;

/** A piece cut into tiles, by how many or by how large, with the cuts drawn over its picture. */
export function TilesSheet({ piece, onClose }: { piece: Piece; onClose(): void }) {
  const session = useSession();
  const { region } = piece;
  const [cuts, setCuts] = useState<Cuts>(() => ({
    by: 'count',
    columns: 4,
    rows: 3,
    tileWidthPx: Math.min(256, Math.ceil(region.width)),
    tileHeightPx: Math.min(256, Math.ceil(region.height)),
    gapPx: 0,
  }));
  const [naming, setNaming] = useState('{name}-{letter}{column}');
  const [switchOff, setSwitchOff] = useState(true);
  const [replace, setReplace] = useState(true);
  const earlier = tilesOf(session.doc, piece.id);
  const { by, columns, rows, tileWidthPx, tileHeightPx, gapPx } = cuts;
  const options: TilesOptions =
    by === 'count' ? { columns, rows, gapPx, naming } : { tileWidthPx, tileHeightPx, gapPx, naming };
  let tiles: ReturnType<typeof tileRegions> = [];
  let trouble = '';
  try {
    tiles = tileRegions(region, options);
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    trouble = error.message;
  }
  const places = new Set(tiles.map(({ row, column }) => `${row} ${column}`));
  const goOn = earlier.filter(({ tile }) => places.has(`${tile?.row} ${tile?.column}`)).length;
  const apply = () => {
    if (
      doAct(session, acts.tiles, plainIntent([piece.id]), {
        ...options,
        keepWhole: !switchOff,
        earlier: replace ? 'replace' : 'keep',
      })
    )
      onClose();
  };
  return (
    <Sheet
      open
      onClose={onClose}
      wide
      title={`Cut ${piece.name} into tiles`}
      about="Each tile becomes a slice. Edges fall on whole pixels, so that tiles meet exactly."
      footer={
        <>
          <span role={trouble ? 'alert' : undefined} className={`mr-auto ${trouble ? 'text-bad' : 'text-ink-2'}`}>
            {trouble
              ? `! ${trouble}`
              : `${count(tiles.length, 'tile')}, the first ${plain(tiles[0].region.width)} × ${plain(tiles[0].region.height)}`}
          </span>
          <Button onClick={onClose}>Not now</Button>
          <Button kind="go" disabled={!!trouble} onClick={apply}>
            {trouble ? 'Cut into tiles' : `Cut into ${count(tiles.length, 'tile')}`}
          </Button>
        </>
      }
    >
      <div className="grid grid-cols-[230px_1fr] gap-6">
        <div className="flex flex-col gap-3">
          <TileCuts {...cuts} onChange={(fields) => setCuts({ ...cuts, ...fields })} />
          <label>
            <span className="heading mb-1 block">Names</span>
            <input
              className="field w-full font-mono text-[11.5px]"
              value={naming}
              maxLength={200}
              onChange={(event) => setNaming(event.target.value)}
            />
            <span className="mt-1 block text-ink-2 text-note">{'{name} {row} {column} {letter} {number}'}</span>
          </label>
          <Ticked
            checked={switchOff}
            onChange={setSwitchOff}
            label={`Switch ${piece.kind === 'artboard' ? 'the artboard' : 'the slice'} itself off`}
          />
          {earlier.length > 0 && (
            <Ticked
              checked={replace}
              onChange={setReplace}
              label={`Replace the ${count(earlier.length, 'tile')} it was cut into before`}
              note={inTheirPlace(goOn, earlier.length - goOn)}
            />
          )}
        </div>
        <TilesPicture piece={piece} tiles={tiles} />
      </div>
    </Sheet>
  );
}
