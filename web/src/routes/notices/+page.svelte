<script lang="ts">
  /** What needs who is signed in, now: the most pressing first, each with the way to it. */
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { counted, when } from '$lib/ui/format';
  import { noticesOf } from '$lib/ui/notices';
  import type { Schemas } from '$lib/api/client';
  import { createQuery } from '@tanstack/svelte-query';
  const query = createQuery(() => noticesOf(session.site));
  const words: Record<
    Schemas['NoticeKind'],
    [string, 'disc' | 'late' | 'today' | 'inspect' | 'held' | 'open' | 'done']
  > = {
    Missing: ['missing', 'disc'],
    Overdue: ['overdue', 'late'],
    Question: ['a question', 'today'],
    Answer: ['an answer', 'done'],
    WaitedFor: ['waited for', 'today'],
    ToFind: ['to look at', 'inspect'],
    ToDecide: ['to decide', 'held'],
    ToCarryOut: ['to be done', 'open'],
    ToSign: ['to sign', 'held'],
    ToLift: ['to release', 'done'],
  };
  const all = $derived(query.data?.notices ?? []);
  /** Only of this kind; all where none is chosen. */
  let only = $state<Schemas['NoticeKind']>();
  let part = $state<Part>('work');
  const kinds = $derived([...new Set(all.map((n) => n.kind))]);
  const shown = $derived(only && kinds.includes(only) ? all.filter((n) => n.kind === only) : all);
</script>

<svelte:head><title>For you · Mud Room</title></svelte:head>
<Frame queueTitle="For you" queueCount={query.data?.total ?? ''} workTitle="For you" bind:part>
  {#snippet queue()}
    <QueueCard
      onpress={() => {
        only = undefined;
        part = 'work';
      }}
      current={!only}
      code={String(all.length)}
      title="all of it"
      why=""
    />
    {#each kinds as kind (kind)}
      <QueueCard
        onpress={() => {
          only = kind;
          part = 'work';
        }}
        current={only === kind}
        code={String(all.filter((n) => n.kind === kind).length)}
        title={words[kind][0]}
        why=""
      />
    {/each}
  {/snippet}
  {#snippet work()}
    <div class="head">
      <h1>
        {#if !query.data}…{:else if query.data.total === 0}Nothing waits for you{:else}{counted(
            query.data.total,
            'thing',
          )} for you{/if}
      </h1>
      <p class="quiet">What only you, or somebody with your rights, can do. It goes from here when it is done.</p>
    </div>
    <ProblemNote error={query.error} />
    <ol class="notices">
      {#each shown as n, i (i)}
        <li>
          <a href={n.href}>
            <span class="kind"><Mark kind={words[n.kind][1]} word={words[n.kind][0]} /></span>
            <span class="what"><b class="c">{n.subject}</b> {n.sentence}</span>
            <span class="quiet since">{when(n.since)}</span>
          </a>
        </li>
      {/each}
    </ol>
    {#if query.data && query.data.total > all.length}<p class="pad quiet">
        and {query.data.total - all.length} more behind these.
      </p>{/if}
  {/snippet}
</Frame>

<style>
  .notices {
    list-style: none;
    margin: 0;
    padding: 0;
  }
  li a {
    display: grid;
    grid-template-columns: 120px 1fr auto;
    gap: 14px;
    align-items: baseline;
    padding: 11px 18px;
    border-top: 1px solid var(--stone-2);
    color: inherit;
    text-decoration: none;
    min-height: 44px;
  }
  li a:hover .what {
    text-decoration: underline;
  }
  @media (max-width: 700px) {
    li a {
      grid-template-columns: 1fr auto;
      gap: 4px 10px;
    }
    .what {
      grid-column: 1 / -1;
      grid-row: 2;
    }
  }
</style>
