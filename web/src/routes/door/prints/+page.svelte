<script lang="ts">
  /** What the printers were given: the stand-in keeps each label to be looked at. */
  import { act, ask } from '$lib/api/client';
  import DoorQueue from '$lib/door/DoorQueue.svelte';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { time } from '$lib/ui/format';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  let printer = $state('');
  let at = $state(1);
  let chosen = $state<number>();
  let error = $state<unknown>();
  let said = $state('');
  let part = $state<Part>('work');
  const prints = createQuery(() => ({
    queryKey: ['prints', 'printed', session.site, printer, at],
    queryFn: () => ask('/api/{site}/door/prints', { printer, page: at }),
    placeholderData: keepPreviousData,
  }));
  const shown = $derived(prints.data?.prints.find((p) => p.id === chosen) ?? prints.data?.prints[0]);
  async function again(id: number, on: string | null) {
    error = undefined;
    said = '';
    try {
      said = (await act('/api/{site}/door/prints/again', { print: id, printer: on })).sentence;
    } catch (problem) {
      error = problem;
    }
  }
</script>

<svelte:head><title>Labels · Door · Mud Room</title></svelte:head>
<Frame queueTitle="At the doors" workTitle="Labels" trailTitle="The label" bind:part>
  {#snippet queue()}<DoorQueue />{/snippet}
  {#snippet work()}
    <div class="pad row">
      <h1 class="grow">Labels printed</h1>
      {#if (prints.data?.printers.length ?? 0) > 0}
        <label class="field"
          ><span>Printer</span><select bind:value={printer} onchange={() => (at = 1)}
            ><option value="">all</option>{#each prints.data?.printers ?? [] as p (p.name)}<option>{p.name}</option
              >{/each}</select
          ></label
        >
      {/if}
    </div>
    <div class="pad said-here">
      <ProblemNote error={error ?? prints.error} />
      {#if said}<p class="good" role="status">{said}</p>{/if}
    </div>
    {#if prints.data && prints.data.prints.length > 0}
      <table class="list">
        <thead><tr><th>When</th><th>Label</th><th>Printer</th><th>State</th><th></th></tr></thead>
        <tbody>
          {#each prints.data.prints as p (p.id)}
            <tr class:on={shown?.id === p.id}
              ><td class="c">{time(p.at)}</td><td
                ><button
                  class="link"
                  onclick={() => {
                    chosen = p.id;
                    part = 'trail';
                  }}><b>{p.title}</b></button
                >{p.copies > 1 ? ` × ${p.copies}` : ''}{#if p.sscc}<br /><span class="c quiet">{p.sscc}</span
                  >{/if}{#if p.banner}<br /><span class="quiet">{p.banner}</span>{/if}</td
              ><td>{p.printer}<br /><span class="quiet">{p.size === 'a6' ? 'A6' : '4 × 6 in'}</span></td><td
                >{#if p.state === 'Printed'}<Mark kind="done" word="printed" />{:else if p.state === 'Failed'}<Mark
                    kind="disc"
                    word="not taken"
                  /><br />{p.error}{:else}<Mark kind="open" word="waiting" />{/if}</td
              ><td
                >{#if session.may('Tally')}<button class="button" onclick={() => again(p.id, null)}
                    >{p.state === 'Failed' ? 'Try again' : 'Print again'}</button
                  >{/if}</td
              ></tr
            >
          {/each}
        </tbody>
      </table>
      {#if prints.data.inAll > 40}
        <div class="pad row">
          <button class="button" disabled={at === 1} onclick={() => at--}>Newer</button>
          <span class="c">{(at - 1) * 40 + 1} to {Math.min(at * 40, prints.data.inAll)} of {prints.data.inAll}</span>
          <button class="button" disabled={at * 40 >= prints.data.inAll} onclick={() => at++}>Older</button>
        </div>
      {/if}
    {:else if prints.data}
      <p class="empty">
        No label was printed yet. {prints.data.printers.length === 0
          ? 'The administrator sets up printers and print rules in Site, how goods are counted.'
          : 'A print rule brings them by itself, or print one from the trail of a tally.'}
      </p>
    {/if}
  {/snippet}
  {#snippet trail()}
    {#if shown}
      <section class="trail-part">
        <h2>{shown.title}</h2>
        <img
          class="paper"
          src="/api/{session.site}/door/prints/{shown.id}"
          alt="The label as it was printed: {shown.title}{shown.sscc ? `, SSCC ${shown.sscc}` : ''}"
        />
        <p class="row">
          <a class="link" href="/api/{session.site}/door/prints/{shown.id}?pdf=1" target="_blank" rel="noopener"
            >as PDF in its size</a
          >
        </p>
        {#each (prints.data?.printers ?? []).filter((x) => x.name !== shown.printer) as other (other.name)}
          <p>
            <button class="button" onclick={() => again(shown.id, other.name)}>Print on {other.name}</button>
          </p>
        {/each}
      </section>
    {/if}
  {/snippet}
</Frame>

<style>
  .said-here {
    padding-block: 0 10px;
  }
  .said-here:not(:has(*)) {
    display: none;
  }
  tr.on td {
    background: var(--lit-faint);
  }
  .paper {
    width: 100%;
    border: 1px solid var(--stone-3);
    background: #fff;
  }
  .row {
    align-items: flex-end;
  }
</style>
