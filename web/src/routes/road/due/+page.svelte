<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import DateField from '$lib/ui/DateField.svelte';
  import { ask, type Schemas } from '$lib/api/client';
  import PromiseForm from '$lib/road/PromiseForm.svelte';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import { session } from '$lib/session.svelte';
  import List from '$lib/list/List.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { day, number, when } from '$lib/ui/format';
  import { MediaQuery } from 'svelte/reactivity';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  type Due = Schemas['DueRow'];
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
{#snippet dueCell(r: Due)}
  {#if r.state === 'Late'}<Mark kind="late" word="late {r.daysLate} d" />
  {:else if r.state === 'DueToday'}<Mark kind="today" word="due today" />
  {:else if r.state === 'FallsLate'}<Mark kind="falls" word="falls late {r.daysLate} d" />
  {:else}<Mark kind="ontime" word="on time" />{/if}<br /><span class="c quiet">{day(r.due)}</span>
{/snippet}
{#snippet orderCell(r: Due)}<span class="nowrap"
    ><a class="link c" href="/road/orders/{r.order}">{r.order}</a> · {r.line}</span
  >{/snippet}
{#snippet itemCell(r: Due)}<b>{r.itemName}</b>{#if r.waiting > 0}<br /><span
      >{number(r.waiting)} {r.unit} waited for: {r.waitingFor}</span
    >{/if}{/snippet}
{#snippet openCell(r: Due)}{number(r.open)} {r.unit}<br /><span class="quiet">of {number(r.ordered)}</span>{/snippet}
{#snippet vendorCell(r: Due)}{r.vendor}<br /><span class="quiet"
    >{r.contact ?? ''}
    {#if r.telephone}<a class="link c nowrap" href="tel:{r.telephone.replaceAll(' ', '')}">{r.telephone}</a>{/if}</span
  >{/snippet}
{#snippet whereCell(r: Due)}{#if r.arrival}<a class="link c" href="/road/arrivals/{r.arrival}">{r.arrival}</a><br
    /><span class="quiet">{when(r.expected)}</span>{:else}<span class="quiet">on no arrival</span>{/if}{/snippet}
{#snippet promisedCell(r: Due)}
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
{/snippet}
{#snippet calls(r: Due)}
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
{/snippet}
{#snippet filters_()}
  {#if phone.current}
    <details>
      <summary>More filters</summary>
      <div class="row more">{@render more()}</div>
    </details>
  {:else}{@render more()}{/if}
{/snippet}
{#snippet more()}
  <DateField label="Due from" name="from" bind:value={from} onchange={() => (page = 1)} />
  <DateField label="to" name="to" bind:value={to} onchange={() => (page = 1)} />
  <Field label="Vendor"
    ><select name="vendor" bind:value={vendor} onchange={() => (page = 1)}
      ><option value="">all vendors</option>{#each site.data?.vendors ?? [] as v (v.code)}<option value={v.code}
          >{v.name}</option
        >{/each}</select
    ></Field
  >
  <Field label="Item"
    ><select name="item" bind:value={item} onchange={() => (page = 1)}
      ><option value="">all items</option>{#each site.data?.items ?? [] as i (i.code)}<option value={i.code}
          >{i.name}</option
        >{/each}</select
    ></Field
  >
  <Field label="Arrival"
    ><select bind:value={planned} onchange={() => (page = 1)}
      ><option value="">any</option><option value="true">on an arrival</option><option value="false">on none</option
      ></select
    ></Field
  >
  <Field label="Kind"
    ><select bind:value={kind} onchange={() => (page = 1)}
      ><option value="">all orders</option><option value="Purchase">purchase</option><option value="Transfer"
        >transfer</option
      ><option value="CustomerReturn">customer return</option></select
    ></Field
  >
{/snippet}
<RoadFrame workTitle="Due">
  <div class="pad row filters">
    {#each filters as [value, kind, word, count] (value)}
      <button class="button" aria-pressed={only === value} onclick={() => choose(value)}
        ><Mark {kind} {word} /> <b class="c">{count ?? ''}</b></button
      >
    {/each}
    <Field label="Vendor, item or order" class="grow" hidden
      ><input bind:value={text} oninput={() => (page = 1)} placeholder="Vendor, item or order" /></Field
    >
  </div>
  <List
    name="due"
    label="What is due"
    counted={['line part', 'line parts']}
    rows={due.data?.rows}
    total={due.data?.total ?? 0}
    pageSize={due.data?.pageSize ?? 50}
    pending={due.isPending}
    key={(r) => r.partId}
    bind:page
    {file}
    tools={filters_}
    under={calls}
    empty="Nothing is due that fits."
    columns={[
      { key: 'due', word: 'Due', cell: dueCell, fixed: true },
      { key: 'order', word: 'Order · line', cell: orderCell },
      { key: 'item', word: 'Item', cell: itemCell, fixed: true },
      { key: 'open', word: 'Still open', cell: openCell, number: true },
      { key: 'vendor', word: 'Vendor, who to call', cell: vendorCell },
      { key: 'where', word: 'Where it is now', cell: whereCell },
      { key: 'promised', word: 'Promised', cell: promisedCell },
    ]}
  />
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
  select {
    max-width: 150px;
  }
  .more {
    align-items: flex-end;
  }
</style>
