<script lang="ts">
  import { goto } from '$app/navigation';
  import { ask } from '$lib/api/client';
  import PlansFrame from '$lib/bench/PlansFrame.svelte';
  import { session } from '$lib/session.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  const plans = createQuery(() => ({
    queryKey: ['bench', 'plans', session.site],
    queryFn: () => ask('/api/{site}/bench/plans'),
  }));
  const wide = matchMedia('(min-width: 701px)').matches;
  $effect(() => {
    const first = plans.data?.[0];
    if (first && wide) void goto(`/bench/plans/${first.id}`, { replaceState: true });
  });
</script>

<svelte:head><title>Inspection plans · Bench · Mud Room</title></svelte:head>
<PlansFrame workTitle="Plan" part={wide ? 'work' : 'queue'}>
  <p class="empty">Take a plan from the list.</p>
</PlansFrame>
