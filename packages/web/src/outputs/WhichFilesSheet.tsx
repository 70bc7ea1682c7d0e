import { Sheet } from '../ui/Sheet';
import { WhichFiles } from './WhichFiles';
import { closeWhichFiles } from './which-files';

/** From any stage: which files the project makes. */
export function WhichFilesSheet() {
  return (
    <Sheet open onClose={closeWhichFiles} title="Files of this project">
      <WhichFiles onDone={closeWhichFiles} />
    </Sheet>
  );
}
