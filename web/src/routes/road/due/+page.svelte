<script lang="ts">
  import { ask } from '$lib/api/client';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { day, number, when } from '$lib/ui/format';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  let text = $state('');
  let only = $state<'' | 'Late' | 'DueToday' | 'FallsLate' | 'OnTime'>('');
  let page = $state(1);
  const due = createQuery(() => ({
    queryKey: ['road', 'due', session.site, text, only, page],
    queryFn: () => ask('/api/{site}/road/due', { text, state: only, page }),
    placeholderData: keepPreviousData,
  }));
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
</script>

<svelte:head><title>Due · Mud Room</title></svelte:head>
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
  </div>
  <div class="wide">
    <table class="list">
      <thead
        ><tr
          ><th>Due</th><th>Order · line</th><th>Item</th><th class="number">Still open</th><th>Vendor, who to call</th
          ><th>Where it is now</th></tr
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
            <td class="nowrap"><a class="link c" href="/road/orders/{r.order}">{r.order}</a> · {r.line}</td>
            <td
              ><b>{r.itemName}</b>{#if r.waiting > 0}<br /><span
                  >{number(r.waiting)} {r.unit} waited for: {r.waitingFor}</span
                >{/if}</td
            >
            <td class="number">{number(r.open)} {r.unit}<br /><span class="quiet">of {number(r.ordered)}</span></td>
            <td
              >{r.vendor}<br /><span class="quiet"
                >{r.contact ?? ''} <span class="c nowrap">{r.telephone ?? ''}</span></span
              ></td
            >
            <td
              >{#if r.arrival}<a class="link c" href="/road/arrivals/{r.arrival}">{r.arrival}</a><br /><span
                  class="quiet">{when(r.expected)}</span
                >{:else}<span class="quiet">on no arrival</span>{/if}</td
            >
          </tr>
        {:else}
          <tr><td colspan="6" class="empty">{due.isPending ? 'One moment.' : 'Nothing is due that fits.'}</td></tr>
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
  .filters .button[aria-pressed='true'] {
    background: var(--stone-1);
    border-color: var(--peat);
    border-width: 2px;
  }
  .wide {
    overflow-x: auto;
  }
</style>
