import { ask } from '$lib/api/client';

/** Lots of the queue that are shown before somebody asks for more. */
export const usual = 60;

/** The queue of the bench: its first lots, and what was signed since yesterday. */
export const queueOf = (site: string | undefined, most: number) => ({
  queryKey: ['bench', 'queue', site, most],
  queryFn: () => ask('/api/{site}/bench/queue', { most }),
});
