import { MoreHorizontal } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { ShelfProject } from '../api/types';
import { openMenu } from '../commands/menu';
import { TextField } from '../ui/TextField';
import { count, when } from '../ui/words';

type Props = { project: ShelfProject; onRename(name: string): void; onDuplicate(): void; onDelete(): void };

/** One project on the shelf: its cover, what is in it, how its last delivery stands. */
export function ProjectCard({ project, onRename, onDuplicate, onDelete }: Props) {
  const [renaming, setRenaming] = useState(false);
  const navigate = useNavigate();
  const { id, name, version, artboards, slices, editions, files, last_delivery: last } = project;
  const holds =
    [
      artboards > 0 && count(artboards, 'artboard'),
      editions > 0 && count(editions, 'edition'),
      slices > 0 && count(slices, 'slice'),
    ]
      .filter(Boolean)
      .join(', ') || 'empty';
  const state = !last
    ? 'never delivered'
    : last.version === version
      ? `delivered ${when(last.at)}`
      : `edited since delivery ${last.number}`;
  return (
    <li
      className="flex flex-col border border-line-strong bg-white"
      onContextMenu={(event) =>
        openMenu(event, [
          [
            { id: 'open', title: 'Open', run: () => void navigate(`/projects/${id}/bench`) },
            { id: 'rename', title: 'Rename', run: () => setRenaming(true) },
            { id: 'duplicate', title: 'Duplicate', run: onDuplicate },
            {
              id: 'save',
              title: 'Save as a project file',
              run: () => void (window.location.href = `/api/projects/${id}/project.svg`),
            },
          ],
          [{ id: 'delete', title: 'Delete', run: onDelete }],
        ])
      }
    >
      <Link
        to={`/projects/${id}/bench`}
        className="block aspect-[376/196] border-line border-b bg-white"
        tabIndex={-1}
        aria-hidden
      >
        <img
          src={`/api/projects/${id}/cover.png?v=${version}`}
          alt=""
          loading="lazy"
          className="size-full object-cover"
          draggable={false}
        />
      </Link>
      <div className="grid grid-cols-[1fr_auto] gap-x-2 gap-y-0.5 py-2.5 pr-2 pl-3.5">
        {renaming ? (
          <TextField
            label="Name of the project"
            value={name}
            required
            autoFocus
            onChange={onRename}
            onDone={() => setRenaming(false)}
          />
        ) : (
          <Link to={`/projects/${id}/bench`} className="truncate font-bold text-[14.5px] tracking-[-0.01em]">
            {name}
          </Link>
        )}
        <span className="flex items-center gap-1 justify-self-end">
          <span className="font-mono text-[11.5px] text-ink-2">{count(files, 'file')}</span>
          <DropdownMenu.Root>
            <DropdownMenu.Trigger aria-label={`More for ${name}`} className="rounded-sm p-1 hover:bg-rail">
              <MoreHorizontal size={15} />
            </DropdownMenu.Trigger>
            <DropdownMenu.Portal>
              <DropdownMenu.Content
                align="end"
                className="z-40 min-w-44 rounded-md border border-ink bg-paper py-1 shadow-[0_8px_24px_rgb(23_27_28/0.18)]"
              >
                <Item onSelect={() => setTimeout(() => setRenaming(true), 0)}>Rename</Item>
                <Item onSelect={onDuplicate}>Duplicate</Item>
                <DropdownMenu.Item asChild className={ITEM}>
                  <a href={`/api/projects/${id}/project.svg`} download>
                    Save as a project file
                  </a>
                </DropdownMenu.Item>
                <DropdownMenu.Separator className="my-1 h-px bg-line" />
                <Item onSelect={onDelete}>Delete</Item>
              </DropdownMenu.Content>
            </DropdownMenu.Portal>
          </DropdownMenu.Root>
        </span>
        <span className="truncate text-ink-2 text-note">{holds}</span>
        <span
          className={`pr-1.5 text-right text-note ${last && last.version !== version ? 'text-ochre' : 'text-ink-3'}`}
        >
          {state}
        </span>
      </div>
    </li>
  );
}

const ITEM = 'block px-3 py-1.5 outline-none data-[highlighted]:bg-spruce data-[highlighted]:text-white';
const Item = ({ onSelect, children }: { onSelect(): void; children: string }) => (
  <DropdownMenu.Item onSelect={onSelect} className={ITEM}>
    {children}
  </DropdownMenu.Item>
);
