<script lang="ts">
  /** The frame of what is seen coming: the characteristics that are followed, the most urgent first. */
  import { ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import { counted } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  import type { Snippet } from 'svelte';
  let {
    current = '',
    workTitle,
    part = $bindable('work'),
    children,
    trail,
  }: { current?: string; workTitle: string; part?: Part; children: Snippet; trail?: Snippet } = $props();
  const followed = createQuery(() => ({
    queryKey: ['bench', 'coming', session.site],
    queryFn: () => ask('/api/{site}/bench/coming'),
  }));
  let all = $state(false);
  const quiet = (state: string) => state === 'Steady' || state === 'TooFew';
  const cards = $derived(followed.data ?? []);
  const shown = $derived(all ? cards : cards.filter((c, i) => !quiet(c.state) || i < 5));
</script>

<Frame queueTitle="Seen coming" queueCount="{cards.length} followed" {workTitle} bind:part {trail}>
  {#snippet queue()}
    <p class="pad"><a class="link" href="/bench">Back to the queue of Bench</a></p>
    {#each shown as c, i (`${c.planId} ${c.itemId} ${c.vendorId} ${c.characteristic}`)}
      <QueueCard
        href="/bench/coming/{c.planId}/{c.itemId}/{c.vendorId}/{c.characteristic}"
        current={`${c.planId} ${c.itemId} ${c.vendorId} ${c.characteristic}` === current}
        code={counted(c.lots, 'lot')}
        title={c.name}
        why={c.why}
        order={i}
      >
        {#snippet mark()}
          {#if c.state === 'PassesLimit'}<Mark kind="disc" word="in {counted(c.passesIn ?? 0, 'lot')}" />
          {:else if c.state === 'RuleBroken'}<Mark kind="disc" word="rule broken" />
          {:else if c.state === 'Unsteady'}<Mark kind="inspect" word="unsteady" />
          {:else if c.state === 'Steady'}<Mark kind="usable" word="steady" />{/if}
        {/snippet}
        <span class="quiet">{c.item} · {c.vendor}</span>
      </QueueCard>
    {:else}
      <p class="empty">No lot was signed yet. What is measured at the bench is followed here from lot to lot.</p>
    {/each}
    {#if shown.length < cards.length}
      <p class="pad">
        <button class="button" onclick={() => (all = true)}>{cards.length - shown.length} more: no rule broken</button>
      </p>
    {/if}
  {/snippet}
  {#snippet work()}{@render children()}{/snippet}
</Frame>
