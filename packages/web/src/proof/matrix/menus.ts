import { acts, FORMAT_LIST, FORMATS, type Output, outputTitle, type Piece } from '@tolvik/core';
import type { MenuGroups, MenuItem } from '../../commands/menu';
import type { Exported } from '../../project/files/use-export';
import { doAct, plainIntent } from '../../project/session/act';
import type { Session } from '../../project/session/session';

/** What the menus of the Proof need beside the project. */
export type MenuMeans = {
  session: Session;
  exportSome(some: Exported): void;
  open(pieceId: string, outputId: string): void;
  rename(pieceId: string): void;
  edit(outputId: string): void;
  showOnBench(pieceId: string): void;
  /** Files that a piece or an output becomes. */
  filesOf(by: { pieceId?: string; outputId?: string }): number;
};

const item = (id: string, title: string, run: () => void, unless: string | false = false): MenuItem => ({
  id,
  title,
  run,
  unless,
});
const files = (n: number) => (n === 1 ? 'its file' : `its ${n.toLocaleString('en')} files`);

function ofPiece(means: MenuMeans, piece: Piece): MenuItem[] {
  const { session, exportSome, filesOf } = means;
  const made = filesOf({ pieceId: piece.id });
  return [
    item('piece-on', piece.on ? 'Make no files of the piece' : 'Make files of the piece', () =>
      doAct(session, acts.switchPieces, plainIntent([piece.id]), { on: !piece.on }),
    ),
    item('rename', 'Rename', () => means.rename(piece.id)),
    item('export-piece', `Export ${files(made)}`, () => exportSome({ pieceIds: [piece.id] }), made === 0 && 'None'),
    item('on-bench', 'Show on the Bench', () => means.showOnBench(piece.id)),
  ];
}

/** A whole column. */
export function outputMenu(means: MenuMeans, output: Output): MenuGroups {
  const { session, exportSome, filesOf } = means;
  const made = filesOf({ outputId: output.id });
  const does = plainIntent([]);
  const named = outputTitle(output);
  return [
    [
      item('change', `Change ${named}…`, () => means.edit(output.id)),
      item('output-on', output.on ? 'Make none of these files' : 'Make these files', () =>
        doAct(session, acts.setOutput, does, { outputId: output.id, on: !output.on }),
      ),
      item(
        'export-output',
        `Export ${files(made)}`,
        () => exportSome({ outputIds: [output.id] }),
        made === 0 && 'None',
      ),
    ],
    FORMAT_LIST.filter((format) => format !== output.settings.format).map((format) =>
      item(`as-${format}`, `Also as ${FORMATS[format].title}`, () =>
        doAct(session, acts.varyOutput, does, { outputId: output.id, formats: [format] }),
      ),
    ),
    [
      item('duplicate', 'Duplicate', () => doAct(session, acts.duplicateOutput, does, { outputId: output.id })),
      item('left', 'Move left', () => doAct(session, acts.shiftOutput, does, { outputId: output.id, to: 'left' })),
      item('right', 'Move right', () => doAct(session, acts.shiftOutput, does, { outputId: output.id, to: 'right' })),
      item('remove', 'Remove', () => doAct(session, acts.removeOutput, does, { outputId: output.id })),
    ],
  ];
}

/** One cell with its piece, or a piece alone; `made` says whether there is a file in it. */
export function pieceMenu(means: MenuMeans, piece: Piece, cell: { output: Output; made: boolean } | null): MenuGroups {
  if (!cell) return [ofPiece(means, piece)];
  const { output, made } = cell;
  const { session, exportSome } = means;
  const follows = piece.specIds.includes(output.specId);
  return [
    [
      item('open', 'See the file large', () => means.open(piece.id, output.id), !made && 'It is not made'),
      item(
        'switch',
        made ? 'Leave this file out' : follows ? 'Make this file' : 'Make this file, and nothing else of its spec',
        () =>
          doAct(session, acts.switchFiles, plainIntent([piece.id]), {
            on: !made,
            outputIds: [output.id],
            alone: true,
          }),
      ),
      item(
        'export-cell',
        'Export this file',
        () => exportSome({ pieceIds: [piece.id], outputIds: [output.id] }),
        !made && 'It is not made',
      ),
    ],
    ofPiece(means, piece),
    [item('change', 'Change the output…', () => means.edit(output.id))],
  ];
}
