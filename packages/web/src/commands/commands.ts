import { useLayoutEffect } from 'react';
import { create } from 'zustand';

/** One thing that can be done, by its name, its keys, or from the list of all. */
export type Command = {
  id: string;
  title: string;
  group: 'Go' | 'Tools' | 'See' | 'Arrange' | 'Layers' | 'Pieces' | 'Files' | 'Project';
  /** As `keysOf` names them: "Ctrl+Shift+V", "G", "?". Any of them acts. */
  keys?: readonly string[];
  /** Said in the list when it cannot be done now. */
  unless?: string | false | null;
  /** Keys that are dealt with elsewhere and only listed here. */
  listed?: boolean;
  run(): void;
};

type Registered = {
  sets: ReadonlyMap<string, readonly Command[]>;
  shown: 'commands' | 'shortcuts' | 'glossary' | null;
};

export const useCommandCentre = create<Registered>(() => ({ sets: new Map(), shown: null }));

export const showCommands = (shown: Registered['shown']) => useCommandCentre.setState({ shown });

/** Offers commands under a name for as long as the component is there. */
export function useCommands(name: string, commands: readonly Command[]): void {
  useLayoutEffect(() => {
    useCommandCentre.setState(({ sets }) => ({ sets: new Map(sets).set(name, commands) }));
  }, [name, commands]);
  useLayoutEffect(
    () => () =>
      useCommandCentre.setState(({ sets }) => {
        const next = new Map(sets);
        next.delete(name);
        return { sets: next };
      }),
    [name],
  );
}

export const allCommands = (): Command[] => [...useCommandCentre.getState().sets.values()].flat();

/** What was pressed, as commands name it. Shift is part of the name only where the key itself does not say it. */
export function keysOf({
  key,
  code,
  ctrlKey,
  metaKey,
  altKey,
  shiftKey,
}: Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>): string {
  const digit = /^Digit(\d)$/.exec(code)?.[1];
  const named = key === ' ' ? 'Space' : altKey && digit ? digit : key.length === 1 ? key.toUpperCase() : key;
  const letter = /^[A-Z]$/.test(named) || named.length > 1;
  return [(ctrlKey || metaKey) && 'Ctrl', altKey && 'Alt', shiftKey && letter && 'Shift', named]
    .filter(Boolean)
    .join('+');
}

/** Keys as they are written on screen. */
export const shownKeys = (keys: string): string => keys.replace('Arrow', '');

/** Commands under the headings they are listed under. */
export function byGroup(commands: readonly Command[]): [string, Command[]][] {
  const groups = new Map<string, Command[]>();
  for (const command of commands) groups.set(command.group, [...(groups.get(command.group) ?? []), command]);
  return [...groups];
}
