<script lang="ts">
  /** A hold from its start to its end, with today as a line. An open end is torn. */
  let {
    since,
    until,
    now,
    from,
    to,
    open,
  }: { since: string; until: string | null; now: string; from: number; to: number; open: boolean } = $props();
  const days = (iso: string) => Date.parse(`${iso.slice(0, 19)}Z`) / 86400000;
  const x = (d: number) => Math.max(0, Math.min(300, ((d - from) / (to - from)) * 300));
  const start = $derived(x(days(since)));
  const end = $derived(until ? x(days(until)) : 300);
  const today = $derived(x(days(now)));
  const stripes = $derived(
    Array.from({ length: Math.max(0, Math.floor((Math.min(today, end) - start) / 6)) }, (_, i) => start + 4 + i * 6),
  );
</script>

<svg viewBox="0 0 300 24" preserveAspectRatio="none" aria-hidden="true">
  {#if until}
    <path d="M{start} 5H{end}V19H{start}Z" fill="var(--held-w)" stroke="var(--held)" stroke-width="1.5" />
    <path d="M{end} 1V23" stroke="var(--held)" stroke-width="3" />
  {:else}
    <path
      d="M{start} 5H298L294 9 298 12 294 16 298 19H{start}Z"
      fill="var(--held-w)"
      stroke="var(--held)"
      stroke-width="1.5"
    />
  {/if}
  {#each stripes as stripe (stripe)}
    <path d="M{stripe} 5V19" stroke="var(--held)" stroke-width="1" opacity="0.5" />
  {/each}
  {#if open}<path d="M{today} 0V24" stroke="var(--peat)" stroke-width="2.5" />{/if}
</svg>

<style>
  svg {
    width: 100%;
    height: 24px;
    display: block;
  }
</style>
