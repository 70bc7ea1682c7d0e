import { type ActGroup, type ActName, type ActSettings, actNamed, EDGES, lacking } from '@tolvik/core';
import type { Command } from '../../commands/commands';
import type { Session } from '../../project/session';
import { act } from '../act';
import { useBench } from '../bench-state';

/** An act of core as a command: with which settings, called what, on which keys. */
type ListedAs<Name extends ActName> = {
  act: Name;
  settings: ActSettings<Name> | (() => ActSettings<Name>);
  /** Where one act has several commands; else it has the act's own title. */
  id?: string;
  title?: string;
  keys?: readonly string[];
  /** What this command needs selected beyond what its act does. */
  unless?(session: Session): string | false;
};

type Listed = { [Name in ActName]: ListedAs<Name> }[ActName];

const listed = <Name extends ActName>(command: ListedAs<Name>) => command as unknown as Listed;

const few = ({ selection }: Session) => selection.size < 2 && 'Two or more have to be selected';
const noLayer = ({ doc, selection }: Session) =>
  ![...selection].some((id) => doc.find('layer', id)) && 'No layer is selected';

const COMMANDS: readonly Listed[] = [
  listed({ act: 'duplicate', settings: {}, keys: ['D'] }),
  ...EDGES.map((edge) =>
    listed({ act: 'align', settings: { edge }, id: `align-${edge}`, title: `Align: ${edge}`, unless: few }),
  ),
  ...EDGES.map((edge) =>
    listed({
      act: 'align',
      settings: { edge, to: 'artboard' },
      id: `align-artboard-${edge}`,
      title: `Align to the artboard: ${edge}`,
      unless: noLayer,
    }),
  ),
  listed({
    act: 'distribute',
    settings: { axis: 'across' },
    id: 'distribute-across',
    title: 'Equal gaps across',
  }),
  listed({ act: 'distribute', settings: { axis: 'down' }, id: 'distribute-down', title: 'Equal gaps down' }),
  listed({ act: 'to-pixel-grid', settings: {} }),
  listed({
    act: 'mirror',
    settings: { across: 'horizontally' },
    id: 'mirror-h',
    title: 'Mirror left and right',
    keys: ['M'],
  }),
  listed({
    act: 'mirror',
    settings: { across: 'vertically' },
    id: 'mirror-v',
    title: 'Mirror top and bottom',
    keys: ['Shift+M'],
  }),
  listed({
    act: 'turn',
    settings: () => ({ degrees: 90, around: useBench.getState().reference }),
    id: 'turn-right',
    title: 'Turn by 90° clockwise',
    keys: ['T'],
  }),
  listed({
    act: 'turn',
    settings: () => ({ degrees: -90, around: useBench.getState().reference }),
    id: 'turn-left',
    title: 'Turn by 90° anticlockwise',
    keys: ['Shift+T'],
  }),
  listed({ act: 'group', settings: {}, keys: ['G'] }),
  listed({ act: 'ungroup', settings: {}, keys: ['Shift+G'] }),
  listed({ act: 'reorder', settings: { to: 'forward' }, id: 'forward', title: 'Forward', keys: ['PageUp'] }),
  listed({ act: 'reorder', settings: { to: 'backward' }, id: 'backward', title: 'Backward', keys: ['PageDown'] }),
  listed({ act: 'reorder', settings: { to: 'front' }, id: 'front', title: 'To the front', keys: ['Shift+PageUp'] }),
  listed({ act: 'reorder', settings: { to: 'back' }, id: 'back', title: 'To the back', keys: ['Shift+PageDown'] }),
  listed({ act: 'artboards-around', settings: {} }),
  listed({ act: 'slice-layers', settings: {}, keys: ['S'] }),
  listed({ act: 'slice-artboards', settings: {} }),
  listed({ act: 'slice-everything', settings: {} }),
  listed({
    act: 'slice-everything',
    settings: { name: 'sheet', to: 'artboards' },
    id: 'whole-sheet',
    title: 'Whole sheet: all artboards in one piece',
  }),
  listed({ act: 'trim-to-artwork', settings: {} }),
  listed({ act: 'centre-artwork', settings: {} }),
  listed({ act: 'whole-pixels', settings: {} }),
  listed({ act: 'convert', settings: {} }),
  listed({ act: 'number', settings: { by: 'name' }, id: 'number-name', title: 'Number the selected by name' }),
  listed({ act: 'number', settings: { by: 'place' }, id: 'number-place', title: 'Number the selected by place' }),
  listed({ act: 'switch-pieces', settings: { on: true }, id: 'pieces-on', title: 'Make files of the selected pieces' }),
  listed({
    act: 'switch-pieces',
    settings: { on: false },
    id: 'pieces-off',
    title: 'Make no files of the selected pieces',
  }),
];

/** The acts of one group as commands on what is selected now. */
export const actCommands = (session: Session, group: ActGroup): Command[] =>
  COMMANDS.filter((command) => actNamed(command.act).group === group).map(
    ({ act: name, settings, id = name, title = actNamed(name).title, keys, unless }) => ({
      id,
      title,
      keys,
      group: group === 'Files' ? 'Pieces' : group,
      unless: lacking(name, session.doc, session.selection) || unless?.(session),
      run: () =>
        void act(session, name, (typeof settings === 'function' ? settings() : settings) as ActSettings<ActName>),
    }),
  );
