import { ask } from '$lib/api/client';
/** What needs who is signed in; asked anew when a hold or the bench changes, and once a minute. */
export const noticesOf = (site: string) => ({
  queryKey: ['notices', 'cage', 'bench', site],
  queryFn: () => ask('/api/{site}/notices'),
  refetchInterval: 60_000,
});
