import { Command as Palette } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';
import { Key } from '../ui/controls';
import { closedByEscape } from '../ui/escape';
import { later } from '../ui/part';
import { afterChoice } from '../ui/typed-early';
import { allCommands, byGroup, type Command, showCommands, shownKeys } from './commands';
import { type Early, handEarly, keepEarly, takeEarly } from './early';

/** Other words for commands: the first time they come a moment later than the list, which is there at the key. */
let here: Readonly<Record<string, string>> | null = null;
const otherWords = later(async () => {
  here = (await import('./also')).ALSO;
  return here;
});

/** A command fits when its name, or what it is also called, holds every word that was typed, in any order; names first. */
const everyWord = (value: string, typed: string, also?: readonly string[]): number => {
  const name = value.toLowerCase();
  const known = `${name} ${also?.join(' ') ?? ''}`;
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.every((word) => name.includes(word))) return name.startsWith(words[0] ?? '') ? 1 : 0.6;
  return words.every((word) => known.includes(word)) ? 0.4 : 0;
};

/** The command that words fit best, the first of several; undefined when none can be done. */
function bestFor(typed: string, also: Readonly<Record<string, string>>): Command | undefined {
  const fits = allCommands()
    .filter(({ listed, unless }) => !listed && !unless)
    .map((command) => ({
      command,
      fit: everyWord(`${command.title} ${command.group}`, typed, also[command.id]?.split(' ')),
    }))
    .filter(({ fit }) => fit > 0);
  return fits.sort((one, other) => other.fit - one.fit)[0]?.command;
}

/** All commands by name, found by any words of it; `began` was done before it was here. */
export function EveryCommand({ began }: { began: Early }) {
  const [also, setAlso] = useState(here);
  const [typed, setTyped] = useState(began.typed);
  /** Enter was pressed before all words were here that it could have meant. */
  const [entered, setEntered] = useState(began.entered);
  useEffect(() => void otherWords().then(setAlso), []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when what was typed can be understood
  useEffect(() => {
    const best = also && entered && typed.trim() ? bestFor(typed, also) : undefined;
    if (also) setEntered(false);
    if (best) run(best);
    else if (also) handEarly();
  }, [also, entered]);
  const close = () => showCommands(null);
  const run = (command: Command) => {
    const hand = takeEarly();
    close();
    afterChoice(command.run, hand);
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          onKeyDown={closedByEscape(close)}
          className="fixed top-[12vh] left-1/2 z-50 w-[min(560px,92vw)] -translate-x-1/2 border border-ink bg-paper shadow-[0_12px_40px_rgb(23_27_28/0.25)] outline-none"
        >
          <Dialog.Title className="sr-only">Every command</Dialog.Title>
          {/* A list that gets its words looks for what was typed anew. */}
          <Palette key={also ? 'all words' : 'names'} label="Every command" loop filter={everyWord}>
            <Palette.Input
              autoFocus
              value={typed}
              onValueChange={setTyped}
              onKeyDown={(event) => {
                if (event.key !== 'Enter' || also) return;
                event.stopPropagation();
                keepEarly();
                setEntered(true);
              }}
              placeholder="What do you want to do?"
              className="h-11 w-full border-line border-b bg-white px-4 text-[14px] outline-none"
            />
            <Palette.List className="max-h-[52vh] overflow-y-auto py-1.5">
              <Palette.Empty className="px-4 py-3 text-ink-3">No command is called that.</Palette.Empty>
              {byGroup(allCommands().filter((command) => !command.listed)).map(([group, commands]) => (
                <Palette.Group
                  key={group}
                  heading={group}
                  className="[&_[cmdk-group-heading]]:heading [&_[cmdk-group-heading]]:px-4 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-1"
                >
                  {commands.map((command) => (
                    <Palette.Item
                      key={command.id}
                      value={`${command.title} ${command.group}`}
                      keywords={also?.[command.id]?.split(' ')}
                      disabled={!!command.unless}
                      onSelect={() => run(command)}
                      className="flex h-8 cursor-default items-center gap-2 px-4 data-[disabled=true]:text-ink-3 data-[selected=true]:bg-spruce-pale"
                    >
                      <span className="truncate">{command.title}</span>
                      {command.unless && <span className="truncate text-note">({command.unless})</span>}
                      <span className="ml-auto flex gap-1">
                        {command.keys?.slice(0, 1).map((keys) => (
                          <Key key={keys}>{shownKeys(keys)}</Key>
                        ))}
                      </span>
                    </Palette.Item>
                  ))}
                </Palette.Group>
              ))}
            </Palette.List>
          </Palette>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
