<script lang="ts">
  import { goto } from '$app/navigation';
  import { act, ask } from '$lib/api/client';
  import DoorQueue from '$lib/door/DoorQueue.svelte';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  const tallies = createQuery(() => ({
    queryKey: ['door', 'queue', session.site],
    queryFn: () => ask('/api/{site}/door/queue'),
  }));
  let order = $state('');
  let error = $state<unknown>();
  let part = $state<Part>('queue');
  $effect(() =>
    scanLine.use(async (text) => {
      const reading = await ask('/api/{site}/scan', { text });
      if (reading.arrival) {
        await goto(`/door/${reading.arrival}`);
        return { words: reading.words, tone: 'look' };
      }
      if (reading.order) {
        order = reading.order;
        part = 'work';
        return {
          words: `${reading.words} No arrival is planned for it.`,
          next: 'choose the door where the goods are',
          tone: 'look',
        };
      }
      return { words: reading.words, next: reading.problem?.next ?? 'scan an order or an arrival', tone: 'refused' };
    }),
  );
  async function open(door: number) {
    error = undefined;
    try {
      const made = await act('/api/{site}/door/open-on-the-spot', {
        orders: [order],
        planned: null,
        vehicle: 'truck',
        container: null,
        seal: null,
        plate: null,
        haulier: null,
        door,
        atOnce: true,
        number: null,
        notIso6346: false,
        unplanned: false,
      });
      await goto(`/door/${made.number}`);
    } catch (problem) {
      error = problem;
    }
  }
</script>

<svelte:head><title>Door · Mud Room</title></svelte:head>
<Frame queueTitle="At the doors" queueCount={tallies.data?.arrivals.length ?? 0} workTitle={order || 'Door'} bind:part>
  {#snippet queue()}<DoorQueue />{/snippet}
  {#snippet work()}
    <div class="pad open">
      {#if order}
        <h1>Open an arrival for <span class="c">{order}</span></h1>
        <p>What is open on the order for this site goes on it. At which door are the goods?</p>
        <div class="row">
          {#each tallies.data?.doors ?? [] as door (door.number)}
            <button class="button" disabled={!!door.standsThere} onclick={() => open(door.number)}
              >Door {door.number}{door.standsThere ? ` · ${door.standsThere}` : ''}</button
            >
          {/each}
          <button class="button" onclick={() => (order = '')}>Not this order</button>
        </div>
        <ProblemNote {error} />
      {:else}
        <h1>Choose a tally</h1>
        <p class="quiet">
          Take one from the queue, or scan an arrival, a container or an order. An order with no arrival planned opens
          one on the spot.
        </p>
      {/if}
    </div>
  {/snippet}
</Frame>

<style>
  .open {
    display: flex;
    flex-direction: column;
    gap: 12px;
  }
</style>
