import { Suspense, useEffect, useLayoutEffect, useState } from 'react';
import { Arriving } from '../ui/Arriving';
import { meansPlaneOrList } from '../ui/keep-focus';
import { useNotice } from '../ui/notices';
import { part } from '../ui/part';
import { keepCommands } from '../ui/typed-early';
import { allCommands, keysOf, showCommands, useCommandCentre } from './commands';
import { type Early, handEarly, keepEarly, NOTHING_TYPED } from './early';
import { MenuHost } from './MenuHost';
import { isTyping, settleTyped } from './typing';

const EveryCommand = part(async () => (await import('./EveryCommand')).EveryCommand);
const Glossary = part(async () => (await import('./Glossary')).Glossary);
const Shortcuts = part(async () => (await import('./Shortcuts')).Shortcuts);

/** Keys that act wherever the focus is: while something is typed, and on controls that have a use for the key alone. */
const ANYWHERE = /^(Ctrl\+(K|Enter)|Alt\+[1-3])$/;

/** Keys that mean the same wherever the focus is, but in a field. Others alone are for the plane or the list that has it. */
const FROM_ANYWHERE = /^(Ctrl\+|Alt\+|F\d|Escape$|[?/]$)/;

/** Keys of a command that acts wherever the focus is. */
function isCommand(event: KeyboardEvent): boolean {
  if (!event.ctrlKey && !event.metaKey) return false;
  const keys = keysOf(event);
  return keys === 'Ctrl+K' || allCommands().some((each) => !each.listed && each.keys?.includes(keys));
}
keepCommands(isCommand);

/** Every command by name (Ctrl+K), every shortcut in a list (?), and the one place that listens for their keys. */
export function CommandCentre() {
  const { shown } = useCommandCentre();
  const tell = useNotice();
  // What is seen answers to keys at once: other effects may come a good while after.
  useLayoutEffect(() => {
    // A key is for the dialog that is there when it is pressed, even where that is gone once it has acted on it.
    let isForDialog = false;
    const before = () => {
      isForDialog = document.querySelector('[role="dialog"], [role="menu"]') !== null;
    };
    /** The field in which something was typed that is not taken over yet. */
    let typedIn: EventTarget | null = null;
    const typed = ({ target }: Event) => {
      typedIn = isTyping(target) && !(target instanceof HTMLSelectElement) ? target : null;
    };
    const down = (event: KeyboardEvent) => {
      const keys = keysOf(event);
      const typing = isTyping(event.target);
      const inWords = typing && typedIn === event.target;
      if (keys === 'Enter' || keys === 'Escape') typedIn = null;
      if ((typing || event.defaultPrevented) && !ANYWHERE.test(keys)) return;
      if (isForDialog && keys !== 'Ctrl+K') return;
      if (keys === 'Ctrl+K') showCommands(useCommandCentre.getState().shown === 'commands' ? null : 'commands');
      else if (keys === '?') showCommands('shortcuts');
      else {
        const command = allCommands().find((each) => !each.listed && each.keys?.includes(keys));
        if (!command || !(FROM_ANYWHERE.test(keys) || meansPlaneOrList(event.target))) return;
        if (typing) settleTyped();
        typedIn = null;
        // Who is in the middle of a word ends it with that, and exports nothing.
        if (inWords && keys === 'Ctrl+Enter') return event.preventDefault();
        if (command.unless) tell(`${command.unless}.`);
        else command.run();
      }
      event.preventDefault();
    };
    window.addEventListener('keydown', before, true);
    window.addEventListener('keydown', down);
    window.addEventListener('input', typed, true);
    return () => {
      window.removeEventListener('keydown', before, true);
      window.removeEventListener('keydown', down);
      window.removeEventListener('input', typed, true);
    };
  }, [tell]);
  // What is typed before the list is here is in it when it comes.
  const [early, setEarly] = useState(NOTHING_TYPED);
  useEffect(() => {
    if (shown === 'commands') return;
    setEarly(NOTHING_TYPED);
    handEarly();
  }, [shown]);
  return (
    <>
      {shown === 'commands' && (
        <Suspense fallback={<CommandsArriving early={early} onChange={setEarly} />}>
          <EveryCommand began={early} />
        </Suspense>
      )}
      <Suspense fallback={<Arriving />}>
        {shown === 'shortcuts' && <Shortcuts />}
        {shown === 'glossary' && <Glossary />}
        <MenuHost />
      </Suspense>
    </>
  );
}

/** Stands for the list while it is on its way, and takes what is typed already. */
const CommandsArriving = ({ early, onChange }: { early: Early; onChange(early: Early): void }) => (
  <div
    role="dialog"
    aria-busy="true"
    aria-label="Every command"
    className="fixed top-[12vh] left-1/2 z-50 w-[min(560px,92vw)] -translate-x-1/2 border border-ink bg-paper"
  >
    <input
      // biome-ignore lint/a11y/noAutofocus: it was asked for by a key, and what is typed next is meant for it
      autoFocus
      aria-label="Every command"
      value={early.typed}
      onChange={(event) => onChange({ typed: event.target.value, entered: false })}
      onKeyDown={({ key }) => {
        if (key === 'Escape') showCommands(null);
        if (key !== 'Enter') return;
        keepEarly();
        onChange({ ...early, entered: true });
      }}
      className="h-11 w-full bg-white px-4 text-[14px] outline-none"
    />
  </div>
);
