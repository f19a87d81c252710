/** Answers that are put into what a page shows, without asking for all of it again. */
import type { QueryClient, QueryKey } from '@tanstack/svelte-query';

/**
 * Puts an answer into what is shown. Where the whole is on its way already, it may have been read before the act and would take the
 * answer off the page again: then it is asked for anew.
 */
export async function place<T>(client: QueryClient, queryKey: QueryKey, change: (old: T) => T): Promise<void> {
  const onItsWay = client.isFetching({ queryKey, exact: true }) > 0;
  client.setQueryData<T>(queryKey, (old) => (old === undefined ? old : change(old)));
  if (onItsWay) await client.refetchQueries({ queryKey, exact: true });
}
