import { showCommands } from './commands';

/** Where keys and commands are told. */
export const HelpButton = () => (
  <button
    type="button"
    aria-label="Help: keys and commands"
    title="Keys, and every command by name (?)"
    onClick={() => showCommands('shortcuts')}
    className="size-[30px] shrink-0 rounded-md font-semibold text-[14px] text-ink-2 hover:bg-rail"
  >
    ?
  </button>
);
