import { type DragEvent, useMemo, useRef, useState } from 'react';
import { ApiError } from '../api/client';
import { aboutCommands } from '../commands/about';
import { CommandCentre } from '../commands/CommandCentre';
import { type Command, showCommands, useCommands } from '../commands/commands';
import { HelpButton } from '../commands/HelpButton';
import { Button } from '../ui/controls';
import { Mark } from '../ui/Mark';
import { useNotice } from '../ui/notices';
import { useSome } from '../ui/use-some';
import { ProjectCard } from './ProjectCard';
import { Room } from './Room';
import { useShelf } from './use-shelf';

/** All projects, as contact-sheet covers; files dropped here start a new one. */
export function ShelfPage() {
  const { projects: all, error, isPending, create, open, rename, duplicate, remove } = useShelf();
  const [find, setFind] = useState('');
  const [over, setOver] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  const opener = useRef<HTMLInputElement>(null);
  const finder = useRef<HTMLInputElement>(null);
  const { mutate: createFrom } = create;
  const tell = useNotice();
  const commands = useMemo(
    (): Command[] => [
      { id: 'new-project', group: 'Project', title: 'New project', run: () => createFrom([]) },
      { id: 'bring-in', group: 'Project', title: 'New project from files…', run: () => picker.current?.click() },
      { id: 'open-file', group: 'Project', title: 'Open a project file…', run: () => opener.current?.click() },
      {
        id: 'find-project',
        group: 'Go',
        title: 'Find a project',
        keys: ['/'],
        run: () => finder.current?.focus(),
      },
      { id: 'commands', group: 'Go', title: 'Every command by name', keys: ['Ctrl+K'], listed: true, run: () => {} },
      { id: 'shortcuts', group: 'Go', title: 'All keys', keys: ['?'], run: () => showCommands('shortcuts') },
      ...aboutCommands(tell),
    ],
    [createFrom, tell],
  );
  useCommands('shelf', commands);

  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const files = [...event.dataTransfer.files];
    if (files.length > 0) create.mutate(files);
  };
  // The newest first: with many, what one works on is seen at once.
  const projects = [...all].reverse().filter(({ name }) => name.toLowerCase().includes(find.trim().toLowerCase()));
  const { some, end } = useSome(projects);

  return (
    <div
      className="flex h-full flex-col"
      onDragOver={(event) => (event.preventDefault(), setOver(true))}
      onDragLeave={(event) => event.currentTarget === event.target && setOver(false)}
      onDrop={drop}
    >
      <CommandCentre />
      <header className="flex h-[52px] flex-none items-center gap-2.5 border-line border-b bg-paper px-4">
        <Mark />
        <h1 className="font-bold text-[17px] tracking-[-0.02em]">Tolvik</h1>
        <Room />
        <HelpButton />
        <input
          ref={finder}
          type="search"
          className="field w-[220px]"
          placeholder="Find a project"
          aria-label="Find a project"
          value={find}
          onChange={(event) => setFind(event.target.value)}
        />
        <Button onClick={() => opener.current?.click()}>Open a project file…</Button>
        <Button kind="go" className="h-[34px] px-3.5" onClick={() => create.mutate([])} disabled={create.isPending}>
          New project
        </Button>
        <input
          ref={opener}
          type="file"
          accept=".svg,image/svg+xml"
          hidden
          onChange={(event) => event.target.files?.[0] && open.mutate(event.target.files[0])}
        />
        <input
          ref={picker}
          type="file"
          accept=".svg,.png,.jpg,.jpeg,.webp,.zip"
          multiple
          hidden
          onChange={(event) => event.target.files && create.mutate([...event.target.files])}
        />
      </header>
      <main
        className={`min-h-0 flex-1 overflow-auto bg-rail px-7 py-[22px] ${over ? 'ring-2 ring-spruce ring-inset' : ''}`}
      >
        {error && (
          <p role="alert" className="mb-4 border border-bad bg-bad-pale px-3 py-2 text-bad">
            {error instanceof ApiError && error.isAway ? `The shelf cannot be shown: ${error.message}.` : error.message}
          </p>
        )}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(330px,1fr))] gap-[22px]">
          {!isPending && (
            <li>
              <button
                type="button"
                onClick={() => picker.current?.click()}
                className="flex h-full min-h-[250px] w-full flex-col items-center justify-center gap-1.5 border border-ink-3 border-dashed hover:bg-paper"
              >
                <strong className="font-semibold text-[15px]">
                  {create.isPending ? 'Bringing in…' : 'Drop SVG files, pictures or a zip'}
                </strong>
                <span className="text-ink-2">Each file becomes an artboard of its own size</span>
              </button>
            </li>
          )}
          {some.map((project) => (
            <ProjectCard
              key={project.id}
              project={project}
              onRename={(name) => rename(project, name)}
              onDuplicate={() => duplicate(project)}
              onDelete={() => remove(project)}
            />
          ))}
          {some.length < projects.length && <li ref={end} aria-hidden className="min-h-[250px]" />}
        </ul>
        {isPending && <p className="text-ink-2">Fetching projects…</p>}
        {!isPending && find && projects.length === 0 && (
          <p className="mt-4 text-ink-2">No project is called “{find}”.</p>
        )}
      </main>
    </div>
  );
}
