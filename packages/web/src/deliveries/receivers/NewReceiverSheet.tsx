import { useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useId, useState } from 'react';
import { request } from '../../api/client';
import { useSession } from '../../project/context';
import { Button } from '../../ui/controls';
import { Sheet } from '../../ui/Sheet';
import { canPickFolder, pickReceiver } from '../this-computer/local-receivers';

/** A folder, of this computer or of the server, that takes deliveries from now on. */
export function NewReceiverSheet({ roots, onClose }: { roots: readonly string[]; onClose(): void }) {
  const session = useSession();
  const queries = useQueryClient();
  const form = useId();
  const [name, setName] = useState('');
  const [root, setRoot] = useState(roots[0] ?? '');
  const [folder, setFolder] = useState(() => session.name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '-'));
  const [trouble, setTrouble] = useState('');
  const pick = async () => {
    try {
      if (await pickReceiver(session.id)) onClose();
    } catch (error) {
      setTrouble((error as Error).message);
    }
  };
  const make = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await request(`/projects/${session.id}/receivers`, {
        method: 'POST',
        json: { name: name.trim() || folder || root, root, folder: folder.replace(/^\/+|\/+$/g, '') },
      });
      await queries.invalidateQueries({ queryKey: ['receivers', session.id] });
      onClose();
    } catch (error) {
      setTrouble((error as Error).message);
    }
  };
  return (
    <Sheet
      open
      onClose={onClose}
      title="A folder that takes every export"
      about="Only what differs is written there, and nothing that somebody else put there is touched without a yes."
      footer={
        <>
          <Button onClick={onClose}>Not now</Button>
          <Button kind="go" type="submit" form={form} disabled={roots.length === 0}>
            Have this receiver
          </Button>
        </>
      }
    >
      <div className="mb-4 flex items-center gap-3 border-line border-b pb-4">
        <p className="min-w-0 flex-1 text-ink-2">
          {canPickFolder()
            ? 'A folder of this computer, such as the one that your build reads. Only this browser knows it.'
            : 'This browser lets no page write to folders of this computer. A folder of the server can take exports, or download the zip.'}
        </p>
        {canPickFolder() && <Button onClick={() => void pick()}>Pick a folder…</Button>}
      </div>
      {trouble && roots.length === 0 && (
        <p role="alert" className="mb-2 text-bad">
          {trouble}
        </p>
      )}
      {roots.length === 0 ? (
        <p>
          This server may write to no folder. Whoever runs it names some in{' '}
          <code className="font-mono">TOLVIK_FOLDERS</code>, or gives it a data folder.
        </p>
      ) : (
        <form
          id={form}
          onSubmit={(event) => void make(event)}
          className="grid grid-cols-[92px_1fr] items-center gap-x-2 gap-y-2"
        >
          <label htmlFor={`${form}-name`} className="text-ink-2">
            Name
          </label>
          <input
            id={`${form}-name`}
            className="field"
            placeholder="App build"
            maxLength={100}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <label htmlFor={`${form}-root`} className="text-ink-2">
            Folder of the server
          </label>
          <select
            id={`${form}-root`}
            className="field min-w-0 font-mono text-[11.5px]"
            value={root}
            onChange={(event) => setRoot(event.target.value)}
          >
            {roots.map((each) => (
              <option key={each}>{each}</option>
            ))}
          </select>
          <label htmlFor={`${form}-folder`} className="text-ink-2">
            Within it
          </label>
          <input
            id={`${form}-folder`}
            className="field font-mono text-[11.5px]"
            placeholder="the folder itself"
            maxLength={1000}
            value={folder}
            onChange={(event) => setFolder(event.target.value)}
          />
          {trouble && (
            <p role="alert" className="col-span-2 text-bad">
              {trouble}
            </p>
          )}
        </form>
      )}
    </Sheet>
  );
}
