import type { QueryClient, QueryKey } from '@tanstack/react-query';

/**
 * Asks anew for what was told to be other than it was. An answer that is on its way may be from before that, and a first
 * one would be waited for and kept: it is given up.
 */
export async function askAnew(queries: QueryClient, queryKey: QueryKey): Promise<void> {
  await queries.cancelQueries({ queryKey });
  await queries.invalidateQueries({ queryKey });
}
