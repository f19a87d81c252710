<script lang="ts">
  /** The queue of Door: the arrivals that stand at doors. */
  import { ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import LoadBar from '$lib/ui/LoadBar.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import { plural, time } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  let { current = '' }: { current?: string } = $props();
  const queue = createQuery(() => ({
    queryKey: ['door', 'queue', session.site],
    queryFn: () => ask('/api/{site}/door/queue'),
  }));
  /** Where goods are counted blind, a card has no lines: nothing of it tells what is expected. */
  const isBlind = (a: { lines: number }) => a.lines === 0;
</script>

{#each queue.data?.arrivals ?? [] as a, i (a.number)}
  <QueueCard
    href="/door/{a.number}"
    current={a.number === current}
    code={a.number}
    title={a.vendors.join(', ')}
    why={isBlind(a)
      ? `At the door since ${time(a.atDoorSince)}.`
      : a.notches.length > 0
        ? `${a.notches.length} ${plural('difference', a.notches.length)} found, ${a.settled} of ${a.lines} lines complete.`
        : `At the door since ${time(a.atDoorSince)}, ${a.settled} of ${a.lines} lines complete.`}
    order={i}
  >
    {#snippet mark()}<b>Door {a.door}</b>{#if a.questions > 0}<Mark
          kind="open"
          word="{a.questions} {plural('question', a.questions)}"
        />{/if}{/snippet}
    {#if !isBlind(a)}<LoadBar
        share={a.share}
        notches={a.notches}
        ribbed={a.vehicle === 'container'}
        label="{Math.round(a.share * 100)} % counted"
      />{/if}
  </QueueCard>
{:else}
  <p class="empty">No vehicle stands at a door. Bring one from Road or Yard, or scan an order here.</p>
{/each}
