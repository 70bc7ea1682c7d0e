import { useCallback, useRef } from 'react';
import { Link } from 'react-router';
import { HelpButton } from '../commands/HelpButton';
import { useBringIn } from '../project/bring-in/bring-in';
import { Button } from '../ui/controls';
import { Hint } from '../ui/Hint';
import { Mark } from '../ui/Mark';
import { BringInProgress } from './BringInProgress';
import { ExportAction } from './ExportAction';
import { ProjectName, SavedWords } from './ProjectName';
import { Stages } from './Stages';
import type { Stage } from './stage';

/** The stages with what stands in each, whether all is saved, and the one main action with its size. */
export function ProjectHeader({ stages }: { stages: readonly Stage[] }) {
  const picker = useRef<HTMLInputElement>(null);
  const { bringIn, busy } = useBringIn();
  const pick = useCallback(() => picker.current?.click(), []);
  return (
    <header className="flex h-[52px] flex-none items-stretch border-line border-b bg-paper">
      <div className="flex w-[272px] min-w-0 items-center gap-2.5 px-4 max-[900px]:w-auto max-[900px]:min-w-[96px] max-[900px]:flex-1 max-[900px]:gap-2 max-[900px]:px-2">
        <Hint text="To the shelf">
          <Link to="/" aria-label="To the shelf" className="rounded-sm">
            <Mark />
          </Link>
        </Hint>
        <div className="min-w-0 flex-1">
          <ProjectName />
          <SavedWords />
        </div>
      </div>
      <Stages stages={stages} />
      <div className="flex w-[272px] items-center justify-end gap-2 px-4 max-[900px]:w-auto max-[900px]:gap-1 max-[900px]:px-2">
        <HelpButton />
        {busy ? <BringInProgress /> : <Button onClick={pick}>Bring in…</Button>}
        <input
          ref={picker}
          type="file"
          multiple
          hidden
          data-testid="bring-in"
          accept=".svg,.png,.jpg,.jpeg,.webp,.zip"
          onChange={(event) => {
            void bringIn([...(event.target.files ?? [])]);
            event.target.value = '';
          }}
        />
        <ExportAction stages={stages} onBringIn={pick} />
      </div>
    </header>
  );
}
