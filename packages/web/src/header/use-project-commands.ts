import { pieceRecord } from '@tolvik/core';
import { useMemo } from 'react';
import { useNavigate } from 'react-router';
import { aboutCommands } from '../commands/about';
import { type Command, showCommands, useCommands } from '../commands/commands';
import { askWhichFiles } from '../outputs/which-files';
import { showArrivals } from '../project/bring-in/arrivals';
import { useExport } from '../project/files/use-export';
import { useOpenSession, useSessionPart } from '../project/session/context';
import { refusedEdits } from '../project/session/pending-edits';
import { useNotice } from '../ui/notices';
import { saveJson } from '../ui/save-file';
import { count } from '../ui/words';
import type { Stage } from './stage';

/** Hands over what could not be saved, as a JSON file; answers whether there was anything. */
async function saveRefused(projectId: string): Promise<boolean> {
  const refused = await refusedEdits(projectId);
  if (refused.length === 0) return false;
  saveJson('changes that could not be saved.json', refused);
  return true;
}

/** What can be done in every stage, by name and key, with the files of all pieces and of those selected; `noExport` says why there can be no export now. */
export function useProjectCommands(
  stages: readonly Stage[],
  { files, ofSelected }: { files: number; ofSelected: number },
  noExport: string,
  onBringIn: () => void,
): void {
  const session = useOpenSession();
  const navigate = useNavigate();
  const start = useExport();
  const tell = useNotice();
  const [undoLabel, redoLabel] = [useSessionPart('undoLabel'), useSessionPart('redoLabel')];
  const commands = useMemo((): Command[] => {
    const { id } = session;
    const toStages = stages.map(
      ({ route, title, keys }): Command => ({
        id: route,
        group: 'Go',
        title: `To the ${title}`,
        keys: [keys],
        run: () => navigate(`/projects/${id}/${route}`),
      }),
    );
    return [
      ...toStages,
      { id: 'shelf', group: 'Go', title: 'To the shelf', run: () => navigate('/') },
      { id: 'commands', group: 'Go', title: 'Every command by name', keys: ['Ctrl+K'], listed: true, run: () => {} },
      { id: 'shortcuts', group: 'Go', title: 'All keys', keys: ['?'], run: () => showCommands('shortcuts') },
      {
        id: 'undo',
        group: 'Project',
        title: undoLabel ? `Undo: ${undoLabel}` : 'Undo',
        keys: ['Ctrl+Z'],
        unless: !undoLabel && 'There is nothing to undo',
        run: () => session.undo(),
      },
      {
        id: 'redo',
        group: 'Project',
        title: redoLabel ? `Redo: ${redoLabel}` : 'Redo',
        keys: ['Ctrl+Shift+Z', 'Ctrl+Y'],
        unless: !redoLabel && 'There is nothing to redo',
        run: () => session.redo(),
      },
      { id: 'bring-in', group: 'Project', title: 'Bring in files…', run: onBringIn },
      { id: 'arrivals', group: 'Project', title: 'What came in…', run: () => showArrivals(true) },
      { id: 'which-files', group: 'Files', title: 'Which files…', keys: ['O'], run: askWhichFiles },
      {
        id: 'save-file',
        group: 'Project',
        title: 'Save as a project file',
        run: () => void (window.location.href = `/api/projects/${id}/project.svg`),
      },
      {
        id: 'refused',
        group: 'Project',
        title: 'Changes that could not be saved',
        run: () => void saveRefused(id).then((some) => some || tell('Everything could be saved so far.')),
      },
      {
        id: 'export',
        group: 'Project',
        title: `Export ${count(files, 'file')}`,
        keys: ['Ctrl+Enter'],
        unless: noExport,
        run: () => void start(),
      },
      {
        id: 'export-selected',
        group: 'Project',
        title:
          ofSelected === 0
            ? 'Export only what is selected'
            : `Export only the ${count(ofSelected, 'file')} of what is selected`,
        keys: ['Ctrl+Shift+Enter'],
        unless: ofSelected === 0 ? 'No piece that becomes files is selected' : noExport,
        run: () => void start({ pieceIds: [...session.selection].filter((id) => pieceRecord(session.doc, id)) }),
      },
      ...aboutCommands(tell),
    ];
  }, [session, stages, navigate, undoLabel, redoLabel, files, ofSelected, noExport, start, onBringIn, tell]);
  useCommands('project', commands);
}
