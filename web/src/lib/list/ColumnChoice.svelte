<script lang="ts">
  /** The choice of columns of a table. */
  import type { Columns } from './columns.svelte';
  let { columns }: { columns: Columns } = $props();
</script>

<details class="choice">
  <summary class="button">Columns</summary>
  <div class="list">
    {#each columns.all as [key, word] (key)}
      <label><input type="checkbox" checked={columns.shows(key)} onchange={() => columns.turn(key)} /> {word}</label>
    {/each}
  </div>
</details>

<style>
  .choice {
    position: relative;
  }
  summary {
    list-style: none;
  }
  .list {
    position: absolute;
    right: 0;
    z-index: 8;
    background: var(--paper);
    border: 1.5px solid var(--stone-3);
    border-radius: 4px;
    box-shadow: var(--lift);
    padding: 6px 12px;
    white-space: nowrap;
  }
  label {
    display: flex;
    gap: 8px;
    align-items: center;
    min-height: 32px;
  }
</style>
