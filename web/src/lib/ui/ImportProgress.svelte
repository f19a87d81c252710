<script lang="ts">
  /** How far a file is that is being looked through or taken in. */
  import type { Importing } from './importing.svelte';
  let { of }: { of: Importing } = $props();
</script>

{#if of.busy}
  <p role="status">
    {of.progress ? of.progress.sentence : of.busy}
    <progress max="1" value={of.progress?.share ?? undefined} aria-label="How far"></progress>
  </p>
{/if}

<style>
  progress {
    width: 220px;
    accent-color: var(--lamp);
  }
</style>
