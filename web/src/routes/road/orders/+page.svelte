<script lang="ts">
  import { ask } from '$lib/api/client';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import { session } from '$lib/session.svelte';
  import { day } from '$lib/ui/format';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { cards } from '$lib/ui/cards';
  let text = $state('');
  let page = $state(1);
  const orders = createQuery(() => ({
    queryKey: ['road', 'orders', session.site, text, page],
    queryFn: () => ask('/api/{site}/road/orders', { text, page }),
    placeholderData: keepPreviousData,
  }));
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
    <label class="field grow"><span>Number or vendor</span><input bind:value={text} oninput={() => (page = 1)} /></label
    >
    {#if session.may('KeepOrders')}<a class="button" href="/road/orders/new">New order</a>{/if}
  </div>
  <table class="list" {@attach cards}>
    <thead
      ><tr><th>Order</th><th>Vendor</th><th>State</th><th class="number">Lines</th><th>Next due</th><th>Ordered</th></tr
      ></thead
    >
    <tbody>
      {#each orders.data?.rows ?? [] as o (o.number)}
        <tr>
          <td><a class="link c" href="/road/orders/{o.number}">{o.number}</a></td>
          <td>{o.vendor}</td>
          <td>{words[o.state]}</td>
          <td class="number">{o.lines}</td>
          <td>{day(o.nextDue)}</td>
          <td>{day(o.orderDate)}</td>
        </tr>
      {:else}
        <tr
          ><td colspan="6" class="empty"
            >{orders.isPending ? 'One moment.' : 'No order fits. Orders come in by Import, from a CSV file.'}</td
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
