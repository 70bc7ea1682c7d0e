import { get, set } from 'idb-keyval';
import { create } from 'zustand';
import type { Report } from '../../api/types';

/** What came of bringing files in once: `at` in ms since 1970. */
export type Arrival = { at: number; report: Report };

const MOST_KEPT = 20;
const MOST_LINES = 2000;

const keyOf = (projectId: string) => `arrivals ${projectId}`;

/** Whether the list is shown, and how often something came since the page was loaded. */
export const useArrivals = create<{ open: boolean; count: number }>(() => ({ open: false, count: 0 }));
export const showArrivals = (open: boolean) => useArrivals.setState({ open });

/** What came of bringing in, kept in this browser, the newest first. Nothing where it keeps nothing. */
export const arrivalsOf = async (projectId: string): Promise<readonly Arrival[]> =>
  (await get<Arrival[]>(keyOf(projectId)).catch(() => undefined)) ?? [];

export async function keepArrival(projectId: string, report: Report): Promise<void> {
  const before = await arrivalsOf(projectId);
  const arrival: Arrival = { at: Date.now(), report: report.slice(0, MOST_LINES) };
  await set(keyOf(projectId), [arrival, ...before].slice(0, MOST_KEPT)).catch(() => {});
  useArrivals.setState(({ count }) => ({ count: count + 1 }));
}
