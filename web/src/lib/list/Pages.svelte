<script lang="ts">
  /** The pages of a long list. */
  import { Pagination } from '@skeletonlabs/skeleton-svelte';
  let { page = $bindable(1), total, pageSize }: { page?: number; total: number; pageSize: number } = $props();
</script>

{#if total > pageSize}
  <Pagination count={total} {pageSize} {page} onPageChange={(to) => (page = to.page)} siblingCount={1}>
    <nav class="pages" aria-label="Pages">
      <Pagination.PrevTrigger class="button">Before</Pagination.PrevTrigger>
      <Pagination.Context>
        {#snippet children(pages)}
          {#each pages().pages as p, i (i)}
            {#if p.type === 'page'}<Pagination.Item {...p} class="button page"
                ><span class="sr-only">Page </span>{p.value}</Pagination.Item
              >{:else}<Pagination.Ellipsis index={i}>…</Pagination.Ellipsis>{/if}
          {/each}
        {/snippet}
      </Pagination.Context>
      <Pagination.NextTrigger class="button">Next</Pagination.NextTrigger>
      <span class="quiet c">{(page - 1) * pageSize + 1} to {Math.min(page * pageSize, total)} of {total}</span>
    </nav>
  </Pagination>
{/if}

<style>
  .pages {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px;
    padding: 12px 16px;
  }
  .pages :global(.page[data-selected]) {
    border-color: var(--peat);
    border-width: 2px;
    font-weight: 600;
  }
</style>
