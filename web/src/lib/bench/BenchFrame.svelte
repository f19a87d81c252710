<script lang="ts">
  import { ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  import type { Snippet } from 'svelte';
  let {
    current = '',
    workTitle,
    part = $bindable('work'),
    children,
    trail,
    foot,
  }: {
    current?: string;
    workTitle: string;
    part?: Part;
    children: Snippet;
    trail?: Snippet;
    foot?: Snippet;
  } = $props();
  const lots = createQuery(() => ({
    queryKey: ['bench', 'queue', session.site],
    queryFn: () => ask('/api/{site}/bench/queue'),
  }));
  const waiting = $derived((lots.data ?? []).filter((l) => l.state !== 'Signed'));
  const open = $derived(waiting.length);
  const minutes = $derived(waiting.reduce((sum, l) => sum + (l.minutes ?? 0), 0));
  const span = (m: number) => (m < 60 ? `${m} min` : `${Math.floor(m / 60)} h ${String(m % 60).padStart(2, '0')}`);
</script>

<Frame
  queueTitle="Waits at the bench"
  queueCount="{open} {open === 1 ? 'lot' : 'lots'}{minutes > 0 ? `, ${span(minutes)}` : ''}"
  {workTitle}
  bind:part
  {trail}
  {foot}
>
  {#snippet queue()}
    <p class="pad row">
      <a class="link" href="/bench/coming">Seen coming</a> <a class="link" href="/bench/plans">Inspection plans</a>
    </p>
    {#each lots.data ?? [] as l, i (l.number)}
      <QueueCard
        href="/bench/{l.number}"
        current={l.number === current}
        code={l.number}
        title={l.item}
        why={l.why}
        order={l.state === 'Signed' ? 9 : i}
      >
        {#snippet mark()}
          {#if l.verdict === 'Accepted'}<Mark kind="usable" word="accepted" />
          {:else if l.verdict === 'Rejected'}<Mark kind="rejected" word="rejected" />
          {:else if l.state === 'Drawn'}<Mark kind="inspect" word={l.isMine ? 'yours' : 'open'} />{/if}
        {/snippet}
        <span class="quiet"
          >{l.inPacks} · {l.vendor}{l.batch ? ` · ${l.batch}` : ''}{l.minutes
            ? ` · ${span(l.minutes)}`
            : ''}{l.takenBy && !l.isMine ? ` · ${l.takenBy} has it` : ''}</span
        >
      </QueueCard>
    {:else}
      <p class="empty">
        Nothing waits. Goods whose item has an inspection plan come here by themselves when they are counted.
      </p>
    {/each}
  {/snippet}
  {#snippet work()}{@render children()}{/snippet}
</Frame>

<style>
  .row {
    display: flex;
    gap: 18px;
  }
</style>
