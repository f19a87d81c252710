<script lang="ts">
  /** The conditions of a hold as links of a chain: closed, or still open and drawn broken; overdue is said. */
  import type { Schemas } from '$lib/api/client';
  let { links }: { links: Schemas['ChainLink'][] } = $props();
</script>

<span class="chain">
  {#each links as link, i (i)}
    <span class="link" class:closed={link.closed} class:overdue={link.overdue} title={link.sentence}
      >{link.word}<span class="sr-only">{link.closed ? ', met' : link.overdue ? ', overdue' : ', open'}</span></span
    >
  {/each}
</span>

<style>
  .chain {
    display: inline-flex;
    flex-wrap: wrap;
    row-gap: 4px;
  }
  .link {
    padding: 2px 10px;
    font-size: 13px;
    font-weight: 600;
    border: 2px solid var(--held);
    border-right-color: transparent;
    border-radius: 12px;
    color: var(--held);
    margin-right: -3px;
    text-decoration: none;
  }
  .closed {
    border-color: var(--load-line);
    background: var(--load);
    color: var(--peat);
  }
  .overdue {
    border-color: var(--late);
    border-right-color: transparent;
    color: var(--late);
  }
</style>
