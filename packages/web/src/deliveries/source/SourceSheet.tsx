import type { LinkedSource } from '@tolvik/core';
import { Button } from '../../ui/controls';
import { Sheet } from '../../ui/Sheet';
import { TONES } from '../receivers/receivers';
import { sourcePlace, sourceWords, useChangeSource } from './source';

/** What came of the drawings of the linked folder: what could not be read and why, what is gone. */
export function SourceSheet({ source, onClose }: { source: LinkedSource; onClose(): void }) {
  const change = useChangeSource(source.id);
  const { words, tone } = sourceWords(source);
  const { refused = [], gone = [] } = source.standing ?? {};
  const unlink = async () => {
    if (await change({ method: 'DELETE' })) onClose();
  };
  return (
    <Sheet
      open
      onClose={onClose}
      title="Linked source"
      about={sourcePlace(source)}
      footer={
        <>
          <Button className="mr-auto" onClick={() => void unlink()} title="What came of it stays">
            Unlink the folder
          </Button>
          <Button onClick={onClose}>Close</Button>
        </>
      }
    >
      <p className={TONES[tone]}>{words}</p>
      {refused.length > 0 && (
        <>
          <h3 className="heading mt-3 mb-1">Could not be read; the artwork of before stays</h3>
          <ul className="font-mono text-[11.5px]">
            {refused.map(({ file, why }) => (
              <li key={file} className="py-0.5">
                {file}: <span className="text-bad">{why}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      {gone.length > 0 && (
        <>
          <h3 className="heading mt-3 mb-1">No longer in the folder; the artboard stays</h3>
          <ul className="font-mono text-[11.5px]">
            {gone.map((file) => (
              <li key={file} className="py-0.5">
                {file}
              </li>
            ))}
          </ul>
        </>
      )}
    </Sheet>
  );
}
