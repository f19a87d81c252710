<script lang="ts">
  /** Customers' returns as a queue beside one of them: those that somebody here is waited for come first. */
  import { ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import { counted, day } from '$lib/ui/format';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import type { Snippet } from 'svelte';
  let {
    current = '',
    workTitle,
    part = $bindable('work'),
    children,
    trail,
  }: { current?: string; workTitle: string; part?: Part; children: Snippet; trail?: Snippet } = $props();
  let at = $state(1);
  const returns = createQuery(() => ({
    queryKey: ['cage', 'returns', session.site, at],
    queryFn: () => ask('/api/{site}/cage/returns', { page: at }),
    placeholderData: keepPreviousData,
  }));
  const rows = $derived(returns.data?.rows ?? []);
  const pages = $derived(Math.max(1, Math.ceil((returns.data?.total ?? 0) / (returns.data?.pageSize ?? 1))));
</script>

<Frame
  queueTitle="Customer returns"
  queueCount={counted(returns.data?.total ?? 0, 'return')}
  {workTitle}
  bind:part
  {trail}
>
  {#snippet queue()}
    <p class="pad row"><a class="link" href="/bench">Bench</a> <a class="link" href="/cage">Holds</a></p>
    {#each rows as r, i (r.number)}
      <QueueCard
        href="/cage/returns/{r.number}"
        current={r.number === current}
        code={r.number}
        title={r.customer}
        why={r.waits}
        order={r.isDone ? 9 : i}
      >
        {#snippet mark()}
          {#if r.isDone}<Mark kind="done" word="done" />{:else if r.waitsForFinding}<Mark
              kind="inspect"
              word="to look at"
            />{/if}
        {/snippet}
        <span class="quiet">{r.goods} · {day(r.orderDate)}</span>
      </QueueCard>
    {:else}
      <p class="empty">
        No customer sends anything back. A return is an order of that kind, typed or imported; one that nobody announced
        is made at the door.
      </p>
    {/each}
    {#if pages > 1}
      <p class="pad row">
        <button class="button" disabled={at <= 1} onclick={() => (at -= 1)}>Before</button>
        <span class="quiet">{at} of {pages}</span>
        <button class="button" disabled={at >= pages} onclick={() => (at += 1)}>After</button>
      </p>
    {/if}
  {/snippet}
  {#snippet work()}{@render children()}{/snippet}
</Frame>

<style>
  .row {
    display: flex;
    gap: 12px;
    align-items: center;
  }
</style>
