import { Button, Key } from '../ui/controls';
import { Sheet } from '../ui/Sheet';
import { allCommands, byGroup, showCommands, shownKeys } from './commands';

/** All that can be done with a key here. */
export function Shortcuts() {
  const groups = byGroup(allCommands().filter((command) => command.keys?.length));
  return (
    <Sheet
      open
      wide
      forReading
      onClose={() => showCommands(null)}
      title="Keys"
      about="All that can be done with a key here. Ctrl+K finds every command by its name."
      footer={
        <>
          <span className="mr-auto text-ink-2">What is a piece, a spec, an edition?</span>
          <Button onClick={() => showCommands('glossary')}>Words…</Button>
        </>
      }
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
                      <Key key={each}>{shownKeys(each)}</Key>
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
