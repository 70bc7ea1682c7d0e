import { Suspense, useState } from 'react';
import { Arriving } from '../../ui/Arriving';
import { Button } from '../../ui/controls';
import { part } from '../../ui/part';
import { ReceiverRow } from '../receivers/ReceiverRow';
import { sourcePlace, sourceWords, useChangeSource, useSource } from './source';

// Each comes when it is first opened.
const LinkSheet = part(async () => (await import('./LinkSheet')).LinkSheet);
const SourceSheet = part(async () => (await import('./SourceSheet')).SourceSheet);

/** The folder whose drawings feed the project; nothing where the server may read none and none is linked. */
export function SourceSection() {
  const data = useSource();
  const change = useChangeSource();
  const [open, setOpen] = useState(false);
  if (!data || (data.roots.length === 0 && !data.source)) return null;
  const { source, roots } = data;
  const close = () => setOpen(false);
  return (
    <section aria-label="Linked source" className="border-line border-b">
      <div className="flex items-center justify-between px-3.5 pt-2.5 pb-1.5">
        <h2 className="heading">Linked source</h2>
        {!source && (
          <Button small onClick={() => setOpen(true)}>
            Link…
          </Button>
        )}
      </div>
      {source ? (
        <ul>
          <ReceiverRow
            name={source.folder.split('/').at(-1) || source.root.split('/').at(-1) || source.root}
            place={sourcePlace(source)}
            mono
            on={source.on}
            switchLabel="Drawings of this folder come in when they are saved"
            standing={sourceWords(source)}
            onSwitch={(on) => void change({ method: 'PATCH', json: { on } })}
            onOpen={() => setOpen(true)}
          />
        </ul>
      ) : (
        <p className="px-3.5 pb-2.5 text-ink-2 text-note">
          A folder whose drawings come in by themselves, each time that one is saved.
        </p>
      )}
      <Suspense fallback={<Arriving />}>
        {open && !source && <LinkSheet roots={roots} onClose={close} />}
        {open && source && <SourceSheet source={source} onClose={close} />}
      </Suspense>
    </section>
  );
}
