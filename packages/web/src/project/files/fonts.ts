import type { Change } from '@tolvik/core';
import { useMemo } from 'react';
import { upload } from '../../api/client';
import { FONT_FILES } from '../../painter/font-files';
import { useNotice } from '../../ui/notices';
import { useSession } from '../session/context';
import { type FontFamily, familiesOf } from './families';

/** Font families of the open project, and a way to add a font file to it. */
export function useFontFamilies(): { families: readonly FontFamily[]; add(file: File): Promise<void> } {
  const session = useSession();
  const tell = useNotice();
  const added = session.doc.list('font');
  const families = useMemo(() => familiesOf(added, FONT_FILES), [added]);
  const add = async (file: File) => {
    try {
      const answer = await session.comesOf(async () => {
        const added = await upload<{ version: number; change: Change | null }>(`/projects/${session.id}/fonts`, [file]);
        await session.takeIn(added);
        return added;
      });
      tell(answer.change ? `${file.name} was added; text can be set in it.` : `${file.name} is here already.`);
    } catch (error) {
      tell((error as Error).message, { bad: true });
    }
  };
  return { families, add };
}
