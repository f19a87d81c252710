<script lang="ts">
  /** On a page that somebody may only look at: who may change it. */
  import { ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  const site = createQuery(() => ({ queryKey: ['site', session.site], queryFn: () => ask('/api/{site}/site') }));
  const names = $derived((site.data?.people ?? []).filter((p) => p.roles.includes('Administrator')).map((p) => p.name));
</script>

{#if !session.may('SetUp')}
  <p class="quiet who">
    You can look at this{names.length > 0
      ? `; ${names.join(', ')} ${names.length === 1 ? 'changes' : 'change'} it`
      : ''}.
    <a class="link" href="/site">Back to the set-up</a>
  </p>
{/if}

<style>
  .who {
    grid-column: 1/-1;
  }
</style>
