<script lang="ts">
  import { goto } from '$app/navigation';
  import { ask } from '$lib/api/client';
  import BenchFrame from '$lib/bench/BenchFrame.svelte';
  import { session } from '$lib/session.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  const lots = createQuery(() => ({
    queryKey: ['bench', 'queue', session.site],
    queryFn: () => ask('/api/{site}/bench/queue'),
  }));
  const wide = matchMedia('(min-width: 701px)').matches;
  $effect(() => {
    const first = lots.data?.find((l) => l.state !== 'Signed');
    if (first && wide) void goto(`/bench/${first.number}`, { replaceState: true });
  });
</script>

<svelte:head><title>Bench · Mud Room</title></svelte:head>
<BenchFrame workTitle="Bench" part={wide ? 'work' : 'queue'}>
  <p class="empty">Take a lot from the queue.</p>
</BenchFrame>
