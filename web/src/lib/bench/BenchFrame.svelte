<script lang="ts">
  import type { Schemas } from '$lib/api/client';
  import { queueOf, usual } from '$lib/bench/queue';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import { noticesOf } from '$lib/ui/notices';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
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
  let most = $state(usual);
  const lots = createQuery(() => ({ ...queueOf(session.site, most), placeholderData: keepPreviousData }));
  const notices = createQuery(() => noticesOf(session.site));
  const toFind = $derived((notices.data?.notices ?? []).filter((n) => n.kind === 'ToFind').length);
  const open = $derived(lots.data?.open ?? 0);
  const minutes = $derived(lots.data?.minutes ?? 0);
  const cards = $derived(lots.data?.cards ?? []);
  const waiting = $derived(cards.filter((l) => l.state !== 'Signed'));
  const signed = $derived(cards.filter((l) => l.state === 'Signed'));
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
      <a class="link" href="/cage/returns">Customer returns{toFind > 0 ? `, ${toFind} to look at` : ''}</a>
    </p>
    {#snippet card(l: Schemas['InspectionCard'], order: number)}
      <QueueCard
        href="/bench/{l.number}"
        current={l.number === current}
        code={l.number}
        title={l.item}
        why={l.why}
        {order}
      >
        {#snippet mark()}
          {#if l.supersededBy}<Mark kind="open" word="superseded" />
          {:else if l.verdict === 'Accepted'}<Mark kind="usable" word="accepted" />
          {:else if l.verdict === 'Rejected'}<Mark kind="rejected" word="rejected" />
          {:else if l.state === 'Drawn'}<Mark kind="inspect" word={l.isMine ? 'yours' : 'open'} />{/if}
        {/snippet}
        <span class="quiet"
          >{l.inPacks} · {l.vendor}{l.batch ? ` · ${l.batch}` : ''}{l.minutes
            ? ` · ${span(l.minutes)}`
            : ''}{l.takenBy && !l.isMine ? ` · ${l.takenBy} has it` : ''}</span
        >
      </QueueCard>
    {/snippet}
    {#each waiting as l, i (l.number)}{@render card(l, i)}{:else}
      <p class="empty">
        Nothing waits. Goods whose item has an inspection plan come here by themselves when they are counted.
      </p>
    {/each}
    {#if lots.data && lots.data.more > 0}<p class="pad">
        <button class="button" onclick={() => (most += usual)}>{lots.data.more} more wait</button>
      </p>{/if}
    {#each signed as l (l.number)}{@render card(l, 9)}{/each}
  {/snippet}
  {#snippet work()}{@render children()}{/snippet}
</Frame>

<style>
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 0 18px;
  }
</style>
