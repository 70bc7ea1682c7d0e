import { Command as Palette } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';
import { Key } from '../ui/controls';
import { later } from '../ui/part';
import { allCommands, byGroup, type Command, showCommands } from './commands';

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

/** All commands by name, found by any words of it; `began` was typed before it was here. */
export function EveryCommand({ began }: { began: string }) {
  const [also, setAlso] = useState(here);
  const [typed, setTyped] = useState(began);
  useEffect(() => void otherWords().then(setAlso), []);
  const close = () => showCommands(null);
  const run = (command: Command) => {
    close();
    // The dialog gives the focus back first, so that what opens next can take it.
    requestAnimationFrame(() => command.run());
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[12vh] left-1/2 z-50 w-[min(560px,92vw)] -translate-x-1/2 border border-ink bg-paper shadow-[0_12px_40px_rgb(23_27_28/0.25)] outline-none"
        >
          <Dialog.Title className="sr-only">Every command</Dialog.Title>
          {/* A list that gets its words looks for what was typed anew. */}
          <Palette key={also ? 'all words' : 'names'} label="Every command" loop filter={everyWord}>
            <Palette.Input
              autoFocus
              value={typed}
              onValueChange={setTyped}
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
                          <Key key={keys}>{keys}</Key>
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
