import { useNavigate } from 'react-router';
import { useExport } from '../../project/files/use-export';
import { planOf, useSession } from '../../project/session/context';
import type { MenuMeans } from './menus';

/** What menus of rows, columns and cells need around them. */
export function useMenuMeans(
  open: (pieceId: string, outputId: string) => void,
  rename: (pieceId: string) => void,
  edit: (outputId: string) => void,
): MenuMeans {
  const session = useSession();
  const plan = planOf(session);
  const exportSome = useExport();
  const navigate = useNavigate();
  return {
    session,
    exportSome: (some) => void exportSome(some),
    open,
    rename,
    edit,
    showOnBench(pieceId) {
      session.select([pieceId]);
      void navigate(`/projects/${session.id}/bench`);
    },
    filesOf: ({ pieceId, outputId }) =>
      plan.files.filter((file) => (pieceId ? file.pieceId === pieceId : file.outputId === outputId)).length,
  };
}
