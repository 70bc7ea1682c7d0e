import { type ActSettings, acts, type Layer, MAX_TEXT, newId, textWords } from '@tolvik/core';
import { useEffect, useRef, useState } from 'react';
import { useFontFamilies } from '../../project/files/fonts';
import { useSession } from '../../project/session/context';
import { Button, Choice } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { PickOne } from '../../ui/PickOne';
import { act } from '../act';
import { useBench } from '../bench-state';
import { useOutlineText } from '../outline-text';
import { editedEdition } from '../shown-artwork';

const ANCHORS = ['start', 'middle', 'end'] as const;

/** The words of a text, a line each, and how they are set. */
export function TextFields({ layer }: { layer: Layer }) {
  const session = useSession();
  const outline = useOutlineText();
  const { typing, set } = useBench();
  const { families, add } = useFontFamilies();
  const field = useRef<HTMLTextAreaElement>(null);
  const picker = useRef<HTMLInputElement>(null);
  const edition = editedEdition(session, [layer.id]);
  const base = textWords(layer);
  const before = edition?.overrides[layer.id]?.words ?? base;
  const [words, setWords] = useState(before);
  /** While somebody types, what the field says is theirs; set to what is undone as one. */
  const spell = useRef<string | null>(null);
  useEffect(() => {
    if (spell.current === null) setWords(before);
  }, [before]);
  useEffect(() => {
    if (typing !== layer.id) return;
    field.current?.focus();
    field.current?.select();
    set({ typing: null });
  }, [typing, layer.id, set]);
  /** Every letter is on the plane as it is typed; a text without words would be nowhere, so the last one stays. */
  const type = (next: string) => {
    setWords(next);
    if (next === before || !next.trim()) return;
    spell.current ??= newId();
    act(session, acts.setWords, { words: next }, [layer.id], spell.current);
  };
  const settle = () => {
    spell.current = null;
    setWords(before);
  };
  const style = { ...layer.attrs, ...(layer.text?.[0]?.attrs ?? {}) };
  const family = (style['font-family'] ?? 'sans-serif').split(',')[0].replace(/["']/g, '').trim();
  const sizePx = Number.parseFloat(style['font-size'] ?? '16') || 16;
  const put = (said: ActSettings<typeof acts.setText>) => act(session, acts.setText, said, [layer.id]);
  const known = families.find((each) => each.family.toLowerCase() === family.toLowerCase());
  const weights = known?.weights ?? [400, 700];
  return (
    <section className="border-line border-b px-3.5 py-3">
      <h3 className={`heading mb-1.5 ${edition ? '!text-ochre' : ''}`}>
        {edition ? `Words in ${edition.name} only` : 'Words'}
      </h3>
      <textarea
        ref={field}
        aria-label="Words, a line each"
        className={`w-full resize-y rounded-md border ${edition ? 'border-ochre' : 'border-line-strong'} bg-white px-2 py-1 leading-snug`}
        rows={Math.min(6, Math.max(2, words.split('\n').length))}
        maxLength={MAX_TEXT}
        value={words}
        onChange={(event) => type(event.target.value)}
        onBlur={settle}
        onKeyDown={(event) => {
          const isDone = event.key === 'Escape' || (event.key === 'Enter' && (event.ctrlKey || event.metaKey));
          if (!isDone) return;
          event.stopPropagation();
          field.current?.blur();
        }}
      />
      {words.length > MAX_TEXT * 0.9 && (
        <p role="status" className="text-ink-2 text-note">
          {words.length.toLocaleString('en')} of at most {MAX_TEXT.toLocaleString('en')} letters
        </p>
      )}
      <div className="mt-1.5 flex gap-2">
        <PickOne
          className="min-w-0 flex-1"
          label="Font"
          value={known?.family ?? family}
          empty={known ? undefined : { value: family, title: `${family} (missing)` }}
          options={families.map((each) => ({ value: each.family, title: each.family }))}
          onChange={(next) => put({ family: next })}
        />
        <select
          className="field w-[70px]"
          aria-label="Weight"
          value={style['font-weight'] ?? '400'}
          onChange={(event) => put({ weight: event.target.value })}
        >
          {[...new Set([...weights.map(String), style['font-weight'] ?? '400'])].map((weight) => (
            <option key={weight}>{weight}</option>
          ))}
        </select>
      </div>
      <div className="mt-1.5 flex items-center justify-between gap-2">
        <NumberField
          label="size of the text"
          showLabel="size"
          value={sizePx}
          min={0.5}
          max={2000}
          onChange={(size) => put({ sizePx: size })}
          className="w-[80px]"
        />
        <Choice
          label="Lines stand"
          value={(style['text-anchor'] ?? 'start') as (typeof ANCHORS)[number]}
          onChange={(anchor) => put({ anchor })}
          options={[
            { value: 'start', title: 'left' },
            { value: 'middle', title: 'centred' },
            { value: 'end', title: 'right' },
          ]}
        />
      </div>
      <div className="mt-2 flex gap-2">
        <Button small onClick={() => outline([layer])}>
          To outlines
        </Button>
        <Button small onClick={() => picker.current?.click()}>
          Add a font…
        </Button>
        <input
          ref={picker}
          type="file"
          hidden
          data-testid="add-font"
          accept=".ttf,.otf,.woff,.woff2"
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            if (file) void add(file);
            event.target.value = '';
          }}
        />
      </div>
    </section>
  );
}
