import { foldPath, type LooseLayer, nameFromFile, type ReplaceReport } from '@tolvik/core';
import { useEffect, useMemo, useState } from 'react';
import { PieceThumb } from '../../painter/PieceThumb';
import { Button } from '../../ui/controls';
import { PickOne } from '../../ui/PickOne';
import { Sheet } from '../../ui/Sheet';
import { count, few } from '../../ui/words';
import { type ReplaceSize, useBringIn, useBringingIn } from './bring-in';

const SIDE = 132;

type Props = { files: readonly File[]; asks: readonly ReplaceReport[]; size: ReplaceSize };

/** What would come loose when artwork is replaced: seen before it is done, with where each could hang on. */
export function ReplaceQuestion({ files, asks, size }: Props) {
  const { bringIn } = useBringIn();
  const [chosen, setChosen] = useState<Readonly<Record<string, number | null>>>(() =>
    Object.fromEntries(asks.flatMap(({ loose }) => loose.map(({ layerId, guess }) => [layerId, guess]))),
  );
  const close = () => useBringingIn.setState({ settling: null });
  const go = () => {
    close();
    const attach = Object.fromEntries(
      Object.entries(chosen).flatMap(([id, place]) => (place === null ? [] : [[id, place]])),
    );
    void bringIn(files, { as: 'replace', attach, size });
  };
  const loose = asks.flatMap((each) => each.loose);
  const left = loose.filter(({ layerId }) => chosen[layerId] === null).length;
  return (
    <Sheet
      open
      wide
      onClose={close}
      title={`Something hangs on ${count(loose.length, 'layer')} that ${loose.length === 1 ? 'is' : 'are'} not in the new artwork`}
      about="Each goes on with the layer that you choose. What is left loose is told, and its files are held until it is settled. Undo brings the old artwork back."
      footer={
        <>
          <Button onClick={close}>Not now</Button>
          <Button kind="go" onClick={go}>
            Replace{left > 0 ? `, leave ${left} loose` : ''}
          </Button>
        </>
      }
    >
      {asks.map((ask) => (
        <Replaced
          key={ask.artboardId}
          ask={ask}
          file={files.find((file) => foldPath(nameFromFile(file.name)) === foldPath(ask.name))}
          chosen={chosen}
          onChoose={(id, place) => setChosen((before) => ({ ...before, [id]: place }))}
        />
      ))}
    </Sheet>
  );
}

type ReplacedProps = {
  ask: ReplaceReport;
  /** The file of that name; none when it came in a zip. */
  file: File | undefined;
  chosen: Readonly<Record<string, number | null>>;
  onChoose(layerId: string, place: number | null): void;
};

function Replaced({ ask, file, chosen, onChoose }: ReplacedProps) {
  const { artboardId, name, kept, fresh, gone, loose } = ask;
  return (
    <section aria-label={name} className="mb-4 flex gap-4 last:mb-0">
      <div className="flex shrink-0 gap-2">
        <span className="flex flex-col gap-1">
          <PieceThumb pieceId={artboardId} side={SIDE} />
          <span className="text-ink-3 text-note">before</span>
        </span>
        {file && (
          <span className="flex flex-col gap-1">
            <Incoming file={file} />
            <span className="text-ink-3 text-note">the file as it came</span>
          </span>
        )}
      </div>
      <div className="min-w-0 flex-1">
        <h3 className="font-semibold">{name}</h3>
        <p className="mb-2 text-ink-2">
          {count(kept, 'layer')} kept, {fresh.length} new, {gone} gone
        </p>
        <ul className="flex flex-col gap-2.5">
          {loose.map((layer) => (
            <li key={layer.layerId}>
              <label className="block">
                <strong className="font-semibold">{layer.title}</strong> is gone. {hangs(layer)}
                <PickOne
                  className="mt-1 w-full"
                  label={`In place of ${layer.title}`}
                  value={String(chosen[layer.layerId] ?? '')}
                  empty={{ value: '', title: 'leave it loose' }}
                  options={fresh.map(({ place, title }) => ({
                    value: String(place),
                    title: `goes on with ${title}${place === layer.guess ? ' (likely)' : ''}`,
                  }))}
                  onChange={(place) => onChoose(layer.layerId, place === '' ? null : Number(place))}
                />
              </label>
            </li>
          ))}
        </ul>
      </div>
    </section>
  );
}

/** "2 editions and 1 slice hang on it: summer, winter, sun; 12 files." */
function hangs({ editions, slices, files }: LooseLayer): string {
  const what = [
    editions.length > 0 && count(editions.length, 'edition'),
    slices.length > 0 && count(slices.length, 'slice'),
  ].filter(Boolean);
  const names = [...editions, ...slices];
  return `${what.join(' and ')} ${names.length === 1 ? 'hangs' : 'hang'} on it: ${few(names)}; ${count(files, 'file')}.`;
}

/** The file as it came, shown by the browser as a picture, in which nothing acts and nothing is loaded. */
function Incoming({ file }: { file: File }) {
  const url = useMemo(() => URL.createObjectURL(new Blob([file], { type: file.type || 'image/svg+xml' })), [file]);
  useEffect(() => () => URL.revokeObjectURL(url), [url]);
  return (
    <span
      className="checker inline-flex items-center justify-center border border-line"
      style={{ width: SIDE + 4, height: SIDE + 4 }}
    >
      <img src={url} alt={`${file.name} as it came`} className="object-contain" style={{ width: SIDE, height: SIDE }} />
    </span>
  );
}
