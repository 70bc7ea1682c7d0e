import { Suspense } from 'react';
import { Arriving } from '../../ui/Arriving';
import { part } from '../../ui/part';
import { useArrivals } from './arrivals';
import { useBringingIn } from './bring-in';

// Each comes when it is first asked.
const BringInQuestion = part(async () => (await import('./BringInQuestion')).BringInQuestion);
const ArrivalsSheet = part(async () => (await import('./ArrivalsSheet')).ArrivalsSheet);
const ReplaceQuestion = part(async () => (await import('./ReplaceQuestion')).ReplaceQuestion);

/** What is asked before files come in. */
export function BringInQuestions() {
  const { open } = useArrivals();
  const { asked, settling } = useBringingIn();
  return (
    <Suspense fallback={<Arriving />}>
      {asked && <BringInQuestion {...asked} />}
      {open && <ArrivalsSheet />}
      {settling && <ReplaceQuestion {...settling} />}
    </Suspense>
  );
}
