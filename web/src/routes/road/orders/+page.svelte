<script lang="ts">
  import { ask } from '$lib/api/client';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import { session } from '$lib/session.svelte';
  import ColumnChoice from '$lib/ui/ColumnChoice.svelte';
  import { Columns } from '$lib/ui/columns.svelte';
  import { day } from '$lib/ui/format';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { cards } from '$lib/ui/cards';
  let text = $state('');
  let kind = $state('');
  let only = $state('');
  let sort = $state('');
  let page = $state(1);
  const columns = new Columns('orders', [
    ['vendor', 'Vendor'],
    ['kind', 'Kind'],
    ['state', 'State'],
    ['lines', 'Lines'],
    ['due', 'Next due'],
    ['ordered', 'Ordered'],
  ]);
  const question = $derived({ text, kind, state: only, sort });
  const orders = createQuery(() => ({
    queryKey: ['road', 'orders', session.site, question, page],
    queryFn: () => ask('/api/{site}/road/orders', { ...question, page }),
    placeholderData: keepPreviousData,
  }));
  const file = $derived(
    `/api/${session.site}/road/orders.csv?${new URLSearchParams(Object.entries(question).filter(([, value]) => value))}`,
  );
  const kinds: Record<string, string> = {
    Purchase: 'purchase',
    Transfer: 'transfer',
    CustomerReturn: 'customer return',
  };
  const words: Record<string, string> = {
    Draft: 'draft',
    Open: 'open for receiving',
    PartlyReceived: 'partly received',
    Complete: 'complete',
    ClosedShort: 'closed short',
    Cancelled: 'cancelled',
  };
</script>

<svelte:head><title>Orders · Mud Room</title></svelte:head>
<RoadFrame workTitle="Orders">
  <div class="pad row">
    <label class="field grow"
      ><span>Number or vendor</span><input name="text" bind:value={text} oninput={() => (page = 1)} /></label
    >
    <label class="field"
      ><span>Kind</span><select name="kind" bind:value={kind} onchange={() => (page = 1)}
        ><option value="">all kinds</option>{#each Object.entries(kinds) as [key, word] (key)}<option value={key}
            >{word}</option
          >{/each}</select
      ></label
    >
    <label class="field"
      ><span>State</span><select name="state" bind:value={only} onchange={() => (page = 1)}
        ><option value="">all states</option>{#each Object.entries(words) as [key, word] (key)}<option value={key}
            >{word}</option
          >{/each}</select
      ></label
    >
    <label class="field"
      ><span>Sorted by</span><select name="sort" bind:value={sort} onchange={() => (page = 1)}
        ><option value="">newest first</option><option value="Oldest">oldest first</option><option value="Number"
          >number</option
        ><option value="NextDue">next due</option></select
      ></label
    >
    <ColumnChoice {columns} />
    <a class="button" href={file} download>CSV</a>
    {#if session.may('KeepOrders')}<a class="button" href="/road/orders/new">New order</a>{/if}
  </div>
  <table class="list" {@attach cards}>
    <thead
      ><tr
        ><th>Order</th>{#each columns.all as [key, word] (key)}{#if columns.shows(key)}<th
              class:number={key === 'lines'}>{word}</th
            >{/if}{/each}</tr
      ></thead
    >
    <tbody>
      {#each orders.data?.rows ?? [] as o (o.number)}
        <tr>
          <td><a class="link c" href="/road/orders/{o.number}">{o.number}</a></td>
          {#if columns.shows('vendor')}<td>{o.vendor}</td>{/if}
          {#if columns.shows('kind')}<td>{kinds[o.kind]}</td>{/if}
          {#if columns.shows('state')}<td>{words[o.state]}</td>{/if}
          {#if columns.shows('lines')}<td class="number">{o.lines}</td>{/if}
          {#if columns.shows('due')}<td>{day(o.nextDue)}</td>{/if}
          {#if columns.shows('ordered')}<td>{day(o.orderDate)}</td>{/if}
        </tr>
      {:else}
        <tr
          ><td colspan="7" class="empty"
            >{orders.isPending
              ? 'One moment.'
              : text || kind || only
                ? 'No order fits.'
                : 'There is no order yet. Orders come in by Import, or by New order.'}</td
          ></tr
        >
      {/each}
    </tbody>
  </table>
  {#if orders.data && orders.data.total > orders.data.pageSize}
    <div class="pad row">
      <button class="button" disabled={page === 1} onclick={() => page--}>Before</button>
      <span>Page {page} of {Math.ceil(orders.data.total / orders.data.pageSize)}</span>
      <button class="button" disabled={page * orders.data.pageSize >= orders.data.total} onclick={() => page++}
        >Next</button
      >
    </div>
  {/if}
</RoadFrame>
