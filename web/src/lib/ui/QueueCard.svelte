<script lang="ts">
  /** A card of a queue: what it is, and why it stands where it stands. */
  import type { Snippet } from 'svelte';
  let {
    href,
    onpress,
    current = false,
    code,
    title,
    why,
    order,
    mark,
    children,
  }: {
    href?: string;
    onpress?: () => void;
    current?: boolean;
    code: string;
    title: string;
    why: string;
    /** Where it stands in the order of work; left out in a list that has none. */
    order?: number;
    mark?: Snippet;
    children?: Snippet;
  } = $props();
  const ordinal = $derived(order === undefined ? undefined : (['First', 'Second', 'Third'][order] ?? 'Then'));
</script>

<svelte:element
  this={href ? 'a' : 'button'}
  {href}
  role={href ? undefined : 'button'}
  class="queue-card"
  class:on={current}
  aria-current={current ? 'true' : undefined}
  onclick={onpress}
>
  <span class="top"><span class="c code">{code}</span>{@render mark?.()}</span>
  <span class="title">{title}</span>
  {@render children?.()}
  <span class="why"
    >{#if ordinal}<b>{ordinal}:</b>{/if}
    {why}</span
  >
</svelte:element>

<style>
  .queue-card {
    display: block;
    width: 100%;
    text-align: left;
    padding: 10px 14px 10px 16px;
    border-top: 1px solid var(--stone-2);
  }
  .queue-card:hover {
    background: var(--stone-1);
  }
  .queue-card.on {
    background: var(--paper);
    border-top: 2px solid var(--wall);
    border-bottom: 2px solid var(--wall);
  }
  .queue-card:focus-visible {
    outline-offset: -3px;
  }
  .top {
    display: flex;
    justify-content: space-between;
    gap: 8px;
    align-items: baseline;
  }
  .code {
    font-weight: 600;
  }
  .title {
    display: block;
    font-weight: 600;
    line-height: 1.3;
  }
  .why {
    display: block;
    font-size: 13px;
    line-height: 1.35;
    color: var(--peat-2);
    margin-top: 3px;
  }
  .why b {
    color: var(--peat);
  }
</style>
