import { create } from 'zustand';
import type { Command } from './commands';

export type MenuItem = Pick<Command, 'id' | 'title' | 'keys' | 'unless' | 'run'>;
/** Groups of items, with a line between them. */
export type MenuGroups = readonly (readonly MenuItem[])[];

type Shown = { at: { x: number; y: number }; groups: MenuGroups };
export const useMenu = create<{ shown: Shown | null }>(() => ({ shown: null }));
export const closeMenu = () => useMenu.setState({ shown: null });

/** Where a menu was asked for: a mouse event's place, or with the keyboard that of what has the focus. */
type Asked = Pick<MouseEvent, 'clientX' | 'clientY' | 'button' | 'preventDefault'> & {
  currentTarget: EventTarget | null;
};

/** Opens a menu where it was asked for, with what can be done now; the browser's own does not come. */
export function openMenu(event: Asked, groups: MenuGroups): void {
  event.preventDefault();
  const can = groups.map((group) => group.filter((item) => !item.unless)).filter((group) => group.length > 0);
  if (can.length === 0) return;
  const box = event.currentTarget instanceof Element ? event.currentTarget.getBoundingClientRect() : null;
  const at =
    event.button === 2 || !box
      ? { x: event.clientX, y: event.clientY }
      : { x: box.left + Math.min(40, box.width / 2), y: box.top + Math.min(40, box.height / 2) };
  useMenu.setState({ shown: { at, groups: can } });
}

/** Opens a menu below the button that it belongs to. */
export function openMenuBelow(button: Element, groups: MenuGroups): void {
  const { left, bottom } = button.getBoundingClientRect();
  openMenu({ clientX: left, clientY: bottom + 4, button: 2, preventDefault() {}, currentTarget: null }, groups);
}
