<script lang="ts">
  /** Road's frame: its queue is the arrivals that are not counted in yet. */
  import { ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import LoadBar from '$lib/ui/LoadBar.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  import type { Snippet } from 'svelte';
  import RoadTabs from './RoadTabs.svelte';
  let {
    current = '',
    workTitle,
    part = $bindable('work'),
    children,
    trail,
  }: { current?: string; workTitle: string; part?: Part; children: Snippet; trail?: Snippet } = $props();
  const board = createQuery(() => ({
    queryKey: ['road', 'board', session.site],
    queryFn: () => ask('/api/{site}/road/board'),
  }));
  const calls = createQuery(() => ({
    queryKey: ['road', 'calls', session.site],
    queryFn: () => ask('/api/{site}/road/calls'),
  }));
  const open = $derived((board.data?.arrivals ?? []).filter((a) => a.state === 'Expected' || a.state === 'InYard'));
  // What stands in trouble first, then the calls to make, then what comes as planned.
  const first = $derived(open.filter((a) => a.rank <= 2));
  const rest = $derived(open.filter((a) => a.rank > 2));
  const toCall = $derived((calls.data ?? []).slice(0, 12));
</script>

<Frame
  queueTitle="Needs you on the road"
  queueCount={first.length + toCall.length + rest.length}
  {workTitle}
  bind:part
  {trail}
>
  {#snippet queue()}
    {#each first as a, i (a.number)}{@render card(a, i)}{/each}
    {#each toCall as c, i (c.order)}
      <QueueCard
        href="/road/orders/{c.order}"
        current={c.order === current}
        code={c.order}
        title={c.vendor}
        why="{c.why} {c.contact ? `Call ${c.contact}${c.telephone ? `, ${c.telephone}` : ''}.` : ''}"
        order={first.length + i}
      >
        {#snippet mark()}
          {#if c.state === 'Late'}<Mark kind="late" word="late {c.daysLate} d" />{:else}<Mark
              kind="falls"
              word="falls late"
            />{/if}
        {/snippet}
      </QueueCard>
    {/each}
    {#each rest as a, i (a.number)}{@render card(a, first.length + toCall.length + i)}{/each}
    {#if open.length + toCall.length === 0}
      <p class="empty">Nothing is on its way. Arrivals stand here once they are made from orders.</p>
    {/if}
    {#snippet card(a: (typeof open)[number], i: number)}
      <QueueCard
        href="/road/arrivals/{a.number}"
        current={a.number === current}
        code={a.number}
        title={a.vendors.join(', ')}
        why={a.why}
        order={i}
      >
        {#snippet mark()}
          {#if a.state === 'InYard'}<Mark kind="open" word="in the yard" />
          {:else if a.rank === 0}<Mark kind="late" word="late" />
          {:else if a.minutesLate > 0}<Mark kind="falls" word="falls late" />{/if}
        {/snippet}
        <LoadBar
          share={a.share}
          notches={a.notches}
          open={false}
          ribbed={a.vehicle === 'container'}
          label="{a.lines} lines, nothing counted"
        />
      </QueueCard>
    {/snippet}
  {/snippet}
  {#snippet work()}
    <div class="top"><RoadTabs /></div>
    {@render children()}
  {/snippet}
</Frame>

<style>
  .top {
    padding: 8px 12px 0;
    border-bottom: 1px solid var(--stone-2);
  }
</style>
