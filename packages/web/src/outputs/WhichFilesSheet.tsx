import { Sheet } from '../ui/Sheet';
import { WhichFiles } from './WhichFiles';
import { closeWhichFiles, useWhichFiles } from './which-files';

/** From any stage: which files the project makes. */
export function WhichFilesSheet() {
  const { words } = useWhichFiles();
  return (
    <Sheet open onClose={closeWhichFiles} title="Files of this project">
      <WhichFiles begin={words} onDone={closeWhichFiles} />
    </Sheet>
  );
}
