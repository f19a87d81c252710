<script lang="ts">
  /** An arrival's body: closed end left, doors right, filled as it is counted. Over is a tooth, short a bite, damaged a crack. */
  import type { Schemas } from '$lib/api/client';
  let {
    share,
    notches = [],
    open = true,
    ribbed = false,
    label,
    height = 14,
  }: {
    share: number;
    notches?: Schemas['Notch'][];
    open?: boolean;
    ribbed?: boolean;
    label: string;
    height?: number;
  } = $props();
  // As wide as its place, so that its ends and notches keep their shape.
  let measured = $state(0);
  const width = $derived(Math.max(60, measured || 240));
  const top = 7;
  const bottom = $derived(top + height);
  const end = $derived(width - (open ? 8 : 4));
  const left = 2.5;
  const round = $derived(Math.min(6, height / 2.2));
  const at = (t: number) => left + 2 + (end - left - 3) * t;
  const fill = $derived(at(Math.min(1, share)));
  const edge = $derived(
    `H${left + round}Q${left} ${top} ${left} ${top + round}V${bottom - round}Q${left} ${bottom} ${left + round} ${bottom}`,
  );
</script>

<div class="place" bind:clientWidth={measured}>
  <svg class="load" {width} height={height + 13} viewBox="0 0 {width} {height + 13}" role="img" aria-label={label}>
    <path d="M{end} {top}{edge}H{end}Z" fill="var(--paper)" />
    {#if share > 0}
      <path d="M{fill} {top}{edge}H{fill}Z" fill="var(--load)" />
      {#if share < 1}<path d="M{fill} {top}V{bottom}" stroke="var(--load-line)" stroke-width="2" />{/if}
    {/if}
    {#if ribbed}
      {#each Array.from({ length: Math.floor((end - left - 18) / 10) }, (_, i) => left + 14 + i * 10) as x (x)}
        <path d="M{x} {top}v3M{x} {bottom}v-3" stroke="var(--load-line)" stroke-width="0.8" opacity="0.5" />
      {/each}
    {/if}
    <path d="M{end} {top}{edge}H{end}" fill="none" stroke="var(--load-line)" stroke-width="1.5" />
    <path
      d="M{left} {top + round}V{bottom - round}"
      stroke="var(--load-line)"
      stroke-width="3.5"
      stroke-linecap="round"
    />
    {#if open}
      <path
        d="M{end} {top}l6 -4M{end} {bottom}l6 4"
        stroke="var(--load-line)"
        stroke-width="1.6"
        stroke-linecap="round"
      />
    {:else}
      <path d="M{end} {top}V{bottom}" stroke="var(--load-line)" stroke-width="2" />
    {/if}
    {#each notches as notch, i (i)}
      {@const x = at(notch.at)}
      {#if notch.kind === 'over'}
        <path d="M{x - 5} {top + 0.5}L{x} {top - 6.5}L{x + 5} {top + 0.5}Z" fill="var(--disc)" />
      {:else if notch.kind === 'short'}
        <path
          d="M{x - 5} {top - 0.8}L{x} {top + 6.5}L{x + 5} {top - 0.8}Z"
          fill="var(--paper)"
          stroke="var(--disc)"
          stroke-width="1.7"
        />
      {:else}
        <path
          d="M{x - 5} {bottom + 1}l2.5 -6 2.5 4 2.5 -4 2.5 6"
          fill="var(--paper)"
          stroke="var(--disc)"
          stroke-width="1.7"
        />
      {/if}
    {/each}
  </svg>
</div>

<style>
  .place {
    min-width: 0;
    overflow: hidden;
  }
  .load {
    display: block;
  }
</style>
