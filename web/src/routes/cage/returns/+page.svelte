<script lang="ts">
  /** Customers' returns; where there is room for it, with the first that somebody here is waited for. */
  import { goto } from '$app/navigation';
  import { ask } from '$lib/api/client';
  import ReturnsFrame from '$lib/cage/ReturnsFrame.svelte';
  import { session } from '$lib/session.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  const wide = matchMedia('(min-width: 701px)').matches;
  const returns = createQuery(() => ({
    queryKey: ['cage', 'returns', session.site, 1],
    queryFn: () => ask('/api/{site}/cage/returns', { page: 1 }),
  }));
  const first = $derived(returns.data?.rows[0]);
  $effect(() => {
    if (wide && first) void goto(`/cage/returns/${encodeURIComponent(first.number)}`, { replaceState: true });
  });
</script>

<svelte:head><title>Customer returns · Cage · Mud Room</title></svelte:head>
<ReturnsFrame workTitle="Returns" part={wide ? 'work' : 'queue'}>
  <p class="empty">{returns.data && !first ? 'Nothing is to be looked at.' : 'Take a return from the list.'}</p>
</ReturnsFrame>
