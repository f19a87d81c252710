<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import DateField from '$lib/ui/DateField.svelte';
  import { ask } from '$lib/api/client';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { counted, number, when } from '$lib/ui/format';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  let text = $state('');
  let from = $state('');
  let to = $state('');
  let page = $state(1);
  const question = $derived({ text, from, to });
  const received = createQuery(() => ({
    queryKey: ['road', 'received', session.site, question, page],
    queryFn: () => ask('/api/{site}/road/received', { ...question, page }),
    placeholderData: keepPreviousData,
  }));
  const asked = $derived(new URLSearchParams(Object.entries(question).filter(([, value]) => value)));
  const file = $derived(`/api/${session.site}/road/received.csv?${asked}`);
  const counts = $derived(`/api/${session.site}/door/counted-by.csv?${asked}`);
</script>

<svelte:head><title>Received · Mud Room</title></svelte:head>
<RoadFrame workTitle="Received">
  <div class="pad row asked">
    <DateField label="From" name="from" bind:value={from} onchange={() => (page = 1)} />
    <DateField label="to" name="to" bind:value={to} onchange={() => (page = 1)} />
    <Field label="Item, vendor, order, delivery note or receipt" class="grow"
      ><input bind:value={text} oninput={() => (page = 1)} /></Field
    >
    <a class="button" href={file} download>CSV</a>
    <a class="button" href={counts} download>Counts by person</a>
  </div>
  {#if received.data}
    <p class="pad quiet total" aria-live="polite">
      {counted(received.data.total, 'receipt')} from {received.data.from} to {received.data.to}
    </p>
    {#each received.data.receipts as r (r.receipt)}
      <section class="receipt">
        <header>
          <b><a class="link c" href="/door/receipts/{r.receipt}">{r.receipt}</a></b>
          <b>{r.vendor}</b>
          <span class="quiet"
            >delivery note <span class="c">{r.deliveryNote}</span> ·
            <a class="link c" href="/road/arrivals/{r.arrival}">{r.arrival}</a> · posted {when(r.postedAt)} by {r.postedBy}</span
          >
        </header>
        <ul>
          {#each r.lines as l (`${l.order}/${l.line}/${l.itemCode}`)}
            <li>
              <span
                >{#if l.order}<a class="link c" href="/road/orders/{l.order}">{l.order}</a> · {l.line}{/if}</span
              >
              <span>{l.itemName}</span>
              <b class="c">{number(l.quantity)} {l.unit}</b>
              <span
                >{#if l.aside > 0}<Mark kind="disc" word="{number(l.aside)} aside" />{/if}</span
              >
              <span class="quiet">counted by {l.countedBy.join(', ')}</span>
              {#if l.acceptFirst.length > 0}<span class="first"
                  ><Mark kind="inspect" word="not to be paid before {l.acceptFirst.join(', ')}" /></span
                >{/if}
            </li>
          {/each}
        </ul>
      </section>
    {:else}
      <p class="empty">
        {text
          ? 'No receipt of that time fits.'
          : 'Nothing was posted in that time. A receipt stands here once a tally is closed.'}
      </p>
    {/each}
    {#if received.data.total > received.data.pageSize}
      <div class="pad row">
        <button class="button" disabled={page === 1} onclick={() => page--}>Newer</button>
        <span>Page {page} of {Math.ceil(received.data.total / received.data.pageSize)}</span>
        <button class="button" disabled={page * received.data.pageSize >= received.data.total} onclick={() => page++}
          >Older</button
        >
      </div>
    {/if}
  {/if}
</RoadFrame>

<style>
  .asked {
    align-items: flex-end;
  }
  .total {
    padding-top: 0;
  }
  .receipt {
    border-top: 1px solid var(--stone-2);
    padding: 8px 18px;
  }
  header {
    display: flex;
    gap: 4px 12px;
    flex-wrap: wrap;
    align-items: baseline;
  }
  li {
    display: grid;
    grid-template-columns: 130px minmax(0, 1fr) 110px 90px minmax(0, 190px);
    gap: 10px;
    align-items: baseline;
    padding: 2px 0;
    font-size: 14px;
  }
  li b {
    text-align: right;
  }
  .first {
    grid-column: 2 / -1;
  }
  @media (max-width: 700px) {
    li {
      grid-template-columns: 1fr auto;
    }
    .first {
      grid-column: 1 / -1;
    }
  }
</style>
