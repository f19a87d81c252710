<script lang="ts">
  /** What was counted on one line: by whom, when and where; each taken back for itself, or all of it. */
  import { ask } from '$lib/api/client';
  import AskInspection from '$lib/bench/AskInspection.svelte';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import { number, plural, time } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  import TakeBack from './TakeBack.svelte';
  let { arrival, part, changed, ondone }: { arrival: string; part: number; changed: string; ondone: () => void } =
    $props();
  const rows = createQuery(() => ({
    queryKey: ['door', 'line', session.site, arrival, part, changed],
    queryFn: () => ask('/api/{site}/door/tally/{number}/line/{part}', { number: arrival, part }),
    placeholderData: (before) => before,
  }));
  const standing = $derived((rows.data ?? []).filter((c) => !c.takenBack));
</script>

<div class="counts">
  {#each rows.data ?? [] as c, i (c.act + i)}
    <p class:back={c.takenBack}>
      <time>{time(c.at)}</time>
      <span>
        {c.person}: {number(c.quantity)}
        {c.unit} in {c.place}{c.batch ? `, batch ${c.batch}` : ''}{c.sscc ? `, unit ${c.sscc}` : ''}{c.aside
          ? ', aside'
          : ''}{c.takenBack ? ' (taken back)' : ''}
        {#if c.canTakeBack && session.may('Tally')}<TakeBack {arrival} count={c.act} {ondone} />{/if}
        {#if !c.takenBack}<AskInspection
            count={c.act}
            ondone={(sentence) => {
              scanLine.say({ words: sentence, next: 'scan the next label', tone: 'taken' });
              ondone();
            }}
          />{/if}
      </span>
    </p>
  {:else}
    <p class="quiet">
      {rows.error || rows.fetchStatus === 'paused'
        ? 'The counts of this line are not on this device. Look again when the network is back.'
        : rows.isPending
          ? 'Looking …'
          : 'Nothing is counted on this line.'}
    </p>
  {/each}
  {#if standing.length > 1 && standing.some((c) => c.canTakeBack) && session.may('CloseTally')}
    <TakeBack
      {arrival}
      {part}
      word="Take back all {standing.length} {plural('count', standing.length)} of this line"
      {ondone}
    />
  {/if}
</div>

<style>
  .counts {
    grid-column: 1 / -1;
    padding: 2px 0 8px 32px;
    display: flex;
    flex-direction: column;
    gap: 4px;
  }
  p {
    display: flex;
    gap: 10px;
  }
  time {
    font-family: var(--code);
    color: var(--peat-3);
  }
  .back span {
    text-decoration: line-through;
  }
</style>
