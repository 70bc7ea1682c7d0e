import { Command as Palette } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useEffect } from 'react';
import { Key } from '../ui/controls';
import { useNotice } from '../ui/notices';
import { Sheet } from '../ui/Sheet';
import { allCommands, type Command, keysOf, showCommands, useCommandCentre } from './commands';
import { isTyping } from './typing';

/** Keys that act while something is typed, too. */
const EVEN_TYPING = /^(Ctrl\+(K|Enter)|Alt\+[1-3])$/;

/** Every command by name (Ctrl+K), every shortcut in a list (?), and the one place that listens for their keys. */
export function CommandCentre() {
  const { shown } = useCommandCentre();
  const tell = useNotice();
  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      const keys = keysOf(event);
      const typing = isTyping(event.target);
      if (typing && !EVEN_TYPING.test(keys)) return;
      if (event.defaultPrevented || (document.querySelector('[role="dialog"]') && keys !== 'Ctrl+K')) return;
      if (keys === 'Ctrl+K') showCommands(useCommandCentre.getState().shown === 'commands' ? null : 'commands');
      else if (keys === '?') showCommands('shortcuts');
      else {
        const command = allCommands().find((each) => !each.listed && each.keys?.includes(keys));
        if (!command) return;
        if (command.unless) tell(`${command.unless}.`);
        else command.run();
      }
      event.preventDefault();
    };
    window.addEventListener('keydown', down);
    return () => window.removeEventListener('keydown', down);
  }, [tell]);
  if (shown === 'commands') return <EveryCommand />;
  if (shown === 'shortcuts') return <Shortcuts />;
  return null;
}

function byGroup(commands: readonly Command[]): [string, Command[]][] {
  const groups = new Map<string, Command[]>();
  for (const command of commands) groups.set(command.group, [...(groups.get(command.group) ?? []), command]);
  return [...groups];
}

/** A command fits when its name holds every word that was typed, in any order. */
const everyWord = (value: string, typed: string): number => {
  const name = value.toLowerCase();
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  return words.every((word) => name.includes(word)) ? (name.startsWith(words[0] ?? '') ? 1 : 0.5) : 0;
};

function EveryCommand() {
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
          <Palette label="Every command" loop filter={everyWord}>
            <Palette.Input
              autoFocus
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

function Shortcuts() {
  const groups = byGroup(allCommands().filter((command) => command.keys?.length));
  return (
    <Sheet
      open
      wide
      onClose={() => showCommands(null)}
      title="Keys"
      about="All that can be done with a key here. Ctrl+K finds every command by its name."
    >
      <div className="columns-3 gap-8">
        {groups.map(([group, commands]) => (
          <section key={group} className="mb-4">
            <h3 className="heading mb-1">{group}</h3>
            <dl>
              {commands.map(({ id, title, keys }) => (
                <div key={id} className="flex min-h-7 items-center justify-between gap-3">
                  <dt className="leading-tight">{title}</dt>
                  <dd className="flex shrink-0 gap-1">
                    {keys?.map((each) => (
                      <Key key={each}>{each}</Key>
                    ))}
                  </dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </Sheet>
  );
}
