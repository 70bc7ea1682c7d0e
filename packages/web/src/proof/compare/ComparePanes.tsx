import { FORMATS, type Piece, type Region } from '@tolvik/core';
import { useState } from 'react';
import { differenceWords } from '../../pictures/difference';
import { boxOf, type Ground, PictureAt, PixelsAt } from '../../pictures/PictureAt';
import { WipeHandle } from '../../pictures/WipeHandle';
import type { Mode } from './CompareBar';
import { PaneHead } from './PaneHead';
import { PLACES } from './panes';
import type { Compared } from './use-comparison';
import type { Looking } from './use-view';

type Props = {
  piece: Piece /** What is looked at, in px. */;
  region: Region;
  comparison: Compared;
  looking: Looking;
  ground: Ground;
  mode: Mode;
};

/** The pictures themselves: beside each other, one laid over the other, or where they differ. */
export function ComparePanes({ piece, region, comparison, looking, ground, mode }: Props) {
  const { panes, compared, title, note } = comparison;
  const [split, setSplit] = useState(0.5);
  const { at, paneRoom } = looking;
  const box = boxOf(at, region, paneRoom);
  const several = panes.length > 1;
  const picture = (i: number) => {
    const { picture: shown, trouble } = compared[i];
    const file = comparison.fileOf(panes[i]);
    if (!file) return null;
    if (file.problem || trouble)
      return <p className="absolute inset-x-0 top-1/2 text-center text-bad">! {file.problem ?? trouble}</p>;
    return (
      shown && (
        <PictureAt
          url={shown.url}
          alt={`${piece.name}, ${title(panes[i])}`}
          box={box}
          ground={ground}
          raster={FORMATS[file.format].raster}
          pixel={box.width / file.widthPx}
        />
      )
    );
  };

  if (mode === 'beside')
    return panes.map((pane, i) => (
      <div
        key={PLACES[i]}
        data-pane
        className={`relative min-w-0 flex-1 overflow-hidden border-line border-r last:border-r-0 ${ground === 'dark' ? 'bg-[#3b4142]' : ''}`}
      >
        {picture(i)}
        {several && (
          <PaneHead title={title(pane)} picture={compared[i].picture} note={note(i)} tried={!!pane.settings} />
        )}
      </div>
    ));
  if (mode === 'wipe')
    return (
      <div data-pane className="relative min-w-0 flex-1 overflow-hidden">
        {picture(0)}
        <div className="absolute inset-0 overflow-hidden bg-table" style={{ clipPath: `inset(0 0 0 ${split * 100}%)` }}>
          {several && picture(1)}
        </div>
        <WipeHandle split={split} width={paneRoom.width} onChange={setSplit} />
        <PaneHead title={title(panes[0])} picture={compared[0].picture} note="" tried={false} />
        {several && <PaneHead title={title(panes[1])} picture={compared[1].picture} note={note(1)} tried right />}
      </div>
    );
  const { difference } = compared[1];
  return (
    <div data-pane className="relative min-w-0 flex-1 overflow-hidden">
      {difference ? (
        <PixelsAt image={difference.image} box={box} label={`Where they differ: ${differenceWords(difference)}`} />
      ) : (
        <p className="absolute inset-x-0 top-1/2 text-center">Nothing to tell apart yet.</p>
      )}
      {several && (
        <PaneHead
          title={`${title(panes[0])} against ${title(panes[1])}`}
          picture={compared[1].picture}
          note={note(1)}
          tried
        />
      )}
    </div>
  );
}
