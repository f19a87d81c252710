<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import { page } from '$app/state';
  import PicturesOf from '$lib/door/PicturesOf.svelte';
  import { act, ask } from '$lib/api/client';
  import Chain from '$lib/cage/Chain.svelte';
  import Conditions from '$lib/cage/Conditions.svelte';
  import Decide from '$lib/cage/Decide.svelte';
  import HoldBar from '$lib/cage/HoldBar.svelte';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import StandingMark from '$lib/ui/StandingMark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import { counted, day, number, when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const cage = createQuery(() => ({ queryKey: ['cage', session.site], queryFn: () => ask('/api/{site}/cage/holds') }));
  const recalls = createQuery(() => ({
    queryKey: ['cage', 'recalls', session.site],
    queryFn: () => ask('/api/{site}/cage/recalls'),
  }));
  let chosen = $state(page.url.searchParams.get('hold') ?? '');
  let part = $state<Part>('work');
  let note = $state('');
  let error = $state<unknown>();
  let done = $state('');
  const open = $derived((cage.data?.holds ?? []).filter((h) => h.isOpen));
  const current = $derived((cage.data?.holds ?? []).find((h) => h.number === chosen) ?? open[0]);
  const now = $derived(cage.data?.now ?? '2026-01-01T00:00:00');
  const dayOf = (iso: string) => Date.parse(`${iso.slice(0, 19)}Z`) / 86400000;
  const from = $derived(dayOf(now) - 16);
  const to = $derived(dayOf(now) + 24);
  const figures = $derived(cage.data?.figures);
  const ready = $derived(open.filter((h) => h.isReady && h.canLift));
  /** Holds that are alike and can be lifted together: of the same reason as the one looked at. */
  const alike = $derived(
    current?.isReady && current.canLift && !current.canDecide
      ? ready.filter((h) => h.reason === current.reason && !h.canDecide).map((h) => h.number)
      : [],
  );
  const waitWords = {
    Lifting: 'to be lifted',
    Decision: 'to be decided over',
    CarryingOut: 'to be carried out',
    PaperOrSignature: 'for a paper or a signature',
    Inspection: 'for an inspection',
    Time: 'for their time',
    Concession: 'for the end of a concession',
  } as const;
  /** How far over or short of its end a hold is, in words beside its bar. */
  function ends(h: { until: string | null; due: string | null }) {
    const end = h.until ?? h.due;
    if (!end) return 'no end';
    const days = Math.floor(dayOf(end)) - Math.floor(dayOf(now));
    if (h.until) return days < 0 ? `over since ${day(end)}` : days === 0 ? 'ends today' : `${days} d`;
    return days < 0 ? `${-days} d overdue` : days === 0 ? 'due today' : `due in ${days} d`;
  }
  const finding = $derived.by(() => {
    if (!current) return 'Nothing is held';
    if (!current.isOpen) return `${current.item} was lifted`;
    const goods = `${current.item}: ${number(current.quantity)} ${current.unit}`;
    if (current.decision) return `${goods} ${current.decision.toBe}`;
    if (current.recall) return `${goods} recalled`;
    if (current.return) return `${goods} ${current.canDecide ? 'want a decision' : 'back from a customer'}`;
    if (current.reason === 'Nonconforming' || current.reason === 'CountedAside') return `${goods} want a decision`;
    if (current.isReady) return `${goods} can leave the cage today`;
    return current.isOverdue ? `${goods} wait longer than they should` : `${goods} held`;
  });
  function choose(hold: string) {
    chosen = hold;
    part = 'work';
    note = done = '';
    error = undefined;
  }
  async function run(work: () => Promise<{ sentence: string }>) {
    error = undefined;
    done = '';
    try {
      done = (await work()).sentence;
      note = '';
      await cage.refetch();
    } catch (problem) {
      error = problem;
    }
  }
</script>

<svelte:head><title>Cage · Mud Room</title></svelte:head>
<Frame queueTitle="Holds" queueCount="{open.length} open" workTitle={current?.number ?? 'Cage'} bind:part>
  {#snippet queue()}
    <p class="pad row">
      <a class="link" href="/cage/recalls">Recalls</a> <a class="link" href="/cage/ahead">Held as it comes</a>
      <a class="link" href="/cage/returns">Customer returns</a> <a class="link" href="/cage/calendar">Calendar</a>
      <a class="link" href="/cage/rules">Rules of holds</a>
    </p>
    {#each recalls.data?.open ?? [] as r (r.number)}
      <QueueCard href="/cage/recalls/{r.number}" code={r.number} title={r.says} why={r.finding}>
        {#snippet mark()}
          <Mark kind={r.missing ? 'disc' : 'held'} word={r.isDrill ? 'drill' : r.missing ? 'missing' : 'recall'} />
        {/snippet}
      </QueueCard>
    {/each}
    {#each cage.data?.holds ?? [] as h, i (h.number)}
      <QueueCard
        onpress={() => choose(h.number)}
        current={h.number === current?.number}
        code={h.number}
        title="{h.item}, {h.inPacks}"
        why={h.why}
        order={h.isOpen ? i : 9}
      >
        {#snippet mark()}
          {#if !h.isOpen}<Mark kind="done" word="lifted" />
          {:else}<StandingMark standing={h.asks} />{/if}
        {/snippet}
      </QueueCard>
    {:else}
      <p class="empty">
        Nothing is held. Goods come here by rule, when they are counted aside, or when the bench rejects them.
      </p>
    {/each}
    {#if cage.data && cage.data.notShown > 0}<p class="pad quiet">
        and {counted(cage.data.notShown, 'hold')} more behind these.
      </p>{/if}
  {/snippet}
  {#snippet work()}
    {#if current}
      <div class="head">
        <h1>{finding}</h1>
        <p>
          <span class="c">{current.number}</span>
          {#if current.isOpen}since {when(current.since)}, laid by {current.laidBy}
            {#if current.batch}· batch <span class="c">{current.batch}</span>{/if}{:else}Lifted {when(current.liftedAt)} by
            {current.liftedBy}{current.liftedNote ? `: ${current.liftedNote}` : ''}{/if}
        </p>
        <p class="quiet">{current.sentence}</p>
        {#if current.recall}<p>
            <a class="link" href="/cage/recalls/{current.recall}">Recall {current.recall}: where all of it is</a>
          </p>{/if}
        {#if current.return}<p>
            <a class="link" href="/cage/returns/{encodeURIComponent(current.return)}"
              >Return {current.return}: its whole way</a
            >
          </p>{/if}
        {#if current.isOpen && current.besides.length > 0}
          <p>
            <span class="c">{current.besides.join(', ')}</span>
            {current.besides.length === 1 ? 'is' : 'are'} on these goods too. They are free when the last is settled.
          </p>
        {/if}
      </div>
      {#if current.isOpen}
        <div class="pad acts">
          {#key current.number}
            <Conditions
              hold={current}
              changed={async (sentence) => {
                done = sentence;
                await cage.refetch();
              }}
            />
          {/key}
          <ProblemNote {error} />
          {#if current.canLift && !current.isReady}
            <p class="quiet">It can be lifted when its conditions are met.</p>
          {:else if current.canLift}
            <form
              class="row"
              onsubmit={(e) => {
                e.preventDefault();
                void run(() => act('/api/{site}/cage/lift', { hold: current!.number, note: note || null }));
              }}
            >
              <Field label="Note" class="grow"><input name="lift-note" bind:value={note} /></Field>
              <button class="button" class:go={!current.canDecide}>Sign and release {number(current.quantity)}</button>
              {#if alike.length > 1}<button
                  class="button"
                  type="button"
                  id="lift-many"
                  onclick={() =>
                    void run(() => act('/api/{site}/cage/lift-many', { holds: alike, note: note || null }))}
                  >Release all {alike.length} that are ready</button
                >{/if}
            </form>
          {/if}
          {#key current.number}
            <Decide
              hold={current}
              changed={async (sentence) => {
                done = sentence;
                await cage.refetch();
              }}
            />
          {/key}
        </div>
      {/if}
    {/if}
    {#if done}<p class="good">{done}</p>{/if}
    {#if open.length > 0}
      <div class="bars" role="table" aria-label="Holds by time">
        <div class="bar heads" role="row">
          <span role="columnheader">Held goods, where</span><span role="columnheader"
            >{day(new Date(from * 86400000).toISOString())} … today … {day(new Date(to * 86400000).toISOString())}</span
          ><span role="columnheader">What lifts it</span>
        </div>
        {#each open as h (h.number)}
          <div class="bar" class:on={h.number === current?.number} role="row">
            <span role="cell"
              ><button class="link" onclick={() => choose(h.number)}>{h.item}</button><br /><span class="quiet"
                ><span class="c">{h.number}</span>
                {number(h.quantity)}
                {h.unit}, {h.places.join(', ') || 'nowhere'}</span
              ></span
            >
            <span role="cell"
              ><HoldBar since={h.since} until={h.until ?? h.due} {now} {from} {to} open={h.isOpen} /><span
                class="quiet ends">{ends(h)}</span
              ></span
            >
            <span role="cell"><Chain links={h.links} /></span>
          </div>
        {/each}
      </div>
    {/if}
  {/snippet}
  {#snippet trail()}
    {#if figures && figures.open > 0}
      <section class="trail-part" id="blocked">
        <h2>What the cage blocks</h2>
        <p>
          <b>{number(Math.round(figures.litres))}</b> L{#if figures.value !== null}, goods of
            <b>{number(Math.round(figures.value))}</b> at the last order prices{#if figures.unpriced > 0}&nbsp;({counted(
                figures.unpriced,
                'hold',
              )} without a price){/if}{/if}; {figures.meanDays.toFixed(1)} days on average, the oldest
          {Math.floor(figures.oldestDays)}.
        </p>
        <p>
          {#each figures.waiting as w, i (w.for)}{i > 0 ? ', ' : ''}{w.count}
            {waitWords[w.for]}{/each}{#if figures.overdue > 0};
            <b>{figures.overdue} overdue</b>{/if}.
        </p>
        <p class="quiet" id="reasons">
          Laid: {#each figures.reasons as r, i (r.reason)}{i > 0 ? ', ' : ''}{r.reason}&nbsp;{r.count}{/each}.
        </p>
      </section>
    {/if}
    {#if current}
      {#if current.arrival}<PicturesOf arrival={current.arrival} item={current.item} />{/if}
      <section class="trail-part">
        <h2>Why it is held</h2>
        <p>{current.sentence}</p>
        <p class="quiet">Laid by {current.laidBy}, {when(current.since)}.</p>
      </section>
      {#if !current.isOpen}<section class="trail-part">
          <h2>What lifted it</h2>
          {#each current.links as l, i (i)}<p>
              <Mark kind={l.closed ? 'done' : l.overdue ? 'late' : 'held'} word={l.word} />
              {l.sentence}
            </p>{/each}
        </section>{/if}
      <section class="trail-part">
        <h2>Papers</h2>
        {#if current.arrival}<p>
            Arrival <a class="link c" href="/road/arrivals/{current.arrival}">{current.arrival}</a>
          </p>{/if}
        {#if current.inspection}<p>
            Inspection <a class="link c" href="/bench/{current.inspection}">{current.inspection}</a>
          </p>{/if}
        {#if current.sourceBatch}<p>Source batch <span class="c">{current.sourceBatch}</span></p>{/if}
        <p><a class="link" href="/book?text={current.number}">All that happened to {current.number}</a></p>
      </section>
    {/if}
  {/snippet}
</Frame>

<style>
  .acts {
    display: flex;
    flex-direction: column;
    gap: 12px;
  }
  form.row {
    align-items: flex-end;
  }
  .good {
    margin: 0 18px 12px;
  }
  .bar {
    display: grid;
    grid-template-columns: minmax(150px, 1.1fr) minmax(120px, 1.4fr) minmax(150px, 0.9fr);
    gap: 14px;
    padding: 7px 18px;
    border-top: 1px solid var(--stone-2);
    align-items: center;
  }
  .heads {
    background: var(--stone-1);
    font-size: 13px;
    font-weight: 600;
  }
  .bar.on {
    background: var(--lit-faint);
  }
  .ends {
    font-size: 13px;
  }
  @media (max-width: 700px) {
    .bar {
      grid-template-columns: 1fr;
      gap: 4px;
    }
    .heads {
      display: none;
    }
  }
</style>
