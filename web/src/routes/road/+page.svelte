<script lang="ts">
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { page } from '$app/state';
  import { act, ask, Problem, type Schemas } from '$lib/api/client';
  import DayBoard from '$lib/road/DayBoard.svelte';
  import DayList from '$lib/road/DayList.svelte';
  import { dayName, later } from '$lib/road/board';
  import PlanPanel from '$lib/road/PlanPanel.svelte';
  import Proposal from '$lib/road/Proposal.svelte';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import Spread from '$lib/road/Spread.svelte';
  import WeekBoard from '$lib/road/WeekBoard.svelte';
  import { session } from '$lib/session.svelte';
  import { time } from '$lib/ui/format';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { tick } from 'svelte';
  import { MediaQuery } from 'svelte/reactivity';
  /** Below this the board would be pressed together until labels lie on each other. */
  const narrow = new MediaQuery('max-width: 1000px');
  let panel = $state<HTMLElement>();
  async function plan(block: Schemas['DayBlock']) {
    chosen = block.card.number;
    await tick();
    panel?.scrollIntoView({ block: 'start' });
  }
  let date = $state('');
  let zoom = $state<'day' | 'week'>('day');
  const day = createQuery(() => ({
    queryKey: ['road', 'day', 'door', 'yard', session.site, date],
    queryFn: () => ask('/api/{site}/road/day', { date }),
    placeholderData: keepPreviousData,
  }));
  const shown = $derived(date || (day.data?.date ?? ''));
  const count = (state: string) => (day.data?.blocks ?? []).filter((b) => b.card.state === state).length;
  const open = $derived(day.data?.blocks.filter((b) => b.card.state === 'Expected' || b.card.state === 'InYard') ?? []);
  const without = $derived(open.filter((b) => b.door === null));
  const broken = $derived(open.filter((b) => b.broken.some((r) => !r.overruled)));
  const wanted = $derived(page.url.searchParams.get('plan') ?? '');
  let chosen = $state('');
  $effect(() => {
    if (wanted) chosen = wanted;
  });
  const current = $derived(open.find((b) => b.card.number === chosen) ?? broken[0] ?? without[0]);
  let said = $state('');
  let error = $state<unknown>();
  /** A move that breaks a rule: what it breaks, and what is offered instead. */
  let asked = $state<{ block: Schemas['DayBlock']; door: number; start: string; check: Schemas['PlanCheckAnswer'] }>();
  let proposing = $state(false);

  async function move(
    block: Schemas['DayBlock'],
    door: number,
    start: string,
    crew: number[] | null = null,
    reason: string | null = null,
  ) {
    error = undefined;
    said = '';
    try {
      const done = await act('/api/{site}/road/plan', {
        arrival: block.card.number,
        door,
        start,
        crew,
        version: block.version,
        reason,
      });
      said = done.sentence;
      asked = undefined;
      await day.refetch();
    } catch (problem) {
      if (problem instanceof Problem && (problem.code === 'plan-breaks-rule' || problem.code === 'plan-warns')) {
        const check = await act('/api/{site}/road/plan/check', {
          arrival: block.card.number,
          door,
          start,
          crew,
          version: block.version,
          reason: null,
        });
        asked = { block, door, start, check };
        chosen = block.card.number;
      } else {
        error = problem;
        await day.refetch();
      }
    }
  }
  async function takeOff(block: Schemas['DayBlock']) {
    error = undefined;
    try {
      const done = await act('/api/{site}/road/plan', {
        arrival: block.card.number,
        door: null,
        start: block.card.planned,
        crew: null,
        version: block.version,
        reason: null,
      });
      said = done.sentence;
      await day.refetch();
    } catch (problem) {
      error = problem;
    }
  }
</script>

<svelte:head><title>Road · Mud Room</title></svelte:head>
<RoadFrame workTitle="Plan of the day" current={chosen}>
  {#if day.data}
    <div class="bar row">
      <div class="row days">
        <button class="button" onclick={() => (date = later(shown, zoom === 'day' ? -1 : -7))} aria-label="Earlier"
          >‹</button
        >
        <h1>{dayName(shown)}{day.data.holiday ? `, ${day.data.holiday}` : ''}</h1>
        <button class="button" onclick={() => (date = later(shown, zoom === 'day' ? 1 : 7))} aria-label="Later"
          >›</button
        >
        <button class="button" aria-pressed={zoom === 'week'} onclick={() => (zoom = zoom === 'day' ? 'week' : 'day')}
          >{zoom === 'day' ? 'Week' : 'Day'}</button
        >
      </div>
      <span class="quiet grow counts">
        <b>{day.data.blocks.length}</b> arrivals · <b>{count('CountedIn')}</b> done · <b>{count('AtDoor')}</b> at doors
        ·
        <b>{count('InYard')}</b>
        in the yard · <b>{count('Expected')}</b> to come
      </span>
      {#if session.may('PlanArrivals') && zoom === 'day'}
        <button class="button" onclick={() => (proposing = true)}>Propose a plan</button>
      {/if}
    </div>
    {#if zoom === 'week'}
      <WeekBoard date={shown} onday={(d) => ((date = d), (zoom = 'day'))} />
    {:else}
      {#if narrow.current}
        <DayList
          day={day.data}
          bind:chosen
          {...session.may('PlanArrivals') && { onplan: (b: Schemas['DayBlock']) => void plan(b) }}
        />
      {:else}
        <DayBoard
          day={day.data}
          movable={session.may('PlanArrivals')}
          bind:chosen
          onmove={(b, d, s) => void move(b, d, s)}
        />
      {/if}
      <p class="sr-only" aria-live="polite">{said}</p>
      {#if day.data.forecast && day.data.forecast.doors.length > 0}
        {@const f = day.data.forecast}
        {@const lastDoor = f.doors.reduce((a, b) => (a.likely >= b.likely ? a : b))}
        <div class="strip forecast">
          <div>
            <h2>
              {lastDoor.what[0]!.toUpperCase() + lastDoor.what.slice(1)} is the last to be clear:
              <b class="c">{time(f.allDoors.likely)}</b>, between <span class="c">{time(f.allDoors.early)}</span> and
              <span class="c">{time(f.allDoors.late)}</span>.
            </h2>
            <p>
              {f.firstLate
                ? `First to run late is ${f.firstLate}, in ${Math.round(f.firstLateChance * 100)} of 100 runs. `
                : 'Nothing is likely to run late. '}
              {f.allDoors.pastShift >= 0.01
                ? `${Math.round(f.allDoors.pastShift * 100)} chances in 100 to pass the end of the shift. `
                : ''}
              Bench clear {time(f.bench.likely)}, shelf {time(f.shelf.likely)}.
              {f.withoutDoor.length > 0
                ? `${f.withoutDoor.join(', ')} ${f.withoutDoor.length === 1 ? 'has' : 'have'} no door yet: ` +
                  'counted in as work for bench and shelf. '
                : ''}
              {f.leftOut.length > 0 ? `Left out, since not thought to come today: ${f.leftOut.join(', ')}.` : ''}
            </p>
          </div>
          <Spread
            bars={f.spread}
            likely={f.allDoors.likely}
            ends={day.data.doors
              .map((d) => d.to ?? '')
              .sort()
              .at(-1) ?? ''}
          />
        </div>
      {/if}
      <div bind:this={panel}></div>
      {#if current}
        {#key current.card.number}
          <PlanPanel
            block={current}
            day={day.data}
            asked={asked?.block.card.number === current.card.number ? asked : undefined}
            {error}
            {said}
            onmove={(door, start, crew, reason) => void move(current, door, start, crew, reason)}
            onleave={() => (asked = undefined)}
            ontakeoff={() => void takeOff(current)}
          />
        {/key}
      {:else if day.data.blocks.length === 0}
        <p class="empty">
          No arrivals on this day. Make one from an order: Orders, then an order, then Make an arrival.
        </p>
      {:else}
        <p class="empty">Every plan of this day keeps its rules. Choose a load to move it.</p>
      {/if}
    {/if}
  {:else if day.error}<div class="pad"><ProblemNote error={day.error} /></div>{/if}
</RoadFrame>
{#if proposing && day.data}
  <Proposal bind:open={proposing} date={shown} onend={(sentence) => ((said = sentence), void day.refetch())} />
{/if}

<style>
  .bar {
    padding: 5px 14px;
    border-bottom: 1px solid var(--stone-2);
  }
  .days {
    gap: 6px;
  }
  .days h1 {
    font-size: 17px;
    min-width: 106px;
    text-align: center;
  }
  @media (max-width: 700px) {
    .bar .counts {
      flex-basis: 100%;
    }
  }
  .counts {
    text-align: right;
  }
  .strip {
    padding: 5px 14px;
    border-bottom: 1px solid var(--stone-2);
  }
  .forecast {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 230px;
    gap: 16px;
    align-items: center;
  }
  .forecast h2 {
    font-size: 16px;
    font-weight: 500;
  }
  @media (max-width: 700px) {
    .counts {
      text-align: left;
    }
    .forecast {
      grid-template-columns: 1fr;
    }
  }
</style>
