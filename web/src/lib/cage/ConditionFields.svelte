<script lang="ts">
  /** What a hold, or a rule of holds, wants besides time: a row for each, added and taken away. */
  import { ask, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Field from '$lib/ui/Field.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  let { wants = $bindable() }: { wants: Schemas['Wanted'][] } = $props();
  const choices = createQuery(() => ({
    queryKey: ['cage', 'choices', session.site],
    queryFn: () => ask('/api/{site}/cage/choices'),
    staleTime: Infinity,
  }));
  const kinds = { Paper: 'a paper', Signature: 'a signature', Acceptance: 'an inspection that accepts' } as const;
  function add() {
    wants = [...wants, { kind: 'Paper', what: '', of: 'LiftHold', paper: 'TestReport', withinDays: null }];
  }
  function ofKind(index: number, kind: Schemas['Wanted']['kind']) {
    wants[index] = { ...wants[index]!, kind, paper: kind === 'Paper' ? 'TestReport' : null };
  }
</script>

{#each wants as w, i (i)}
  <fieldset class="want">
    <legend class="sr-only">Condition {i + 1}</legend>
    <Field label="It wants"
      ><select name="want-kind" value={w.kind} onchange={(e) => ofKind(i, e.currentTarget.value as keyof typeof kinds)}
        >{#each Object.entries(kinds) as [kind, word] (kind)}<option value={kind}>{word}</option>{/each}</select
      ></Field
    >
    {#if w.kind === 'Paper'}<Field label="Of what kind"
        ><select name="want-paper" bind:value={w.paper}
          >{#each choices.data?.papers ?? [] as p (p.kind)}<option value={p.kind}>{p.word}</option>{/each}</select
        ></Field
      >{/if}
    {#if w.kind !== 'Acceptance'}<Field label={w.kind === 'Paper' ? 'Looked at by' : 'Of'}
        ><select name="want-of" bind:value={w.of}
          >{#each choices.data?.whose ?? [] as r (r.right)}<option value={r.right}>{r.who}</option>{/each}</select
        ></Field
      >{/if}
    <Field label="About what"><input name="want-what" bind:value={w.what} maxlength="100" autocomplete="off" /></Field>
    <Field label="Overdue after days"
      ><input name="want-days" class="c" type="number" min="1" max="3650" bind:value={w.withinDays} /></Field
    >
    <button type="button" class="button" onclick={() => (wants = wants.filter((_, at) => at !== i))}
      >Leave out<span class="sr-only"> condition {i + 1}</span></button
    >
  </fieldset>
{/each}
{#if wants.length < 6}<p>
    <button type="button" class="button" id="add-condition" onclick={add}>Add a condition</button>
  </p>{/if}

<style>
  .want {
    border: 0;
    border-left: 3px solid var(--held);
    margin: 0 0 10px;
    padding: 2px 0 2px 12px;
    min-width: 0;
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
    gap: 10px;
    align-items: end;
  }
</style>
