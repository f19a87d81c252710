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
  const open = $derived((board.data?.arrivals ?? []).filter((a) => a.state === 'Expected' || a.state === 'InYard'));
</script>

<Frame queueTitle="Needs you on the road" queueCount={open.length} {workTitle} bind:part {trail}>
  {#snippet queue()}
    {#each open as a, i (a.number)}
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
    {:else}
      <p class="empty">Nothing is on its way. Arrivals stand here once they are made from orders.</p>
    {/each}
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
