import { type ActGroup, type ActSettings, type AnyAct, acts, EDGES, lacking } from '@tolvik/core';
import type { Command } from '../../commands/commands';
import type { Session } from '../../project/session/session';
import { act } from '../act';
import { useBench } from '../bench-state';

/** An act of core as a command: with which settings, called what, on which keys. */
type ListedAs<Done extends AnyAct> = {
  act: Done;
  settings: ActSettings<Done> | (() => ActSettings<Done>);
  /** Where one act has several commands; else it has the act's own title. */
  id?: string;
  title?: string;
  keys?: readonly string[];
  /** What this command needs selected beyond what its act does. */
  unless?(session: Session): string | false;
};

type Listed = ListedAs<AnyAct>;

const listed = <Done extends AnyAct>(command: ListedAs<Done>): Listed => command;

const few = ({ selection }: Session) => selection.size < 2 && 'Two or more have to be selected';
const noLayer = ({ doc, selection }: Session) =>
  ![...selection].some((id) => doc.find('layer', id)) && 'No layer is selected';

const COMMANDS: readonly Listed[] = [
  listed({ act: acts.duplicate, settings: {}, keys: ['D'] }),
  ...EDGES.map((edge) =>
    listed({ act: acts.align, settings: { edge }, id: `align-${edge}`, title: `Align: ${edge}`, unless: few }),
  ),
  ...EDGES.map((edge) =>
    listed({
      act: acts.align,
      settings: { edge, to: 'artboard' },
      id: `align-artboard-${edge}`,
      title: `Align to the artboard: ${edge}`,
      unless: noLayer,
    }),
  ),
  listed({
    act: acts.distribute,
    settings: { axis: 'across' },
    id: 'distribute-across',
    title: 'Equal gaps across',
  }),
  listed({ act: acts.distribute, settings: { axis: 'down' }, id: 'distribute-down', title: 'Equal gaps down' }),
  listed({ act: acts.toPixelGrid, settings: {} }),
  listed({
    act: acts.mirror,
    settings: { across: 'horizontally' },
    id: 'mirror-h',
    title: 'Mirror left and right',
    keys: ['M'],
  }),
  listed({
    act: acts.mirror,
    settings: { across: 'vertically' },
    id: 'mirror-v',
    title: 'Mirror top and bottom',
    keys: ['Shift+M'],
  }),
  listed({
    act: acts.turn,
    settings: () => ({ degrees: 90, around: useBench.getState().reference }),
    id: 'turn-right',
    title: 'Turn by 90° clockwise',
    keys: ['T'],
  }),
  listed({
    act: acts.turn,
    settings: () => ({ degrees: -90, around: useBench.getState().reference }),
    id: 'turn-left',
    title: 'Turn by 90° anticlockwise',
    keys: ['Shift+T'],
  }),
  listed({ act: acts.group, settings: {}, keys: ['G'] }),
  listed({ act: acts.ungroup, settings: {}, keys: ['Shift+G'] }),
  listed({ act: acts.reorder, settings: { to: 'forward' }, id: 'forward', title: 'Forward', keys: ['Alt+ArrowUp'] }),
  listed({
    act: acts.reorder,
    settings: { to: 'backward' },
    id: 'backward',
    title: 'Backward',
    keys: ['Alt+ArrowDown'],
  }),
  listed({
    act: acts.reorder,
    settings: { to: 'front' },
    id: 'front',
    title: 'To the front',
    keys: ['Alt+Shift+ArrowUp'],
  }),
  listed({
    act: acts.reorder,
    settings: { to: 'back' },
    id: 'back',
    title: 'To the back',
    keys: ['Alt+Shift+ArrowDown'],
  }),
  listed({ act: acts.artboardsAround, settings: {} }),
  listed({ act: acts.sliceLayers, settings: {}, keys: ['S'] }),
  listed({ act: acts.sliceArtboards, settings: {} }),
  listed({ act: acts.sliceEverything, settings: {} }),
  listed({
    act: acts.sliceEverything,
    settings: { name: 'sheet', to: 'artboards' },
    id: 'whole-sheet',
    title: 'Whole sheet: all artboards in one piece',
  }),
  listed({ act: acts.trimToArtwork, settings: {} }),
  listed({ act: acts.centreArtwork, settings: {} }),
  listed({ act: acts.crispestPlace, settings: {} }),
  listed({ act: acts.wholePixels, settings: {} }),
  listed({ act: acts.convert, settings: {} }),
  listed({ act: acts.number, settings: { by: 'name' }, id: 'number-name', title: 'Number the selected by name' }),
  listed({ act: acts.number, settings: { by: 'place' }, id: 'number-place', title: 'Number the selected by place' }),
  listed({
    act: acts.switchPieces,
    settings: { on: true },
    id: 'pieces-on',
    title: 'Make files of the selected pieces',
  }),
  listed({
    act: acts.switchPieces,
    settings: { on: false },
    id: 'pieces-off',
    title: 'Make no files of the selected pieces',
  }),
];

/** The acts of one group as commands on what is selected now. */
export const actCommands = (session: Session, group: ActGroup): Command[] =>
  COMMANDS.filter((command) => command.act.group === group).map(
    ({ act: done, settings, id = done.name, title = done.title, keys, unless }) => ({
      id,
      title,
      keys,
      group: group === 'Files' ? 'Pieces' : group,
      unless: lacking(done, session.doc, session.selection) || unless?.(session),
      run: () => void act(session, done, typeof settings === 'function' ? settings() : settings),
    }),
  );
