import type { LinkedSource } from '@tolvik/core';
import { Suspense, useState } from 'react';
import { Arriving } from '../../ui/Arriving';
import { Button } from '../../ui/controls';
import { part } from '../../ui/part';
import { ReceiverRow } from '../receivers/ReceiverRow';
import { sourcePlace, sourceWords, useChangeSource, useSources } from './source';

/** That a folder is to be linked, where else a source is named. */
const LINK = 'link';

// Each comes when it is first opened.
const LinkSheet = part(async () => (await import('./LinkSheet')).LinkSheet);
const SourceSheet = part(async () => (await import('./SourceSheet')).SourceSheet);

/** The folders whose drawings feed the project; nothing where the server may read none and none is linked. */
export function SourceSection() {
  const data = useSources();
  /** The source that is open, or that one is to be linked. */
  const [open, setOpen] = useState<string | null>(null);
  if (!data || (data.roots.length === 0 && data.sources.length === 0)) return null;
  const { sources, roots } = data;
  const close = () => setOpen(null);
  const opened = sources.find(({ id }) => id === open);
  return (
    <section aria-label="Linked sources" className="border-line border-b">
      <div className="flex items-center justify-between px-3.5 pt-2.5 pb-1.5">
        <h2 className="heading">Linked sources</h2>
        {roots.length > 0 && (
          <Button small onClick={() => setOpen(LINK)}>
            Link…
          </Button>
        )}
      </div>
      {sources.length > 0 ? (
        <ul>
          {sources.map((source) => (
            <SourceRow key={source.id} source={source} onOpen={() => setOpen(source.id)} />
          ))}
        </ul>
      ) : (
        <p className="px-3.5 pb-2.5 text-ink-2 text-note">
          A folder whose drawings come in by themselves, each time that one is saved.
        </p>
      )}
      <Suspense fallback={<Arriving />}>
        {open === LINK && <LinkSheet roots={roots} onClose={close} />}
        {opened && <SourceSheet source={opened} onClose={close} />}
      </Suspense>
    </section>
  );
}

/** A folder that feeds the project, and how it stands. */
function SourceRow({ source, onOpen }: { source: LinkedSource; onOpen(): void }) {
  const change = useChangeSource(source.id);
  const { root, folder, on } = source;
  return (
    <ReceiverRow
      name={folder.split('/').at(-1) || root.split('/').at(-1) || root}
      place={sourcePlace(source)}
      mono
      on={on}
      switchLabel="Drawings of this folder come in when they are saved"
      standing={sourceWords(source)}
      onSwitch={(next) => void change({ method: 'PATCH', json: { on: next } })}
      onOpen={onOpen}
    />
  );
}
