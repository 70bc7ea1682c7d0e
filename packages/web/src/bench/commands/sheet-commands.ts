import type { Command } from '../../commands/commands';
import { planOf } from '../../project/session/context';
import type { Session } from '../../project/session/session';
import { selectedArtboards } from '../act';
import { useBench } from '../bench-state';

type SheetName = NonNullable<ReturnType<typeof useBench.getState>['sheet']>;

/** What asks for more before it is done, in a sheet of its own. */
export function sheetCommands(session: Session): Command[] {
  const artboards = selectedArtboards(session).length;
  const { size } = session.selection;
  const opens = (id: SheetName, title: string, unless: string | false): Command => ({
    id,
    group: 'Pieces',
    title,
    unless,
    run: () => useBench.getState().set({ sheet: id }),
  });
  return [
    opens('rows', 'Lay out in rows…', artboards < 2 && 'Two artboards or more have to be selected'),
    opens('groups', 'An artboard for each group in it…', artboards === 0 && 'No artboard is selected'),
    opens('piece-rules', 'Pieces by rule…', false),
    opens('rename', 'Names side by side…', planOf(session).pieces.length === 0 && 'There are no pieces yet'),
    opens('tiles', 'Cut into tiles…', size !== 1 && 'One piece has to be selected'),
    opens('variants', 'Variants…', artboards === 0 && 'No artboard is selected'),
    opens('lockups', 'Lockups of an emblem and a wordmark…', artboards !== 2 && 'Two artboards have to be selected'),
    opens('editions', 'Editions from a table or combinations…', artboards !== 1 && 'One artboard has to be selected'),
  ];
}
