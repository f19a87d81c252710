<script lang="ts">
  import { page } from '$app/state';
  import { session } from '$lib/session.svelte';
  const tabs: [string, string][] = [
    ['/road', 'Plan of the day'],
    ['/road/due', 'Due'],
    ['/road/received', 'Received'],
    ['/road/orders', 'Orders'],
    ['/road/roster', 'Roster'],
    ['/road/import', 'Import'],
  ];
  const here = $derived(
    page.url.pathname.startsWith('/road/orders')
      ? '/road/orders'
      : page.url.pathname.startsWith('/road/arrivals')
        ? '/road'
        : page.url.pathname,
  );
</script>

<nav class="tabs" aria-label="Views of Road">
  {#each tabs as [href, word] (href)}
    {#if (href !== '/road/import' || session.may('KeepOrders')) && (href !== '/road/roster' || session.may('PlanArrivals'))}
      <a {href} aria-current={href === here ? 'page' : undefined}>{word}</a>
    {/if}
  {/each}
</nav>
