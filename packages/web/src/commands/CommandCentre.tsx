import { Suspense, useEffect } from 'react';
import { Arriving } from '../ui/Arriving';
import { useNotice } from '../ui/notices';
import { part } from '../ui/part';
import { allCommands, keysOf, showCommands, useCommandCentre } from './commands';
import { EveryCommand } from './EveryCommand';
import { MenuHost } from './MenuHost';
import { isTyping } from './typing';

const Shortcuts = part(async () => (await import('./Shortcuts')).Shortcuts);

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
      if (event.defaultPrevented || (document.querySelector('[role="dialog"], [role="menu"]') && keys !== 'Ctrl+K'))
        return;
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
  return (
    <Suspense fallback={<Arriving />}>
      {shown === 'commands' && <EveryCommand />}
      {shown === 'shortcuts' && <Shortcuts />}
      <MenuHost />
    </Suspense>
  );
}
