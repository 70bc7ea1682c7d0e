import { type FormEvent, useId, useState } from 'react';
import { Button } from '../../ui/controls';
import { Sheet } from '../../ui/Sheet';
import { FolderFields } from '../receivers/FolderFields';
import { useChangeSource } from './source';

/** Which folder of the server is to feed the project. */
export function LinkSheet({ roots, onClose }: { roots: readonly string[]; onClose(): void }) {
  const change = useChangeSource();
  const [place, setPlace] = useState({ root: roots[0] ?? '', folder: '' });
  const [trouble, setTrouble] = useState('');
  const form = useId();
  const link = async (event: FormEvent) => {
    event.preventDefault();
    const folder = place.folder.trim().replace(/^\/+|\/+$/g, '');
    if (await change({ method: 'POST', json: { root: place.root, folder } }, setTrouble)) onClose();
  };
  return (
    <Sheet
      open
      onClose={onClose}
      title="A folder that feeds this project"
      about="Its SVG files come in now, and each again when it is saved. A drawing replaces the artwork of the artboard of its name, and all that hangs on that artboard stays; a new one becomes an artboard."
      footer={
        <>
          <Button onClick={onClose}>Not now</Button>
          <Button kind="go" type="submit" form={form}>
            Link this folder
          </Button>
        </>
      }
    >
      <form id={form} onSubmit={link} className="grid grid-cols-[128px_1fr] items-center gap-x-2 gap-y-2">
        <FolderFields roots={roots} {...place} onChange={(fields) => setPlace({ ...place, ...fields })} />
      </form>
      {trouble && (
        <p role="alert" className="mt-2 text-bad">
          {trouble}
        </p>
      )}
    </Sheet>
  );
}
