import { picked, pieces, type Takes } from '@tolvik/core';
import { useState } from 'react';
import { useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { TextField } from '../../ui/TextField';
import { Ticked } from '../../ui/Tick';
import { count } from '../../ui/words';

const MOST_NAMED = 6;

/** Which files are meant for a receiver at all: of which specs, of which pieces. */
export function TakesFields({ takes, onChange }: { takes: Takes; onChange(takes: Takes): void }) {
  const { doc } = useSession();
  const specs = doc.list('spec');
  const list = pieces(doc);
  const [trouble, setTrouble] = useState('');
  const { specIds, pieceIds } = takes;
  const takesSpec = (id: string) => specIds === null || specIds.includes(id);
  const take = (id: string, yes: boolean) => {
    const next = specs.map((spec) => spec.id).filter((other) => (other === id ? yes : takesSpec(other)));
    onChange({ ...takes, specIds: next.length === specs.length ? null : next });
  };
  const pick = (words: string) => {
    const found = words.trim() === '' ? [] : picked(list, words);
    setTrouble(words.trim() !== '' && found.length === 0 ? `No piece is called “${words.trim()}”.` : '');
    if (found.length > 0)
      onChange({ ...takes, pieceIds: found.length === list.length ? null : found.map(({ id }) => id) });
  };
  const chosen = pieceIds && list.filter(({ id }) => pieceIds.includes(id));
  return (
    <section aria-label="Which files it gets" className="mt-4 border-line border-t pt-3">
      <h3 className="heading mb-2">Which files it gets</h3>
      <div className="grid grid-cols-[max-content_1fr] items-start gap-x-4 gap-y-2.5">
        <span className="text-ink-2">Specs</span>
        <div className="flex flex-wrap gap-x-4 gap-y-1.5">
          {specs.map(({ id, name }) => (
            <Ticked key={id} checked={takesSpec(id)} onChange={(yes) => take(id, yes)} label={name} />
          ))}
          {specs.length === 0 && <span className="text-ink-2">The project has none.</span>}
        </div>
        <span className="mt-1 text-ink-2">Pieces</span>
        <div>
          <div className="flex items-center gap-2">
            <TextField
              key={String(pieceIds)}
              label="Pieces it gets"
              value=""
              placeholder={chosen ? 'others: 3-9, 12, or a name' : 'all; or only 3-9, 12, or a name'}
              onChange={pick}
              className="flex-1"
            />
            {chosen && (
              <Button small onClick={() => onChange({ ...takes, pieceIds: null })}>
                All pieces
              </Button>
            )}
          </div>
          {trouble && (
            <p role="alert" className="mt-1 text-bad">
              {trouble}
            </p>
          )}
          {chosen && (
            <p className="mt-1 text-ink-2 text-note">
              {chosen.length === 0
                ? 'The pieces that were chosen are gone: it gets nothing.'
                : `Only ${count(chosen.length, 'piece')}: ${chosen
                    .slice(0, MOST_NAMED)
                    .map(({ name }) => name)
                    .join(', ')}${chosen.length > MOST_NAMED ? ' …' : ''}`}
            </p>
          )}
          {specIds !== null && !specs.some(({ id }) => specIds.includes(id)) && (
            <p className="mt-1 text-note text-ochre">No spec is ticked: it gets nothing.</p>
          )}
        </div>
      </div>
    </section>
  );
}
