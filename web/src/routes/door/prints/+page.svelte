<script lang="ts">
  /** What the printers were given: the stand-in keeps each label to be looked at. */
  import Field from '$lib/ui/Field.svelte';
  import { act, ask, type Schemas } from '$lib/api/client';
  import DoorQueue from '$lib/door/DoorQueue.svelte';
  import List from '$lib/list/List.svelte';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { time } from '$lib/ui/format';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  type Print = Schemas['PrintRow'];
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

{#snippet whenCell(p: Print)}<span class="c">{time(p.at)}</span>{/snippet}
{#snippet labelCell(p: Print)}<button
    class="link"
    onclick={() => {
      chosen = p.id;
      part = 'trail';
    }}><b>{p.title}</b></button
  >{p.copies > 1 ? ` × ${p.copies}` : ''}{#if p.sscc}<br /><span class="c quiet">{p.sscc}</span>{/if}{#if p.banner}<br
    /><span class="quiet">{p.banner}</span>{/if}{/snippet}
{#snippet printerCell(p: Print)}{p.printer}<br /><span class="quiet">{p.size === 'a6' ? 'A6' : '4 × 6 in'}</span
  >{/snippet}
{#snippet stateCell(p: Print)}{#if p.state === 'Printed'}<Mark
      kind="done"
      word="printed"
    />{:else if p.state === 'Failed'}<Mark kind="disc" word="not taken" /><br />{p.error}{:else}<Mark
      kind="open"
      word="waiting"
    />{/if}{/snippet}
{#snippet againCell(p: Print)}<button class="button" onclick={() => again(p.id, null)}
    >{p.state === 'Failed' ? 'Try again' : 'Print again'}</button
  >{/snippet}

<svelte:head><title>Labels · Door · Mud Room</title></svelte:head>
<Frame queueTitle="At the doors" workTitle="Labels" trailTitle="The label" bind:part>
  {#snippet queue()}<DoorQueue />{/snippet}
  {#snippet work()}
    <div class="pad row">
      <h1 class="grow">Labels printed</h1>
      {#if (prints.data?.printers.length ?? 0) > 0}
        <Field label="Printer"
          ><select bind:value={printer} onchange={() => (at = 1)}
            ><option value="">all</option>{#each prints.data?.printers ?? [] as p (p.name)}<option>{p.name}</option
              >{/each}</select
          ></Field
        >
      {/if}
    </div>
    <div class="pad said-here">
      <ProblemNote error={error ?? prints.error} />
      {#if said}<p class="good" role="status">{said}</p>{/if}
    </div>
    <List
      name="prints"
      label="Labels printed"
      counted={['label', 'labels']}
      rows={prints.data?.prints}
      total={prints.data?.inAll ?? 0}
      pageSize={prints.data?.pageSize ?? 40}
      pending={prints.isPending}
      key={(p) => p.id}
      isOn={(p) => shown?.id === p.id}
      bind:page={at}
      empty={`No label was printed yet. ${
        prints.data?.printers.length === 0
          ? 'The administrator sets up printers and print rules in Site, how goods are counted.'
          : 'A print rule brings them by itself, or print one from the trail of a tally.'
      }`}
      columns={[
        { key: 'when', word: 'When', cell: whenCell },
        { key: 'label', word: 'Label', cell: labelCell, fixed: true },
        { key: 'printer', word: 'Printer', cell: printerCell },
        { key: 'state', word: 'State', cell: stateCell, fixed: true },
        ...(session.may('Tally') ? [{ key: 'again', word: 'Once more', cell: againCell, fixed: true }] : []),
      ]}
    />
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
  .paper {
    width: 100%;
    border: 1px solid var(--stone-3);
    background: #fff;
  }
  .row {
    align-items: flex-end;
  }
</style>
