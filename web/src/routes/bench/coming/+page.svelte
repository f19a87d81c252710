<script lang="ts">
  import { goto } from '$app/navigation';
  import { ask } from '$lib/api/client';
  import ComingFrame from '$lib/bench/ComingFrame.svelte';
  import { session } from '$lib/session.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  const followed = createQuery(() => ({
    queryKey: ['bench', 'coming', session.site],
    queryFn: () => ask('/api/{site}/bench/coming'),
  }));
  const wide = matchMedia('(min-width: 701px)').matches;
  $effect(() => {
    const first = followed.data?.[0];
    if (first && wide)
      void goto(`/bench/coming/${first.planId}/${first.itemId}/${first.vendorId}/${first.characteristic}`, {
        replaceState: true,
      });
  });
</script>

<svelte:head><title>Seen coming · Bench · Mud Room</title></svelte:head>
<ComingFrame workTitle="Seen coming" part={wide ? 'work' : 'queue'}>
  <p class="empty">Take a characteristic from the list.</p>
</ComingFrame>
