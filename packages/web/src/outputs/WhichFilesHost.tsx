import { Suspense } from 'react';
import { Arriving } from '../ui/Arriving';
import { part } from '../ui/part';
import { useWhichFiles } from './which-files';

// It comes when it is first asked for.
const WhichFilesSheet = part(async () => (await import('./WhichFilesSheet')).WhichFilesSheet);

export function WhichFilesHost() {
  const { open } = useWhichFiles();
  return <Suspense fallback={<Arriving />}>{open && <WhichFilesSheet />}</Suspense>;
}
