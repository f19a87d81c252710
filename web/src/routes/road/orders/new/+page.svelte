<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import DateField from '$lib/ui/DateField.svelte';
  /** An order typed by hand: kind, vendor, lines with their dates. */
  import { goto } from '$app/navigation';
  import { act, ask, type Schemas } from '$lib/api/client';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import { session } from '$lib/session.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  const site = createQuery(() => ({ queryKey: ['site', session.site], queryFn: () => ask('/api/{site}/site') }));
  type Line = {
    item: string;
    quantity: string;
    due: string;
    note: string;
    asksInspection: boolean;
    reason: string;
    promised: Schemas['ReturnPromise'];
  };
  const blank = (due = ''): Line => ({
    item: '',
    quantity: '',
    due,
    note: '',
    asksInspection: false,
    reason: '',
    promised: 'Credit',
  });
  let number = $state('');
  let kind = $state<'Purchase' | 'Transfer' | 'CustomerReturn'>('Purchase');
  let vendor = $state('');
  let lines = $state<Line[]>([blank()]);
  let error = $state<unknown>();
  const unitOf = (code: string) => site.data?.items.find((i) => i.code === code)?.unit ?? '';
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    try {
      await act('/api/{site}/road/orders/new', {
        number,
        kind,
        vendor,
        draft: (event.submitter as HTMLButtonElement).value === 'draft',
        lines: lines.map((l) => ({
          ...l,
          note: l.note || null,
          reason: kind === 'CustomerReturn' ? l.reason : null,
          promised: kind === 'CustomerReturn' ? l.promised : 'Nothing',
        })),
      });
      await goto(`/road/orders/${encodeURIComponent(number.trim())}`);
    } catch (problem) {
      error = problem;
    }
  }
</script>

<svelte:head><title>New order · Mud Room</title></svelte:head>
<RoadFrame workTitle="New order">
  <form class="pad typed" onsubmit={keep}>
    <h1>New order</h1>
    <div class="row">
      <Field label="Number"><input class="c" name="number" bind:value={number} required maxlength="30" /></Field>
      <Field label="Kind"
        ><select name="kind" bind:value={kind}
          ><option value="Purchase">purchase</option><option value="Transfer">transfer from an own site</option><option
            value="CustomerReturn">customer return</option
          ></select
        ></Field
      >
      <Field label={kind === 'Purchase' ? 'Vendor' : kind === 'Transfer' ? 'Sender' : 'Customer'}
        ><select name="vendor" bind:value={vendor} required
          ><option value=""></option>{#each site.data?.vendors ?? [] as v (v.code)}<option value={v.code}
              >{v.name}</option
            >{/each}</select
        ></Field
      >
    </div>
    {#each lines as line, i (i)}
      <fieldset class="row">
        <legend class="sr-only">Line {i + 1}</legend>
        <Field label="Item" class="grow"
          ><select name="item-{i}" bind:value={line.item} required
            ><option value=""></option>{#each site.data?.items ?? [] as item (item.code)}<option value={item.code}
                >{item.name}</option
              >{/each}</select
          ></Field
        >
        <Field label={`How many ${unitOf(line.item)}`} class="few"
          ><input class="c" name="quantity-{i}" inputmode="decimal" bind:value={line.quantity} required /></Field
        >
        <DateField label="Due" name="due-{i}" bind:value={line.due} required />
        {#if kind === 'CustomerReturn'}
          <Field label="Why they send it back" class="grow"
            ><input name="reason-{i}" bind:value={line.reason} maxlength="200" required autocomplete="off" /></Field
          >
          <Field label="Promised"
            ><select name="promised-{i}" bind:value={line.promised}
              ><option value="Credit">credit</option><option value="Replacement">replacement</option><option
                value="Repair">repair</option
              ><option value="Nothing">nothing</option></select
            ></Field
          >
        {/if}
        <Field label="Note"><input bind:value={line.note} maxlength="200" /></Field>
        <label class="who"
          ><input type="checkbox" name="inspect-{i}" bind:checked={line.asksInspection} /> inspect it</label
        >
        {#if lines.length > 1}<button
            class="button"
            type="button"
            aria-label="Line {i + 1} away"
            onclick={() => (lines = lines.filter((l) => l !== line))}>Away</button
          >{/if}
      </fieldset>
    {/each}
    <p class="quiet">The same item twice makes one line in two dated parts.</p>
    <div class="row">
      <button class="button" type="button" onclick={() => lines.push(blank(lines.at(-1)?.due))}>One more line</button>
    </div>
    <ProblemNote {error} />
    <div class="row">
      <button class="button go" value="open">Keep it, open for receiving</button>
      <button class="button" value="draft">Keep it as a draft</button>
      <a class="button" href="/road/orders">Leave it</a>
    </div>
  </form>
</RoadFrame>

<style>
  .typed {
    display: flex;
    flex-direction: column;
    gap: 12px;
  }
  fieldset {
    align-items: flex-end;
    border-top: 1px solid var(--stone-2);
    padding-top: 8px;
  }
  :global(.field.few) input {
    width: 110px;
  }
  :global(.grow) select {
    width: 100%;
  }
</style>
