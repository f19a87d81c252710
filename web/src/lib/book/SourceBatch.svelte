<script lang="ts">
  /** The details of a source batch, put right by those with the right; what stood there before stays in the book. */
  import Field from '$lib/ui/Field.svelte';
  import { act, ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  let { id, onclose }: { id: number; onclose: (said: string) => void } = $props();
  const batch = createQuery(() => ({
    queryKey: ['book', 'source-batch', session.site, id],
    queryFn: () => ask('/api/{site}/book/source-batch/{id}', { id }),
  }));
  let form = $state<{ number: string; production: string; bestBefore: string; expiry: string; origin: string }>();
  let values = $state<Record<string, string>>({});
  let reason = $state('');
  let error = $state<unknown>();
  $effect(() => {
    const b = batch.data;
    if (!b || form) return;
    form = {
      number: b.number,
      production: b.production ?? '',
      bestBefore: b.bestBefore ?? '',
      expiry: b.expiry ?? '',
      origin: b.origin ?? '',
    };
    values = { ...b.values };
  });
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    try {
      onclose(
        (await act('/api/{site}/book/source-batch', { id, ...form!, attributes: $state.snapshot(values), reason }))
          .sentence,
      );
    } catch (problem) {
      error = problem;
    }
  }
</script>

{#if batch.data && form}
  <section class="trail-part">
    <h2>Source batch of {batch.data.item}</h2>
    <p class="quiet">{batch.data.vendor}</p>
    <form onsubmit={keep} class="correct">
      <Field label="Number"
        ><input class="c" name="batch-number" bind:value={form.number} maxlength="40" required /></Field
      >
      <Field label="Production"><input class="c" name="batch-production" bind:value={form.production} /></Field>
      <Field label="Best before"><input class="c" name="batch-best-before" bind:value={form.bestBefore} /></Field>
      <Field label="Expiry"><input class="c" name="batch-expiry" bind:value={form.expiry} /></Field>
      <Field label="Country of origin"><input name="batch-origin" bind:value={form.origin} /></Field>
      {#each batch.data.attributes as a (a.name)}
        <Field label={a.name} unit={a.unit ?? ''}><input bind:value={values[a.name]} /></Field>
      {/each}
      <Field label="How it is known that it was wrong"
        ><input name="batch-reason" bind:value={reason} maxlength="200" required /></Field
      >
      <ProblemNote {error} />
      <div class="row">
        <button class="button go">Keep it so</button><button class="button" type="button" onclick={() => onclose('')}
          >Leave it</button
        >
      </div>
    </form>
    {#each batch.data.corrections as c, i (i)}<p class="quiet">{c.sentence} {c.by}, {when(c.at)}</p>{/each}
  </section>
{/if}

<style>
  .correct {
    display: flex;
    flex-direction: column;
    gap: 8px;
  }
</style>
