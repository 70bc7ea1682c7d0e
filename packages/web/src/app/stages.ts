import { useBenchStanding } from '../bench/standing';
import { useDeliveriesStanding } from '../deliveries/standing';
import type { Stage } from '../header/stage';
import { useProofStanding } from '../proof/standing';
import { part } from '../ui/part';

/** The stages in the order of their tabs. To add one: its page, what stands in it, and an entry here. */
export const STAGES: readonly Stage[] = [
  {
    route: 'bench',
    title: 'Bench',
    keys: 'Alt+1',
    useStanding: useBenchStanding,
    Page: part(async () => (await import('../bench/BenchPage')).BenchPage),
  },
  {
    route: 'proof',
    title: 'Proof',
    keys: 'Alt+2',
    useStanding: useProofStanding,
    Page: part(async () => (await import('../proof/ProofPage')).ProofPage),
  },
  {
    route: 'deliveries',
    title: 'Deliveries',
    keys: 'Alt+3',
    useStanding: useDeliveriesStanding,
    Page: part(async () => (await import('../deliveries/DeliveriesPage')).DeliveriesPage),
    inside: [':deliveryId'],
  },
];
