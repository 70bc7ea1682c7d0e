import { useQueryClient } from '@tanstack/react-query';
import type { Receivers } from '@tolvik/core';
import { type FormEvent, useId, useState } from 'react';
import { request } from '../../api/client';
import { useSession } from '../../project/session/context';
import { Button, Choice } from '../../ui/controls';
import { Field } from '../../ui/Field';
import { Sheet } from '../../ui/Sheet';
import { canPickFolder, pickReceiver } from '../this-computer/local-receivers';
import { FolderFields } from './FolderFields';
import { type Header, HeadersFields, headersOf } from './HeadersFields';

type Kind = 'folder' | 'intake';

const hostOf = (address: string): string => (URL.canParse(address) ? new URL(address).host : address);

/** A folder, of this computer or of the server, or an intake over HTTP, that takes exports from now on. */
export function NewReceiverSheet({ roots, intakes, onClose }: Omit<Receivers, 'receivers'> & { onClose(): void }) {
  const session = useSession();
  const queries = useQueryClient();
  const form = useId();
  const [kind, setKind] = useState<Kind>('folder');
  const [name, setName] = useState('');
  const [folder, setFolder] = useState({
    root: roots[0] ?? '',
    folder: session.name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '-'),
  });
  const [address, setAddress] = useState(intakes[0] ?? '');
  const [headers, setHeaders] = useState<readonly Header[]>([]);
  const [trouble, setTrouble] = useState('');
  const attempt = async (work: () => Promise<unknown>) => {
    try {
      if ((await work()) !== false) onClose();
    } catch (error) {
      setTrouble((error as Error).message);
    }
  };
  const make = (event: FormEvent) => {
    event.preventDefault();
    const within = folder.folder.replace(/^\/+|\/+$/g, '');
    const json =
      kind === 'intake'
        ? { name: name.trim() || hostOf(address), address, headers: headersOf(headers) }
        : { name: name.trim() || within || folder.root, root: folder.root, folder: within };
    void attempt(async () => {
      await request(`/projects/${session.id}/receivers`, { method: 'POST', json });
      await queries.invalidateQueries({ queryKey: ['receivers', session.id] });
    });
  };
  const hasSome = kind === 'folder' ? roots.length > 0 : intakes.length > 0;
  return (
    <Sheet
      open
      onClose={onClose}
      title="A receiver that takes every export"
      about={
        kind === 'folder'
          ? 'Only what differs is written there, and nothing that somebody else put there is touched without a yes.'
          : 'Each file that it has not taken yet is sent to its path below the address, and its answer is shown beside the file.'
      }
      footer={
        <>
          <Button onClick={onClose}>Not now</Button>
          <Button kind="go" type="submit" form={form} disabled={!hasSome}>
            Add receiver
          </Button>
        </>
      }
    >
      <div className="mb-4">
        <Choice
          label="What it is"
          value={kind}
          onChange={(next) => {
            setKind(next);
            setTrouble('');
          }}
          options={[
            { value: 'folder', title: 'A folder' },
            { value: 'intake', title: 'An intake over HTTP' },
          ]}
        />
      </div>
      {kind === 'folder' && (
        <div className="mb-4 flex items-center gap-3 border-line border-b pb-4">
          <p className="min-w-0 flex-1 text-ink-2">
            {canPickFolder()
              ? 'A folder of this computer, such as the one that your build reads. Only this browser knows it.'
              : 'This browser lets no page write to folders of this computer. A folder of the server can take exports, or download the zip.'}
          </p>
          {canPickFolder() && (
            <Button onClick={() => void attempt(() => pickReceiver(session.id))}>Pick a folder…</Button>
          )}
        </div>
      )}
      {hasSome ? (
        <form id={form} onSubmit={make} className="grid grid-cols-[128px_1fr] items-center gap-x-2 gap-y-2">
          <Field title="Name">
            {(id) => (
              <input
                id={id}
                className="field"
                placeholder="App build"
                maxLength={100}
                value={name}
                onChange={(event) => setName(event.target.value)}
              />
            )}
          </Field>
          {kind === 'folder' ? (
            <FolderFields roots={roots} {...folder} onChange={(fields) => setFolder({ ...folder, ...fields })} />
          ) : (
            <>
              <Field title="Address">
                {(id) => (
                  <input
                    id={id}
                    className="field font-mono text-[11.5px]"
                    maxLength={1000}
                    value={address}
                    onChange={(event) => setAddress(event.target.value.trim())}
                  />
                )}
              </Field>
              <HeadersFields headers={headers} onChange={setHeaders} />
              <p className="col-span-2 text-ink-2 text-note">
                This server may send to {intakes.join(', ')}, and to what lies below.
              </p>
            </>
          )}
        </form>
      ) : (
        <p>
          {kind === 'folder' ? 'This server may write to no folder. ' : 'This server may send to no address. '}
          Whoever runs it names some in{' '}
          <code className="font-mono">{kind === 'folder' ? 'TOLVIK_FOLDERS' : 'TOLVIK_INTAKES'}</code>
          {kind === 'folder' && ', or gives it a data folder'}.
        </p>
      )}
      {trouble && (
        <p role="alert" className="mt-2 text-bad">
          {trouble}
        </p>
      )}
    </Sheet>
  );
}
