import type { MouseEvent } from 'react';
import { flushSync } from 'react-dom';
import { allCommands } from '../../commands/commands';
import { type MenuGroups, openMenu } from '../../commands/menu';
import type { Session } from '../../project/session/session';

/** By what is selected: ids of commands, a line between groups. */
const OF_LAYERS = [
  ['rename-one', 'duplicate', 'delete'],
  ['group', 'ungroup', 'front', 'forward', 'backward', 'back'],
  ['mirror-h', 'mirror-v', 'turn-right', 'turn-left', 'to-pixel-grid'],
  ['artboards-around', 'slice-layers'],
  ['siblings', 'alike-fill', 'alike-stroke', 'alike-size'],
  ['outline', 'fit-selection'],
];
const OF_PIECES = [
  ['rename-one', 'rename', 'duplicate', 'delete'],
  ['trim-to-artwork', 'centre-artwork', 'whole-pixels', 'convert'],
  ['variants', 'lockups', 'editions', 'groups', 'tiles', 'rows', 'slice-artboards'],
  ['pieces-on', 'pieces-off'],
  ['export-selected', 'which-files-of'],
  ['number-name', 'number-place'],
  ['fit-selection'],
];
const OF_NOTHING = [
  ['bring-in', 'slice-everything', 'pick-pieces'],
  ['undo', 'redo'],
  ['fit-all', 'true-size'],
  ['wireframe', 'rulers', 'grid', 'backdrop'],
];

/**
 * Opens the menu of what is selected on the Bench, made of its commands; `select` selects what it is about first, and
 * the commands are those of then.
 */
export function openBenchMenu(event: MouseEvent, session: Session, select: () => void = () => {}): void {
  event.preventDefault();
  flushSync(select);
  openMenu(event, benchMenu(session));
}

function benchMenu({ doc, selection }: Session): MenuGroups {
  const layers = [...selection].some((id) => doc.find('layer', id));
  const ids = selection.size === 0 ? OF_NOTHING : layers ? OF_LAYERS : OF_PIECES;
  const known = new Map(allCommands().map((command) => [command.id, command]));
  return ids.map((group) => group.flatMap((id) => known.get(id) ?? []));
}
