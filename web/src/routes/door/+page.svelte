<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import { goto } from '$app/navigation';
  import { act, ask } from '$lib/api/client';
  import DoorQueue from '$lib/door/DoorQueue.svelte';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { day } from '$lib/ui/format';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  const tallies = createQuery(() => ({
    queryKey: ['door', 'queue', session.site],
    queryFn: () => ask('/api/{site}/door/queue'),
  }));
  let orders = $state<string[]>([]);
  let note = $state('');
  let vendor = $state('');
  const order = $derived(orders.join(', '));
  const open = createQuery(() => ({
    queryKey: ['road', 'door', 'open-orders', session.site, vendor],
    queryFn: () => ask('/api/{site}/door/open-orders', { vendor }),
    enabled: session.may('Tally'),
    placeholderData: keepPreviousData,
  }));
  let error = $state<unknown>();
  let part = $state<Part>('queue');
  $effect(() =>
    scanLine.use(async (text) => {
      const reading = await ask('/api/{site}/scan', { text });
      if (reading.arrival) {
        await goto(`/door/${reading.arrival}`);
        return { words: reading.words, tone: 'look' };
      }
      if (reading.kind === 'Outwork') {
        await goto(`/door/outwork?note=${encodeURIComponent(reading.code)}`);
        return { words: reading.words, next: 'type how many came back', tone: 'look' };
      }
      if (reading.order) {
        orders = [...new Set([...orders, reading.order])];
        part = 'work';
        return {
          words: `${reading.words} No arrival is planned for it.`,
          next: 'choose the door where the goods are',
          tone: 'look',
        };
      }
      if (reading.kind === 'Unknown' && reading.code.length <= 40 && !reading.code.startsWith('(')) {
        // Not known here: the number on a delivery note is the vendor's own.
        note = reading.code;
        part = 'work';
        return { words: `Delivery note ${reading.code}.`, next: 'choose the orders it names', tone: 'look' };
      }
      return { words: reading.words, next: reading.problem?.next ?? 'scan an order or an arrival', tone: 'refused' };
    }),
  );
  async function openAt(door: number) {
    error = undefined;
    try {
      const made = await act('/api/{site}/door/open-on-the-spot', {
        orders,
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
        deliveryNote: note,
      });
      await goto(`/door/${made.number}`);
    } catch (problem) {
      error = problem;
    }
  }
</script>

<svelte:head><title>Door · Mud Room</title></svelte:head>
<Frame queueTitle="At the doors" queueCount={tallies.data?.arrivals.length ?? 0} workTitle={order || 'Door'} bind:part>
  {#snippet queue()}<DoorQueue />
    <p class="pad row">
      <a class="link" href="/door/outwork">Outwork</a> <a class="link" href="/door/prints">Labels printed</a>
    </p>{/snippet}
  {#snippet work()}
    <div class="pad open">
      {#if order}
        <h1>Open an arrival for <span class="c">{order}</span></h1>
        <p>What is open on the order for this site goes on it. At which door are the goods?</p>
        <div class="row">
          {#each tallies.data?.doors ?? [] as door (door.number)}
            <button class="button" disabled={!!door.standsThere} onclick={() => openAt(door.number)}
              >Door {door.number}{door.standsThere ? ` · ${door.standsThere}` : ''}</button
            >
          {/each}
          <button class="button" onclick={() => (orders = [])}
            >{orders.length === 1 ? 'Not this order' : 'Not these orders'}</button
          >
        </div>
        <ProblemNote {error} />
      {:else}
        <h1>Choose a tally</h1>
        <p class="quiet">
          Take one from the queue, or scan an arrival, a container, an order or a delivery note. What no arrival is
          planned for opens one on the spot.
        </p>
      {/if}
      {#if session.may('Tally')}
        {#if note}<p>
            Delivery note <b class="c">{note}</b> <button class="link" onclick={() => (note = '')}>Not this one</button>
          </p>{/if}
        <h2>Open orders without an arrival</h2>
        <Field label="Vendor"
          ><input name="vendor" bind:value={vendor} autocomplete="off" placeholder="a part of the name" /></Field
        >
        {#each open.data ?? [] as v (v.code)}
          <fieldset>
            <legend><b>{v.vendor}</b></legend>
            <div class="row">
              {#each v.orders as o (o.number)}
                <label class="choice"
                  ><input type="checkbox" value={o.number} bind:group={orders} />
                  <span class="c">{o.number}</span>
                  <span class="quiet">{o.lines} {o.lines === 1 ? 'line' : 'lines'}, first on {day(o.due)}</span></label
                >
              {/each}
            </div>
          </fieldset>
        {:else}<p class="quiet">
            {open.isPending ? 'One moment.' : 'No vendor of that name has anything open that is on no arrival.'}
          </p>{/each}
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
  .choice {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    min-height: 44px;
  }
  fieldset {
    border-top: 1px solid var(--stone-2);
    padding: 4px 0;
  }
  legend {
    padding-right: 8px;
  }
</style>
