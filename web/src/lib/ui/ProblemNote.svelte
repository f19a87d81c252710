<script lang="ts">
  /** What was refused, and what to do next: brought into sight, wherever the press was. What was typed stays where it is. */
  import { Problem } from '$lib/api/client';
  let { error }: { error: unknown } = $props();
  const show = (note: HTMLElement) => {
    if (error) note.scrollIntoView({ block: 'nearest' });
  };
</script>

{#if error}
  <div class="said" role="alert" {@attach show}>
    {#if error instanceof Problem}
      <b>{error.sentence}</b> {error.next}
    {:else}
      <b>Something broke on this page.</b> Load it again.
    {/if}
  </div>
{/if}
