<script lang="ts">
  /** Fields for what the administrator defined of an item's source batch. */
  import Field from '$lib/ui/Field.svelte';
  import type { Schemas } from '$lib/api/client';
  let {
    definitions,
    values,
    prefix = '',
    onset,
  }: {
    definitions: readonly Schemas['AttributeDefinition'][];
    values: Readonly<Record<string, string>>;
    prefix?: string;
    onset: (name: string, value: string) => void;
  } = $props();
  const choicesOf = (a: Schemas['AttributeDefinition']): readonly string[] =>
    a.kind === 'YesNo' ? ['yes', 'no'] : (a.choices ?? []);
</script>

{#each definitions as a (a.name)}
  <Field
    >{#snippet label()}{a.name}{a.unit ? `, ${a.unit}` : ''}{a.need === 'Recommended' ? ' (if known)' : ''}{/snippet}
    {#if a.kind === 'Choice' || a.kind === 'YesNo'}
      <select
        name="{prefix}attribute-{a.name}"
        value={values[a.name] ?? ''}
        onchange={(e) => onset(a.name, e.currentTarget.value)}
        ><option value=""></option>{#each choicesOf(a) as choice (choice)}<option>{choice}</option>{/each}</select
      >
    {:else}
      <input
        name="{prefix}attribute-{a.name}"
        value={values[a.name] ?? ''}
        oninput={(e) => onset(a.name, e.currentTarget.value)}
        inputmode={a.kind === 'Number' ? 'decimal' : undefined}
        placeholder={a.kind === 'Date' ? '2026-03-10' : ''}
        autocomplete="off"
      />
    {/if}</Field
  >
{/each}
