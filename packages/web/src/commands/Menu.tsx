import { DropdownMenu } from 'radix-ui';
import { Key } from '../ui/controls';
import { afterChoice } from '../ui/typed-early';
import { shownKeys } from './commands';
import { closeMenu, useMenu } from './menu';

/** What can be done with what is under the pointer, or has the focus. */
export function Menu() {
  const shown = useMenu((state) => state.shown);
  if (!shown) return null;
  const { at, groups } = shown;
  return (
    <DropdownMenu.Root open key={`${at.x} ${at.y}`} onOpenChange={(open) => !open && closeMenu()}>
      <DropdownMenu.Trigger asChild>
        <span aria-hidden className="pointer-events-none fixed size-0" style={{ left: at.x, top: at.y }} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={2}
          collisionPadding={8}
          aria-label="What can be done here"
          className="z-50 max-h-[80vh] min-w-56 overflow-y-auto rounded-md border border-ink bg-paper py-1 shadow-[0_8px_24px_rgb(23_27_28/0.18)] outline-none"
        >
          {groups.map((group, i) => (
            <DropdownMenu.Group key={group[0].id}>
              {i > 0 && <DropdownMenu.Separator className="my-1 h-px bg-line" />}
              {group.map((item) => (
                <DropdownMenu.Item
                  key={item.id}
                  onSelect={() => afterChoice(item.run)}
                  className="flex cursor-default items-center justify-between gap-6 px-3 py-[5px] outline-none data-[highlighted]:bg-spruce-pale"
                >
                  {item.title}
                  {item.keys?.[0] && <Key>{shownKeys(item.keys[0])}</Key>}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Group>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
