<script lang="ts">
  import { goto } from '$app/navigation';
  import BenchFrame from '$lib/bench/BenchFrame.svelte';
  import { queueOf, usual } from '$lib/bench/queue';
  import { session } from '$lib/session.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  const lots = createQuery(() => queueOf(session.site, usual));
  const wide = matchMedia('(min-width: 701px)').matches;
  $effect(() => {
    const first = lots.data?.cards.find((l) => l.state !== 'Signed');
    if (first && wide) void goto(`/bench/${first.number}`, { replaceState: true });
  });
</script>

<svelte:head><title>Bench · Mud Room</title></svelte:head>
<BenchFrame workTitle="Bench" part={wide ? 'work' : 'queue'}>
  <p class="empty">Take a lot from the queue.</p>
</BenchFrame>
