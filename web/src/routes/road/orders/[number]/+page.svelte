<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { act, ask } from '$lib/api/client';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { day, number, when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const which = $derived(page.params['number'] ?? '');
  const order = createQuery(() => ({
    queryKey: ['road', 'order', which, session.site],
    queryFn: () => ask('/api/{site}/road/orders/{number}', { number: which }),
  }));
  let planned = $state('');
  let container = $state('');
  let error = $state<unknown>();
  async function make(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    try {
      const made = await act('/api/{site}/road/arrivals', {
        orders: [which],
        planned: planned ? `${planned}:00` : null,
        vehicle: container ? 'container' : 'truck',
        container: container || null,
        seal: null,
        plate: null,
        haulier: null,
        door: null,
        atOnce: false,
        number: null,
      });
      await goto(`/road/arrivals/${made.number}`);
    } catch (problem) {
      error = problem;
    }
  }
</script>

<svelte:head><title>{which} · Mud Room</title></svelte:head>
<RoadFrame workTitle={which}>
  {#if order.error}<div class="pad"><ProblemNote error={order.error} /></div>{/if}
  {#if order.data}
    <div class="head">
      <h1><span class="c">{order.data.number}</span> {order.data.vendor}</h1>
      <p class="quiet">
        ordered {day(order.data.orderDate)} · {order.data.contact ?? ''}
        <span class="c">{order.data.telephone ?? ''}</span>
      </p>
    </div>
    <table class="list">
      <thead
        ><tr
          ><th>Line</th><th>Item</th><th>Due</th><th class="number">Ordered</th><th class="number">Received</th><th
            class="number">Open</th
          >{#if session.may('SeePrices')}<th class="number">Price</th>{/if}</tr
        ></thead
      >
      <tbody>
        {#each order.data.lines as line (line.number)}
          {#each line.parts as part, i (part.due + i)}
            <tr>
              <td class="c">{i === 0 ? line.number : ''}</td>
              <td
                >{#if i === 0}<b>{line.itemName}</b> <span class="c quiet">{line.itemCode}</span>{/if}</td
              >
              <td>
                {#if part.open === 0}<Mark kind="done" word={part.closedShort ? 'closed short' : 'complete'} />
                {:else if part.state === 'Late'}<Mark kind="late" word="late {part.daysLate} d, {day(part.due)}" />
                {:else if part.state === 'DueToday'}<Mark kind="today" word="due today" />
                {:else}<Mark kind="ontime" word={day(part.due)} />{/if}
              </td>
              <td class="number">{number(part.ordered)} {line.unit}</td>
              <td class="number">{number(part.received)}</td>
              <td class="number">{number(part.open)}</td>
              {#if session.may('SeePrices')}<td class="number">{line.price ?? ''}</td>{/if}
            </tr>
          {/each}
        {/each}
      </tbody>
    </table>
    {#if order.data.state === 'Open' && session.may('PlanArrivals')}
      <form class="pad row" onsubmit={make}>
        <label class="field"
          ><span>Planned for</span><input type="datetime-local" name="planned" bind:value={planned} /></label
        >
        <label class="field"
          ><span>Container, if it is one</span><input name="container" bind:value={container} class="c" /></label
        >
        <button class="button go">Make an arrival of what is open</button>
      </form>
      <div class="pad"><ProblemNote {error} /></div>
    {/if}
  {/if}
  {#snippet trail()}
    <section class="trail-part">
      <h2>Receipts</h2>
      {#each order.data?.receipts ?? [] as r (r.number)}
        <p>
          <b class="c">{r.number}</b> delivery note {r.deliveryNote}<br /><span class="quiet"
            >{r.arrival}, {when(r.postedAt)}, {r.postedBy}</span
          >
        </p>
      {:else}
        <p class="quiet">Nothing was received yet.</p>
      {/each}
    </section>
  {/snippet}
</RoadFrame>

<style>
  form {
    align-items: flex-end;
  }
</style>
