<script lang="ts">
  import DateField from '$lib/ui/DateField.svelte';
  import { ask } from '$lib/api/client';
  import PromiseForm from '$lib/road/PromiseForm.svelte';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import { session } from '$lib/session.svelte';
  import ColumnChoice from '$lib/ui/ColumnChoice.svelte';
  import { Columns } from '$lib/ui/columns.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { day, number, when } from '$lib/ui/format';
  import { MediaQuery } from 'svelte/reactivity';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { cards } from '$lib/ui/cards';
  let text = $state('');
  let only = $state<'' | 'Late' | 'DueToday' | 'FallsLate' | 'OnTime'>('');
  let from = $state('');
  let to = $state('');
  let planned = $state('');
  let kind = $state('');
  let vendor = $state('');
  let item = $state('');
  let page = $state(1);
  let calling = $state<number>();
  const columns = new Columns('due', [
    ['order', 'Order · line'],
    ['open', 'Still open'],
    ['vendor', 'Vendor, who to call'],
    ['where', 'Where it is now'],
    ['promised', 'Promised'],
  ]);
  const site = createQuery(() => ({ queryKey: ['site', session.site], queryFn: () => ask('/api/{site}/site') }));
  const question = $derived({ text, state: only, from, to, planned, kind, vendor, item });
  const due = createQuery(() => ({
    queryKey: ['road', 'due', session.site, question, page],
    queryFn: () => ask('/api/{site}/road/due', { ...question, page }),
    placeholderData: keepPreviousData,
  }));
  const file = $derived(
    `/api/${session.site}/road/due.csv?${new URLSearchParams(Object.entries(question).filter(([, value]) => value))}`,
  );
  const filters = $derived([
    ['Late', 'late', 'late', due.data?.late],
    ['DueToday', 'today', 'due today', due.data?.dueToday],
    ['FallsLate', 'falls', 'falls late', due.data?.fallsLate],
    ['OnTime', 'ontime', 'on time', due.data?.onTime],
  ] as const);
  function choose(value: typeof only) {
    only = only === value ? '' : value;
    page = 1;
  }
  /** There the filters would fill the screen. */
  const phone = new MediaQuery('max-width: 700px');
</script>

<svelte:head><title>Due · Mud Room</title></svelte:head>
{#snippet more()}
  <div class="pad row more">
    <DateField label="Due from" name="from" bind:value={from} onchange={() => (page = 1)} />
    <DateField label="to" name="to" bind:value={to} onchange={() => (page = 1)} />
    <label class="field"
      ><span>Vendor</span><select name="vendor" bind:value={vendor} onchange={() => (page = 1)}
        ><option value="">all vendors</option>{#each site.data?.vendors ?? [] as v (v.code)}<option value={v.code}
            >{v.name}</option
          >{/each}</select
      ></label
    >
    <label class="field"
      ><span>Item</span><select name="item" bind:value={item} onchange={() => (page = 1)}
        ><option value="">all items</option>{#each site.data?.items ?? [] as i (i.code)}<option value={i.code}
            >{i.name}</option
          >{/each}</select
      ></label
    >
    <label class="field"
      ><span>Arrival</span><select bind:value={planned} onchange={() => (page = 1)}
        ><option value="">any</option><option value="true">on an arrival</option><option value="false">on none</option
        ></select
      ></label
    >
    <label class="field"
      ><span>Kind</span><select bind:value={kind} onchange={() => (page = 1)}
        ><option value="">all orders</option><option value="Purchase">purchase</option><option value="Transfer"
          >transfer</option
        ><option value="CustomerReturn">customer return</option></select
      ></label
    >
    <span class="quiet grow" aria-live="polite">{due.data ? `${number(due.data.total)} line parts` : ''}</span>
  </div>
{/snippet}
<RoadFrame workTitle="Due">
  <div class="pad row filters">
    {#each filters as [value, kind, word, count] (value)}
      <button class="button" aria-pressed={only === value} onclick={() => choose(value)}
        ><Mark {kind} {word} /> <b class="c">{count ?? ''}</b></button
      >
    {/each}
    <label class="field grow"
      ><span class="sr-only">Vendor, item or order</span><input
        bind:value={text}
        oninput={() => (page = 1)}
        placeholder="Vendor, item or order"
      /></label
    >
    <ColumnChoice {columns} />
    <a class="button" href={file} download>CSV</a>
  </div>
  {#if phone.current}
    <details class="pad">
      <summary>More filters{due.data ? ` · ${number(due.data.total)} line parts` : ''}</summary>
      {@render more()}
    </details>
  {:else}{@render more()}{/if}
  <div class="wide">
    <table class="list" {@attach cards}>
      <thead
        ><tr
          ><th>Due</th>{#if columns.shows('order')}<th>Order · line</th>{/if}<th>Item</th>{#if columns.shows('open')}<th
              class="number">Still open</th
            >{/if}{#if columns.shows('vendor')}<th>Vendor, who to call</th>{/if}{#if columns.shows('where')}<th
              >Where it is now</th
            >{/if}{#if columns.shows('promised')}<th>Promised</th>{/if}</tr
        ></thead
      >
      <tbody>
        {#each due.data?.rows ?? [] as r (r.partId)}
          <tr>
            <td class="nowrap">
              {#if r.state === 'Late'}<Mark kind="late" word="late {r.daysLate} d" />
              {:else if r.state === 'DueToday'}<Mark kind="today" word="due today" />
              {:else if r.state === 'FallsLate'}<Mark kind="falls" word="falls late {r.daysLate} d" />
              {:else}<Mark kind="ontime" word="on time" />{/if}<br /><span class="c quiet">{day(r.due)}</span>
            </td>
            {#if columns.shows('order')}<td class="nowrap"
                ><a class="link c" href="/road/orders/{r.order}">{r.order}</a> · {r.line}</td
              >{/if}
            <td
              ><b>{r.itemName}</b>{#if r.waiting > 0}<br /><span
                  >{number(r.waiting)} {r.unit} waited for: {r.waitingFor}</span
                >{/if}</td
            >
            {#if columns.shows('open')}<td class="number"
                >{number(r.open)} {r.unit}<br /><span class="quiet">of {number(r.ordered)}</span></td
              >{/if}
            {#if columns.shows('vendor')}<td
                >{r.vendor}<br /><span class="quiet"
                  >{r.contact ?? ''}
                  {#if r.telephone}<a class="link c nowrap" href="tel:{r.telephone.replaceAll(' ', '')}"
                      >{r.telephone}</a
                    >{/if}</span
                ></td
              >{/if}
            {#if columns.shows('where')}<td
                >{#if r.arrival}<a class="link c" href="/road/arrivals/{r.arrival}">{r.arrival}</a><br /><span
                    class="quiet">{when(r.expected)}</span
                  >{:else}<span class="quiet">on no arrival</span>{/if}</td
              >{/if}
            {#if columns.shows('promised')}
              <td>
                {#if r.promise}<span>{r.promise.text}</span>
                  {#if r.promise.for}
                    <b>For {day(r.promise.for)}.</b>{/if}<br /><span class="quiet"
                    >{r.promise.with}, {r.promise.by.split(' ')[0]}, {day(r.promise.at)}</span
                  >{/if}
                {#if session.may('KeepPromises') && (r.state === 'Late' || r.state === 'FallsLate')}
                  <button class="link" onclick={() => (calling = calling === r.partId ? undefined : r.partId)}
                    >{r.promise ? 'Called again' : 'Note a call'}</button
                  >
                {/if}
              </td>
            {/if}
          </tr>
          {#if calling === r.partId}
            <tr
              ><td colspan="7"
                ><PromiseForm
                  parts={[r.partId]}
                  contact={r.contact}
                  ondone={() => {
                    calling = undefined;
                    void due.refetch();
                  }}
                /></td
              ></tr
            >
          {/if}
        {:else}
          <tr><td colspan="7" class="empty">{due.isPending ? 'One moment.' : 'Nothing is due that fits.'}</td></tr>
        {/each}
      </tbody>
    </table>
  </div>
  {#if due.data && due.data.total > due.data.pageSize}
    <div class="pad row">
      <button class="button" disabled={page === 1} onclick={() => page--}>Before</button>
      <span>Page {page} of {Math.ceil(due.data.total / due.data.pageSize)}</span>
      <button class="button" disabled={page * due.data.pageSize >= due.data.total} onclick={() => page++}>Next</button>
    </div>
  {/if}
</RoadFrame>

<style>
  summary {
    min-height: 48px;
    display: flex;
    align-items: center;
    font-weight: 600;
    cursor: pointer;
  }
  .filters .button[aria-pressed='true'] {
    background: var(--stone-1);
    border-color: var(--peat);
    border-width: 2px;
  }
  .more select {
    max-width: 190px;
  }
  .more {
    align-items: flex-end;
    padding-top: 0;
  }
  .wide {
    overflow-x: auto;
  }
</style>
