<script lang="ts">
  /** The way of the sample: to the bench, then back to its lot, used up or kept. What the plan wants next stands ready. */
  import { act, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Field from '$lib/ui/Field.svelte';
  import DateField from '$lib/ui/DateField.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { day, number, when } from '$lib/ui/format';
  let { sheet, changed }: { sheet: Schemas['SheetAnswer']; changed: () => Promise<unknown> } = $props();
  const sample = $derived(sheet.sample);
  const inspection = $derived(sheet.card.number);
  const words: Record<Schemas['SampleFate'], string> = {
    UsedUp: 'used up',
    Retained: 'kept',
    Back: 'back with the lot',
  };
  let fate = $state<Schemas['SampleFate']>('Back');
  let quantity = $state('');
  let bin = $state('');
  let until = $state('');
  let bench = $derived(sample?.bench ?? sample?.benches[0] ?? '');
  let said = $state('');
  let error = $state<unknown>();
  $effect(() => {
    const next = sample?.next;
    if (next) [fate, quantity, until] = [next.fate, String(next.quantity), next.until ?? ''];
  });
  async function run(work: () => Promise<{ sentence: string }>) {
    [error, said] = [undefined, ''];
    try {
      said = (await work()).sentence;
      bin = '';
      await changed();
    } catch (problem) {
      error = problem;
    }
  }
  const bring = () => run(() => act('/api/{site}/bench/bring-sample', { inspection, bin: bench || null }));
  function settle(event: SubmitEvent) {
    event.preventDefault();
    void run(() =>
      act('/api/{site}/bench/settle-sample', {
        inspection,
        fate,
        quantity,
        bin: bin || null,
        until: fate === 'Retained' && until ? until : null,
      }),
    );
  }
</script>

{#if sample}
  <section class="trail-part" id="sample">
    <h2>The sample</h2>
    <p>
      <b>{number(sample.quantity)} {sample.unit}</b>
      {sample.bench ? `in ${sample.bench}` : 'with the lot'}{sample.left < sample.quantity && sample.left > 0
        ? `, ${number(sample.left)} left to settle`
        : ''}.
    </p>
    {#each sample.went as w, i (i)}
      <p>
        {number(w.quantity)}
        {words[w.fate]}{w.where ? `, in ${w.where}` : ''}{w.until ? ` until ${day(w.until)}` : ''}
        <span class="quiet">{w.by}, {when(w.at)}</span>
      </p>
    {/each}
    {#if said}<p role="status">{said}</p>{/if}
    {#if sample.left > 0 && sample.here === 0}
      <p class="quiet">Nothing of its lot is here any more.</p>
    {:else if sample.left > 0 && session.may('Inspect')}
      {#if !sample.bench && sample.benches.length}
        <div class="row">
          {#if sample.benches.length > 1}<Field label="Place of the bench"
              ><select name="bench-place" bind:value={bench}
                >{#each sample.benches as b (b)}<option value={b}>{b}</option>{/each}</select
              ></Field
            >{/if}
          <button class="button" id="bring-sample" onclick={bring}>Bring it to {bench}</button>
        </div>
      {/if}
      <form onsubmit={settle}>
        <span class="row">
          <Field label="How much, {sample.unit}"
            ><input class="c few" name="sample-quantity" inputmode="decimal" bind:value={quantity} required /></Field
          >
          <Field label="What became of it"
            ><select name="sample-fate" bind:value={fate}
              >{#each Object.entries(words) as [kind, word] (kind)}<option value={kind}>{word}</option>{/each}</select
            ></Field
          >
        </span>
        {#if fate === 'Retained'}
          <DateField label="Kept until" name="sample-until" bind:value={until} required />
          <Field label="In" hint="blank: where they are"
            ><input class="c" name="sample-bin" bind:value={bin} maxlength="20" autocomplete="off" /></Field
          >
        {/if}
        <button class="button" id="settle-sample">Settle it</button>
      </form>
    {/if}
    <ProblemNote {error} />
  </section>
{/if}

<style>
  form {
    display: flex;
    flex-direction: column;
    gap: 8px;
    align-items: flex-start;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: end;
  }
  .few {
    width: 90px;
  }
</style>
