import { useState } from 'react';
import { Button, Choice } from '../../ui/controls';
import { Sheet } from '../../ui/Sheet';
import { count } from '../../ui/words';
import { type ReplaceSize, useBringIn, useBringingIn } from './bring-in';

const MOST_NAMES = 8;

/** Files with the names of artboards that are here: do they replace their artwork? */
export function BringInQuestion({ files, names }: { files: readonly File[]; names: readonly string[] }) {
  const { bringIn } = useBringIn();
  const [size, setSize] = useState<ReplaceSize>('new');
  const close = () => useBringingIn.setState({ asked: null });
  const go = (as: 'replace' | 'artboards') => {
    close();
    void bringIn(files, { as, size });
  };
  const more = names.length - MOST_NAMES;
  return (
    <Sheet
      open
      onClose={close}
      title={`${count(names.length, 'artboard')} here ${names.length === 1 ? 'has the name of a file' : 'have the names of files'}`}
      about="Replacing keeps each artboard’s name, place, outputs and slices; only its artwork is new. Undo brings the old back."
      footer={
        <>
          <Button onClick={close}>Not now</Button>
          <Button onClick={() => go('artboards')}>All as new artboards</Button>
          <Button kind="go" onClick={() => go('replace')}>
            Replace {count(names.length, 'artwork')}
          </Button>
        </>
      }
    >
      <p className="font-mono text-[11.5px]">
        {names.slice(0, MOST_NAMES).join(', ')}
        {more > 0 && ` and ${more} more`}
      </p>
      <div className="mt-3 flex items-center gap-2 text-ink-2">
        Where a file has another size
        <Choice
          label="Where a file has another size"
          value={size}
          onChange={setSize}
          options={[
            { value: 'new', title: 'take its size' },
            { value: 'kept', title: 'keep the artboard’s' },
          ]}
        />
      </div>
      {files.length > names.length && (
        <p className="mt-2 text-ink-2">
          The other {count(files.length - names.length, 'file')} become new artboards either way.
        </p>
      )}
    </Sheet>
  );
}
