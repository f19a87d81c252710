<script lang="ts">
  /** Who counted how much of a tally. */
  import { ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import { plural, time } from '$lib/ui/format';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  let { arrival, changed }: { arrival: string; changed: string } = $props();
  const rows = createQuery(() => ({
    queryKey: ['door', 'counted-by', session.site, arrival, changed],
    queryFn: () => ask('/api/{site}/door/counted-by', { arrival }),
    placeholderData: keepPreviousData,
  }));
</script>

<ul>
  {#each rows.data ?? [] as r (r.person)}
    <li>
      <b class="grow">{r.person}</b>
      <span
        >{r.counts}
        {plural('count', r.counts)}{r.aside ? `, ${r.aside} aside` : ''}{r.takenBack
          ? `, ${r.takenBack} taken back`
          : ''}</span
      >
      <span class="c quiet">{time(r.first)}–{time(r.last)}</span>
    </li>
  {/each}
</ul>

<style>
  ul {
    display: flex;
    flex-direction: column;
    gap: 4px;
  }
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 8px;
    justify-content: space-between;
  }
  b {
    flex-basis: 100%;
  }
</style>
