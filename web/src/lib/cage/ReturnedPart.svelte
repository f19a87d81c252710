<script lang="ts">
  /** Goods that are bound to a return: where they stand, what was found of them, and what becomes of them. */
  import { act, type Schemas } from '$lib/api/client';
  import Decide from '$lib/cage/Decide.svelte';
  import Field from '$lib/ui/Field.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { number } from '$lib/ui/format';
  import { untrack } from 'svelte';
  let { hold, changed }: { hold: Schemas['ReturnHold']; changed: (sentence: string) => Promise<unknown> } = $props();
  const findings: { found: Schemas['ReturnFound']; word: string }[] = [
    { found: 'AsSaid', word: 'as the customer says' },
    { found: 'OtherFault', word: 'another fault' },
    { found: 'NoFault', word: 'no fault found' },
    { found: 'HarmedThere', word: "harmed at the customer's" },
  ];
  let found = $state<Schemas['ReturnFound']>('AsSaid');
  let quantity = $state(untrack(() => String(hold.quantity)));
  let note = $state('');
  let why = $state('');
  let busy = $state(false);
  let error = $state<unknown>();
  async function run(event: SubmitEvent, work: () => Promise<{ sentence: string }>) {
    event.preventDefault();
    error = undefined;
    busy = true;
    try {
      const { sentence } = await work();
      note = why = '';
      await changed(sentence);
      quantity = String(hold.quantity);
    } catch (problem) {
      error = problem;
    } finally {
      busy = false;
    }
  }
</script>

<div class="bound">
  <p>
    <b>{number(hold.quantity)} {hold.unit}</b>
    {#if hold.serials.length > 0}<span class="c">{hold.serials.join(', ')}</span>{/if} in {hold.places.join(', ') ||
      'no place'}, bound by <a class="link c" href="/cage?hold={hold.number}">{hold.number}</a>
  </p>
  {#if hold.found}<p>Found: <b>{hold.found}</b></p>{/if}
  {#if hold.waitsFor}
    <p>
      <a class="link c" href="/bench/{hold.waitsFor}">{hold.waitsFor}</a> is not signed yet: the finding comes behind it.
    </p>
  {:else if hold.canFind}
    <form
      class="fields"
      onsubmit={(e) =>
        run(e, () => act('/api/{site}/cage/returns/finding', { hold: hold.number, found, quantity, note }))}
    >
      <Field label="It is"
        ><select name="found" bind:value={found}
          >{#each findings as f (f.found)}<option value={f.found}>{f.word}</option>{/each}</select
        ></Field
      >
      <Field label={`How many ${hold.unit}`}
        ><input name="found-quantity" class="c" inputmode="decimal" bind:value={quantity} /></Field
      >
      <Field label="What you see" hint="Accounts are told with it."
        ><input name="found-note" bind:value={note} maxlength="500" autocomplete="off" /></Field
      >
      <button class="button go" disabled={busy}>That is the finding</button>
    </form>
  {:else if !hold.found}
    <p class="quiet">An inspector looks at it against the reason; then it is decided what becomes of it.</p>
  {:else if !hold.decision && !hold.canDecide}
    <p class="quiet">A supervisor decides what becomes of it.</p>
  {/if}
  <Decide {hold} {changed} />
  {#if hold.canTakeBack}
    <details class="back">
      <summary>Take the finding back</summary>
      <form
        class="fields"
        onsubmit={(e) => run(e, () => act('/api/{site}/cage/returns/finding/back', { hold: hold.number, why }))}
      >
        <Field label="Why it is taken back"
          ><input name="finding-back-why" bind:value={why} maxlength="200" autocomplete="off" /></Field
        >
        <button class="button" disabled={busy}>Take it back</button>
      </form>
    </details>
  {/if}
  <ProblemNote {error} />
</div>

<style>
  .bound {
    border-left: 3px solid var(--inspect);
    padding: 8px 0 8px 14px;
    display: grid;
    gap: 8px;
  }
  .fields {
    display: grid;
    grid-template-columns: minmax(180px, 1.4fr) minmax(90px, 0.6fr) minmax(160px, 2fr) auto;
    gap: 10px;
    align-items: start;
  }
  .fields .button {
    margin-top: 24px;
    white-space: nowrap;
  }
  @media (max-width: 700px) {
    .fields {
      grid-template-columns: 1fr;
    }
    .fields .button {
      margin-top: 0;
    }
  }
</style>
