<script lang="ts">
  /** What was refused, and what to do next. What was typed stays where it is. */
  import { Problem } from '$lib/api/client';
  let { error }: { error: unknown } = $props();
</script>

{#if error}
  <div class="said" role="alert">
    {#if error instanceof Problem}
      <b>{error.sentence}</b> {error.next}
    {:else}
      <b>Something broke on this page.</b> Load it again.
    {/if}
  </div>
{/if}
