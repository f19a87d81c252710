<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import { ask, type Schemas } from '$lib/api/client';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import { session } from '$lib/session.svelte';
  import List from '$lib/list/List.svelte';
  import { day } from '$lib/ui/format';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  type Order = Schemas['OrderRowView'];
  let text = $state('');
  let kind = $state('');
  let only = $state('');
  let sort = $state('Newest');
  let page = $state(1);
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
{#snippet orderCell(o: Order)}<a class="link c" href="/road/orders/{o.number}">{o.number}</a>{/snippet}
{#snippet vendorCell(o: Order)}{o.vendor}{/snippet}
{#snippet kindCell(o: Order)}{kinds[o.kind]}{/snippet}
{#snippet stateCell(o: Order)}{words[o.state]}{/snippet}
{#snippet linesCell(o: Order)}{o.lines}{/snippet}
{#snippet dueCell(o: Order)}{day(o.nextDue)}{/snippet}
{#snippet orderedCell(o: Order)}{day(o.orderDate)}{/snippet}
{#snippet tools()}
  <Field label="Number or vendor" class="grow"><input name="text" bind:value={text} oninput={() => (page = 1)} /></Field
  >
  <Field label="Kind"
    ><select name="kind" bind:value={kind} onchange={() => (page = 1)}
      ><option value="">all kinds</option>{#each Object.entries(kinds) as [key, word] (key)}<option value={key}
          >{word}</option
        >{/each}</select
    ></Field
  >
  <Field label="State"
    ><select name="state" bind:value={only} onchange={() => (page = 1)}
      ><option value="">all states</option>{#each Object.entries(words) as [key, word] (key)}<option value={key}
          >{word}</option
        >{/each}</select
    ></Field
  >
  {#if session.may('KeepOrders')}<a class="button" href="/road/orders/new">New order</a>{/if}
{/snippet}
<RoadFrame workTitle="Orders">
  <List
    name="orders"
    label="Orders"
    counted={['order', 'orders']}
    rows={orders.data?.rows}
    total={orders.data?.total ?? 0}
    pageSize={orders.data?.pageSize ?? 50}
    pending={orders.isPending}
    key={(o) => o.number}
    bind:page
    bind:sort
    {file}
    {tools}
    empty={text || kind || only
      ? 'No order fits.'
      : 'There is no order yet. Orders come in by Import, or by New order.'}
    columns={[
      { key: 'order', word: 'Order', cell: orderCell, fixed: true, sorts: { up: 'Number' } },
      { key: 'vendor', word: 'Vendor', cell: vendorCell },
      { key: 'kind', word: 'Kind', cell: kindCell },
      { key: 'state', word: 'State', cell: stateCell },
      { key: 'lines', word: 'Lines', cell: linesCell, number: true },
      { key: 'due', word: 'Next due', cell: dueCell, sorts: { up: 'NextDue' } },
      { key: 'ordered', word: 'Ordered', cell: orderedCell, sorts: { up: 'Oldest', down: 'Newest' } },
    ]}
  />
</RoadFrame>
