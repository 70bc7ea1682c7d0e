import { EDGES } from '@tolvik/core';
import { type RefObject, useMemo } from 'react';
import { type Command, useCommands } from '../commands/commands';
import { planOf, useSession } from '../project/context';
import { useAttempt } from '../ui/attempt';
import { useNotice } from '../ui/notices';
import {
  alignSelected,
  convertSelected,
  distributeSelected,
  duplicateSelected,
  everythingSliced,
  fitSelected,
  groupSelected,
  mirrorSelected,
  numberSelected,
  pageOfArtboards,
  pickAlike,
  pickSiblings,
  reorderSelected,
  selectedArtboards,
  selectedLayers,
  selectedToPixelGrid,
  sliceEach,
  turnSelected,
  ungroupSelected,
} from './acts';
import { BACKDROPS, TOOLS, useBench } from './bench-state';
import { stepEdition } from './editions/EditionStrip';
import { useOutlineText } from './outline-text';
import type { Plane } from './plane/plane';
import { useRemove } from './remove';

/** Everything the Bench can do, by name and key; shows nothing itself. */
export function BenchCommands({ plane }: { plane: RefObject<Plane | null> }): null {
  const session = useSession();
  const tell = useNotice();
  const attempt = useAttempt();
  const remove = useRemove();
  const outline = useOutlineText();
  const { set, backdrop, wireframe, rulers, pixelGrid, pixels } = useBench();
  const { tick } = session;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the tick stands for everything in the session
  const commands = useMemo((): Command[] => {
    const layers = selectedLayers(session);
    const artboards = selectedArtboards(session);
    const { size } = session.selection;
    const act = (work: () => void) => () => attempt(work);
    const noLayer = layers.length === 0 && 'No layer is selected';
    const nothing = size === 0 && 'Nothing is selected';
    const noArtboard = artboards.length === 0 && 'No artboard is selected';
    const fit = (how: Parameters<typeof fitSelected>[1]) => () => {
      const nothing = fitSelected(session, how);
      if (nothing) tell(nothing);
    };
    const few = size < 2 && 'Two or more have to be selected';
    const { pieces } = planOf(session);
    const step = (by: number) => {
      const at = pieces.findIndex((piece) => session.selection.has(piece.id));
      const next = pieces[at < 0 ? (by > 0 ? 0 : pieces.length - 1) : (at + by + pieces.length) % pieces.length];
      if (!next) return;
      session.select([next.id]);
      plane.current?.reveal(next.id);
    };
    const tools: Command[] = TOOLS.map((tool, i) => ({
      id: `tool-${tool}`,
      group: 'Tools',
      title: `${tool[0].toUpperCase()}${tool.slice(1)} tool`,
      keys: [String(i + 1)],
      run: () => set({ tool }),
    }));
    const see: Command[] = [
      {
        id: 'backdrop',
        group: 'See',
        title: 'Next backdrop',
        keys: ['Q'],
        run: () => set({ backdrop: BACKDROPS[(BACKDROPS.indexOf(backdrop) + 1) % BACKDROPS.length] }),
      },
      {
        id: 'wireframe',
        group: 'See',
        title: wireframe ? 'Show artwork as painted' : 'Wireframe',
        keys: ['W'],
        run: () => set({ wireframe: !wireframe }),
      },
      {
        id: 'pixels',
        group: 'See',
        title: 'Selected piece as pixels: off, 1× to 4×',
        keys: ['P'],
        run: () => set({ pixels: (pixels + 1) % 5 }),
      },
      {
        id: 'rulers',
        group: 'See',
        title: rulers ? 'Hide rulers' : 'Show rulers',
        keys: ['R'],
        run: () => set({ rulers: !rulers }),
      },
      {
        id: 'grid',
        group: 'See',
        title: pixelGrid ? 'Hide the pixel grid' : 'Show the pixel grid',
        keys: ['X'],
        run: () => set({ pixelGrid: !pixelGrid }),
      },
      {
        id: 'fit-selection',
        group: 'See',
        title: 'Fit what is selected',
        keys: ['.'],
        run: () => plane.current?.fitSelection(),
      },
      { id: 'fit-all', group: 'See', title: 'Fit everything', keys: [','], run: () => plane.current?.fitAll() },
      { id: 'zoom-in', group: 'See', title: 'Closer', keys: ['+', '='], run: () => plane.current?.zoomBy(1.5) },
      { id: 'zoom-out', group: 'See', title: 'Further off', keys: ['-'], run: () => plane.current?.zoomBy(1 / 1.5) },
      { id: 'true-size', group: 'See', title: 'True size, 100 %', keys: ['0'], run: () => plane.current?.zoomTo(1) },
      { id: 'next', group: 'See', title: 'Next piece', keys: ['N'], run: () => step(1) },
      { id: 'previous', group: 'See', title: 'Piece before', keys: ['Shift+N'], run: () => step(-1) },
      { id: 'edition-before', group: 'See', title: 'Edition before', keys: ['['], run: () => stepEdition(session, -1) },
      { id: 'edition-after', group: 'See', title: 'Edition after', keys: [']'], run: () => stepEdition(session, 1) },
    ];
    const arrange: Command[] = [
      {
        id: 'copy',
        group: 'Arrange',
        title: 'Copy, also as SVG for elsewhere',
        keys: ['Ctrl+C'],
        listed: true,
        run: () => {},
      },
      { id: 'cut', group: 'Arrange', title: 'Cut', keys: ['Ctrl+X'], listed: true, run: () => {} },
      {
        id: 'paste',
        group: 'Arrange',
        title: 'Paste, onto each selected artboard',
        keys: ['Ctrl+V'],
        listed: true,
        run: () => {},
      },
      {
        id: 'paste-in-place',
        group: 'Arrange',
        title: 'Paste in place',
        keys: ['Ctrl+Shift+V'],
        listed: true,
        run: () => {},
      },
      {
        id: 'nudge',
        group: 'Arrange',
        title: 'Move by 1 px, with Shift by 10',
        keys: ['Arrows'],
        listed: true,
        run: () => {},
      },
      {
        id: 'duplicate',
        group: 'Arrange',
        title: 'Duplicate',
        keys: ['D'],
        unless: nothing,
        run: act(() => duplicateSelected(session)),
      },
      {
        id: 'delete',
        group: 'Arrange',
        title: 'Delete',
        keys: ['Delete', 'Backspace'],
        unless: nothing,
        run: () => remove([...session.selection]),
      },
      {
        id: 'rename',
        group: 'Arrange',
        title: 'Rename on the plane',
        keys: ['F2'],
        unless: nothing,
        run: () => set({ renaming: [...session.selection][0] }),
      },
      ...EDGES.map(
        (edge): Command => ({
          id: `align-${edge}`,
          group: 'Arrange',
          title: `Align: ${edge}`,
          unless: few,
          run: act(() => alignSelected(session, edge, 'selection')),
        }),
      ),
      ...EDGES.map(
        (edge): Command => ({
          id: `align-artboard-${edge}`,
          group: 'Arrange',
          title: `Align to the artboard: ${edge}`,
          unless: noLayer,
          run: act(() => alignSelected(session, edge, 'artboard')),
        }),
      ),
      {
        id: 'distribute-across',
        group: 'Arrange',
        title: 'Equal gaps across',
        unless: few,
        run: () => distributeSelected(session, 'across'),
      },
      {
        id: 'distribute-down',
        group: 'Arrange',
        title: 'Equal gaps down',
        unless: few,
        run: () => distributeSelected(session, 'down'),
      },
      {
        id: 'to-grid',
        group: 'Arrange',
        title: 'Move to the pixel grid',
        unless: nothing,
        run: () => selectedToPixelGrid(session),
      },
      {
        id: 'mirror-h',
        group: 'Arrange',
        title: 'Mirror left and right',
        keys: ['Shift+H'],
        unless: noLayer,
        run: () => mirrorSelected(session, 'horizontally'),
      },
      {
        id: 'mirror-v',
        group: 'Arrange',
        title: 'Mirror top and bottom',
        keys: ['Shift+V'],
        unless: noLayer,
        run: () => mirrorSelected(session, 'vertically'),
      },
      {
        id: 'turn-right',
        group: 'Arrange',
        title: 'Turn by 90° clockwise',
        keys: ['T'],
        unless: noLayer,
        run: () => turnSelected(session, 90),
      },
      {
        id: 'turn-left',
        group: 'Arrange',
        title: 'Turn by 90° the other way',
        keys: ['Shift+T'],
        unless: noLayer,
        run: () => turnSelected(session, -90),
      },
    ];
    const layering: Command[] = [
      {
        id: 'group',
        group: 'Layers',
        title: 'Group',
        keys: ['G'],
        unless: noLayer,
        run: act(() => groupSelected(session)),
      },
      {
        id: 'ungroup',
        group: 'Layers',
        title: 'Ungroup',
        keys: ['Shift+G'],
        unless: noLayer || (!layers.some((layer) => layer.tag === 'g') && 'No group is selected'),
        run: act(() => ungroupSelected(session)),
      },
      {
        id: 'forward',
        group: 'Layers',
        title: 'Forward',
        keys: ['PageUp'],
        unless: noLayer,
        run: () => reorderSelected(session, 'forward'),
      },
      {
        id: 'backward',
        group: 'Layers',
        title: 'Backward',
        keys: ['PageDown'],
        unless: noLayer,
        run: () => reorderSelected(session, 'backward'),
      },
      {
        id: 'front',
        group: 'Layers',
        title: 'To the front',
        keys: ['Shift+PageUp'],
        unless: noLayer,
        run: () => reorderSelected(session, 'front'),
      },
      {
        id: 'back',
        group: 'Layers',
        title: 'To the back',
        keys: ['Shift+PageDown'],
        unless: noLayer,
        run: () => reorderSelected(session, 'back'),
      },
      {
        id: 'tree-order',
        group: 'Layers',
        title: 'In the tree: forward, backward',
        keys: ['Alt+Up', 'Alt+Down'],
        listed: true,
        run: () => {},
      },
      {
        id: 'tree-group',
        group: 'Layers',
        title: 'In the tree: out of its group, into the next',
        keys: ['Alt+Left', 'Alt+Right'],
        listed: true,
        run: () => {},
      },
      {
        id: 'siblings',
        group: 'Layers',
        title: 'Pick all beside it in its group',
        keys: ['A'],
        unless: noLayer,
        run: () => pickSiblings(session),
      },
      {
        id: 'alike-fill',
        group: 'Layers',
        title: 'Pick all with the same fill',
        unless: noLayer,
        run: () => pickAlike(session, 'fill'),
      },
      {
        id: 'alike-stroke',
        group: 'Layers',
        title: 'Pick all with the same stroke',
        unless: noLayer,
        run: () => pickAlike(session, 'stroke'),
      },
      {
        id: 'alike-size',
        group: 'Layers',
        title: 'Pick all of the same size',
        unless: noLayer,
        run: () => pickAlike(session, 'size'),
      },
      {
        id: 'outline',
        group: 'Layers',
        title: 'Text to outlines',
        unless: !layers.some((layer) => layer.tag === 'text') && 'No text is selected',
        run: () => outline(layers),
      },
      { id: 'colours', group: 'Layers', title: 'Change a colour everywhere…', run: () => set({ sheet: 'colours' }) },
    ];
    const making: Command[] = [
      {
        id: 'slices',
        group: 'Pieces',
        title: 'A slice of each selected layer',
        keys: ['S'],
        unless: noLayer,
        run: () => sliceEach(session),
      },
      {
        id: 'page',
        group: 'Pieces',
        title: 'One page of the selected artboards',
        unless: artboards.length < 2 && 'Two artboards or more have to be selected',
        run: act(() => pageOfArtboards(session)),
      },
      { id: 'everything', group: 'Pieces', title: 'A slice of everything', run: act(() => everythingSliced(session)) },
      { id: 'trim', group: 'Pieces', title: 'Trim to artwork', unless: noArtboard, run: fit('trim') },
      {
        id: 'centre',
        group: 'Pieces',
        title: 'Centre artwork on its artboard',
        unless: noArtboard,
        run: fit('centre'),
      },
      { id: 'whole', group: 'Pieces', title: 'Whole pixels', unless: noArtboard, run: fit('whole') },
      {
        id: 'convert',
        group: 'Pieces',
        title: 'Slice to artboard, artboard to slice',
        unless: (size === 0 || layers.length > 0) && 'No piece is selected',
        run: act(() => convertSelected(session)),
      },
      {
        id: 'number-name',
        group: 'Pieces',
        title: 'Number the selected by name',
        unless: few,
        run: () => numberSelected(session, 'name'),
      },
      {
        id: 'number-place',
        group: 'Pieces',
        title: 'Number the selected by place',
        unless: few,
        run: () => numberSelected(session, 'place'),
      },
      {
        id: 'rows',
        group: 'Pieces',
        title: 'Lay out in rows…',
        unless: artboards.length < 2 && 'Two artboards or more have to be selected',
        run: () => set({ sheet: 'rows' }),
      },
      {
        id: 'rename-many',
        group: 'Pieces',
        title: 'Rename many…',
        unless: size < 2 && 'Two pieces or more have to be selected',
        run: () => set({ sheet: 'rename' }),
      },
      {
        id: 'tiles',
        group: 'Pieces',
        title: 'Cut into tiles…',
        unless: size !== 1 && 'One piece has to be selected',
        run: () => set({ sheet: 'tiles' }),
      },
      {
        id: 'variants',
        group: 'Pieces',
        title: 'Variants…',
        unless: noArtboard,
        run: () => set({ sheet: 'variants' }),
      },
      {
        id: 'lockups',
        group: 'Pieces',
        title: 'Lockups of an emblem and a wordmark…',
        unless: artboards.length !== 2 && 'Two artboards have to be selected',
        run: () => set({ sheet: 'lockups' }),
      },
      {
        id: 'editions',
        group: 'Pieces',
        title: 'Editions from a table or combinations…',
        unless: artboards.length !== 1 && 'One artboard has to be selected',
        run: () => set({ sheet: 'editions' }),
      },
      {
        id: 'pick-pieces',
        group: 'Pieces',
        title: 'Pick all artboards',
        keys: ['Ctrl+A'],
        run: () => session.select(session.doc.list('artboard').map((artboard) => artboard.id)),
      },
    ];
    return [...tools, ...see, ...arrange, ...layering, ...making];
  }, [session, tick, backdrop, wireframe, rulers, pixelGrid, pixels, set, tell, attempt, remove, outline, plane]);
  useCommands('bench', commands);
  return null;
}
