<script lang="ts">
  /**
   * One field of a form: its label, with the unit of what is typed, the field itself, and below it what is wrong, or else a hint. The
   * label is around all of it, so that a press on its words goes into the field.
   */
  import type { Snippet } from 'svelte';
  let {
    label,
    unit = '',
    hint = '',
    error = '',
    bad = false,
    hidden = false,
    class: more = '',
    children,
  }: {
    label: string | Snippet;
    unit?: string;
    hint?: string;
    error?: string;
    /** Marked as wrong where the sentence stands elsewhere. */
    bad?: boolean;
    /** Read out, not shown: what it is for stands beside it. */
    hidden?: boolean;
    class?: string;
    children: Snippet;
  } = $props();
</script>

<label class={['field', more, { bad: bad || error !== '' }]}
  ><span class:sr-only={hidden}
    >{#if typeof label === 'string'}{label}{:else}{@render label()}{/if}{unit ? `, ${unit}` : ''}</span
  >{@render children()}{#if error}<span class="error" role="alert">{error}</span>{:else if hint}<span class="hint"
      >{hint}</span
    >{/if}</label
>

<style>
  .error {
    color: var(--disc);
    font-weight: 600;
  }
</style>
