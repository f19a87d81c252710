<script lang="ts">
  /** The frame of the plans: the list of them, and what is open. */
  import { goto } from '$app/navigation';
  import { act, ask } from '$lib/api/client';
  import Field from '$lib/ui/Field.svelte';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import { counted } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  import type { Snippet } from 'svelte';
  let {
    current = 0,
    workTitle,
    part = $bindable('work'),
    children,
    trail,
    foot,
  }: {
    current?: number;
    workTitle: string;
    part?: Part;
    children: Snippet;
    trail?: Snippet;
    foot?: Snippet;
  } = $props();
  const plans = createQuery(() => ({
    queryKey: ['bench', 'plans', session.site],
    queryFn: () => ask('/api/{site}/bench/plans'),
  }));
  let name = $state('');
  let error = $state<unknown>();
  async function make(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    try {
      const made = await act('/api/{site}/bench/plans/new', {
        name,
        says: {
          samplingUnit: 'each',
          setUpMinutes: '10',
          secondsPerPiece: '60',
          critical: null,
          major: { kind: 'Standard', level: 'II', aql: '2.5', isDouble: false, perHundred: false },
          minor: { kind: 'Standard', level: 'II', aql: '4', isDouble: false, perHundred: false },
          characteristics: [],
          wantsSecond: false,
          onlySampleWaits: false,
          eachItsOwn: false,
          skipAfter: null,
          skipPercent: null,
          qualification: null,
        },
      });
      name = '';
      await plans.refetch();
      await goto(`/bench/plans/${made.id}`);
    } catch (problem) {
      error = problem;
    }
  }
</script>

<Frame
  queueTitle="Inspection plans"
  queueCount={counted(plans.data?.length ?? 0, 'plan')}
  {workTitle}
  bind:part
  {trail}
  {foot}
>
  {#snippet queue()}
    <p class="pad links">
      <a class="link" href="/bench">Back to the queue of Bench</a>
      <a class="link" href="/bench/rules">Which goods go by which plan</a>
      <a class="link" href="/bench/gauges">Gauges</a>
    </p>
    {#each plans.data ?? [] as p, i (p.id)}
      <QueueCard
        href="/bench/plans/{p.id}"
        current={p.id === current}
        code={counted(p.items, 'use')}
        title={p.name}
        why={p.why}
        order={i}
      >
        {#snippet mark()}
          {#if p.draft}<Mark kind="inspect" word="draft {p.draft}" />
          {:else if p.inForce}<Mark kind="done" word="version {p.inForce}" />{/if}
        {/snippet}
      </QueueCard>
    {:else}
      <p class="empty">There is no plan yet. Name the first below.</p>
    {/each}
    {#if session.may('KeepPlans')}
      <form class="pad new" onsubmit={make}>
        <Field label="A new plan is called"><input name="plan-name" bind:value={name} maxlength="60" required /></Field>
        <button class="button">Draft it</button>
        <ProblemNote {error} />
      </form>
    {/if}
  {/snippet}
  {#snippet work()}{@render children()}{/snippet}
</Frame>

<style>
  .links {
    display: flex;
    flex-direction: column;
    gap: 6px;
  }
  .new {
    display: flex;
    flex-direction: column;
    gap: 8px;
  }
</style>
