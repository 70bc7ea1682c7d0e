import { type Alike, acts, lacking, layersAlike, pieceRecord, siblingsOf } from '@tolvik/core';
import { type RefObject, useMemo } from 'react';
import { type Command, useCommands } from '../../commands/commands';
import { askWhichFilesOf } from '../../outputs/which-files';
import { planOf, useSession } from '../../project/session/context';
import { useNotice } from '../../ui/notices';
import { selectedLayers } from '../act';
import { useActOnServer } from '../act-on-server';
import { useBench } from '../bench-state';
import { pasteWhereItWas } from '../CopyAndPaste';
import { useOutlineText } from '../outline-text';
import type { Plane } from '../plane/plane';
import { useRemove } from '../remove';
import { actCommands } from './act-commands';
import { edgeCommands } from './edge-commands';
import { seeCommands } from './see-commands';
import { sheetCommands } from './sheet-commands';

/** Keys that are dealt with where they are pressed, told in the list. */
const told = (group: Command['group'], id: string, title: string, ...keys: string[]): Command => ({
  id,
  group,
  title,
  keys,
  listed: true,
  run: () => {},
});

const COPYING = [
  told('Arrange', 'copy', 'Copy, also as SVG for elsewhere', 'Ctrl+C'),
  told('Arrange', 'cut', 'Cut', 'Ctrl+X'),
  told('Arrange', 'paste', 'Paste, onto each selected artboard', 'Ctrl+V'),
  told('Arrange', 'nudge', 'Move by 1 px, with Shift by 10', 'Arrows'),
];
const IN_TREE = [
  told('Layers', 'tree-group', 'In the tree: out of its group, into the next', 'Alt+ArrowLeft', 'Alt+ArrowRight'),
];

/** Everything the Bench can do, by name and key; shows nothing itself. */
export function BenchCommands({ plane }: { plane: RefObject<Plane | null> }): null {
  const session = useSession();
  const remove = useRemove();
  const outline = useOutlineText();
  const actOnServer = useActOnServer();
  const bench = useBench();
  const tell = useNotice();
  const { tick } = session;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the tick and the bench stand for everything that is read
  const commands = useMemo((): Command[] => {
    const { doc, selection } = session;
    const layers = selectedLayers(session);
    const noLayer = layers.length === 0 && 'No layer is selected';
    const nothing = selection.size === 0 && 'Nothing is selected';
    const pieceCount = [...selection].filter((id) => pieceRecord(doc, id)).length;
    const { set } = bench;
    const alike = (by: Alike, title: string): Command => ({
      id: `alike-${by}`,
      group: 'Layers',
      title,
      unless: noLayer,
      run: () => session.select(layersAlike(doc, selection, by)),
    });
    return [
      ...seeCommands(session, plane),
      ...COPYING,
      {
        id: 'paste-where-it-was',
        group: 'Arrange',
        title: 'Paste where it was copied from',
        keys: ['V'],
        run: () => pasteWhereItWas(session, tell),
      },
      {
        id: 'delete',
        group: 'Arrange',
        title: 'Delete',
        keys: ['Delete', 'Backspace'],
        unless: nothing,
        run: () => remove([...selection]),
      },
      {
        id: 'rename-one',
        group: 'Arrange',
        title: pieceCount > 1 ? 'Names side by side' : 'Rename on the plane',
        keys: ['F2'],
        unless: nothing,
        run: () => (pieceCount > 1 ? set({ sheet: 'rename' }) : set({ renaming: [...selection][0] })),
      },
      {
        id: 'which-files-of',
        group: 'Files',
        title: 'Which files of these…',
        unless: pieceCount === 0 && 'No piece is selected',
        run: () =>
          askWhichFilesOf(planOf(session).pieces.flatMap(({ id, number }) => (selection.has(id) ? [number] : []))),
      },
      ...actCommands(session, 'Arrange'),
      ...actCommands(session, 'Layers'),
      ...IN_TREE,
      {
        id: 'siblings',
        group: 'Layers',
        title: 'Pick all beside it in its group',
        keys: ['A'],
        unless: noLayer,
        run: () => session.select(siblingsOf(doc, selection)),
      },
      alike('fill', 'Pick all with the same fill'),
      alike('stroke', 'Pick all with the same stroke'),
      alike('size', 'Pick all of the same size'),
      {
        id: 'outline',
        group: 'Layers',
        title: 'Text to outlines',
        unless: !layers.some((layer) => layer.tag === 'text') && 'No text is selected',
        run: () => outline(layers),
      },
      ...[acts.strokesToOutlines, acts.unite].map(
        (act): Command => ({
          id: act.name,
          group: 'Layers',
          title: act.title,
          unless: lacking(act, doc, selection),
          run: () => actOnServer(act),
        }),
      ),
      {
        id: 'colours',
        group: 'Layers',
        title: 'Colours of this project…',
        run: () => set({ sheet: 'colours' }),
      },
      ...actCommands(session, 'Pieces'),
      ...edgeCommands(session, actOnServer),
      ...actCommands(session, 'Files'),
      ...sheetCommands(session),
      {
        id: 'pick-pieces',
        group: 'Pieces',
        title: 'Pick all artboards',
        keys: ['Ctrl+A'],
        run: () => session.select(doc.list('artboard').map((artboard) => artboard.id)),
      },
    ];
  }, [session, tick, tell, bench, remove, outline, actOnServer, plane]);
  useCommands('bench', commands);
  return null;
}
