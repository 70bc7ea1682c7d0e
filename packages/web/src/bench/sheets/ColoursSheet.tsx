import { acts, projectColours } from '@tolvik/core';
import { RadioGroup } from 'radix-ui';
import { useState } from 'react';
import { doAct, plainIntent } from '../../project/session/act';
import { useSession } from '../../project/session/context';
import { ColourPick } from '../../ui/ColourPick';
import { Button } from '../../ui/controls';
import { Sheet } from '../../ui/Sheet';
import { count } from '../../ui/words';
import { ColourFacts } from './ColourFacts';

/** Every colour of the project with how often it is used; one is made another wherever it is. */
export function ColoursSheet({ onClose }: { onClose(): void }) {
  const session = useSession();
  const colours = projectColours(session.doc);
  const [from, setFrom] = useState(() => colours[0]?.colour ?? '');
  const [to, setTo] = useState(from);
  const uses = colours.find(({ colour }) => colour === from)?.uses ?? 0;
  const valid = /^#[0-9a-f]{6}$/i.test(to);
  const merges = to.toLowerCase() !== from && colours.some(({ colour }) => colour === to.toLowerCase());
  const nameOf = (colour: string) => session.doc.settings.colours?.find((each) => each.colour === colour)?.name;
  const pick = (colour: string) => {
    setFrom(colour);
    setTo(colour);
  };
  const apply = () => {
    doAct(session, acts.changeColour, plainIntent([]), { from, to });
    onClose();
  };
  return (
    <Sheet
      open
      onClose={onClose}
      title="Colours of this project"
      about="One is changed everywhere: in artwork, gradients and the backgrounds of artboards. Undo brings it back."
      footer={
        <>
          <span className={`mr-auto ${valid ? 'text-ink-2' : 'text-bad'}`}>
            {!valid
              ? '! a colour like #0c6a53'
              : merges
                ? `${to.toLowerCase()} is used already: the two become one`
                : ''}
          </span>
          <Button onClick={onClose}>Close</Button>
          <Button kind="go" disabled={!valid || to.toLowerCase() === from} onClick={apply}>
            Change {count(uses, 'use')}
          </Button>
        </>
      }
    >
      {colours.length === 0 && <p className="text-ink-3">This project has no plain colours yet.</p>}
      <RadioGroup.Root
        value={from ?? ''}
        onValueChange={pick}
        aria-label="Colours of this project"
        className="grid max-h-[40vh] grid-cols-3 gap-1.5 overflow-y-auto p-0.5"
      >
        {colours.map(({ colour, uses: times }) => (
          <RadioGroup.Item
            key={colour}
            value={colour}
            className={`flex h-9 items-center gap-2 border px-2 text-left ${colour === from ? 'border-spruce bg-spruce-pale' : 'border-line bg-white hover:bg-rail'}`}
          >
            <span className="size-5 shrink-0 border border-line-strong" style={{ background: colour }} />
            <span className="min-w-0 truncate font-mono text-[11.5px]">{nameOf(colour) ?? colour}</span>
            <span className="ml-auto text-ink-3 text-note">{times}</span>
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
      {from && (
        <div className="mt-4 flex items-center gap-3">
          <span className="size-8 border border-line-strong" style={{ background: from }} />
          <span className="font-mono text-[11.5px]">{from}</span>
          <span className="text-ink-2">becomes</span>
          <ColourPick
            label="New colour"
            value={valid ? to.toLowerCase() : from}
            alpha
            onChange={setTo}
            className="size-8"
          />
          <input
            className="field w-28 font-mono"
            aria-label="New colour in hex"
            value={to}
            onChange={(event) => setTo(event.target.value.trim())}
          />
        </div>
      )}
      {from && <ColourFacts key={from} colour={from} />}
    </Sheet>
  );
}
