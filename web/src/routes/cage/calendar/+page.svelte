<script lang="ts">
  /** What ends on which day: times of holds, concessions, conditions that should be met; five weeks at a time. */
  import { ask, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { counted, day, number, time } from '$lib/ui/format';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  let from = $state<string>();
  const query = createQuery(() => ({
    queryKey: ['cage', 'calendar', session.site, from],
    queryFn: () => ask('/api/{site}/cage/calendar', from ? { from } : {}),
    placeholderData: keepPreviousData,
  }));
  const calendar = $derived(query.data);
  const days = $derived(calendar?.days ?? []);
  const weeks = $derived(Array.from({ length: days.length / 7 }, (_, i) => days.slice(7 * i, 7 * i + 7)));
  const today = $derived(calendar?.today ?? '');
  let part = $state<Part>('work');
  const words: Record<Schemas['CageDayKind'], [string, 'late' | 'today' | 'done' | 'held']> = {
    Overdue: ['overdue', 'late'],
    Ready: ['to be lifted', 'today'],
    Due: ['due', 'today'],
    TimeOver: ['time over', 'done'],
    ConcessionEnds: ['held again', 'held'],
  };
  const events = $derived(days.flatMap((d) => d.events.map((e) => ({ ...e, on: d.on }))));
  const coming = $derived(events.filter((e) => e.on >= today));
  const onToday = $derived(coming.filter((e) => e.on === today).length);
  const finding = $derived(
    coming.length === 0
      ? 'Nothing ends in these weeks'
      : `${counted(onToday, 'thing')} today, ${number(coming.length - onToday)} later`,
  );
  const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
  function turn(weeksOn: number) {
    from = new Date(Date.parse(`${days[0]!.on}T00:00:00Z`) + weeksOn * 7 * 86400000).toISOString().slice(0, 10);
  }
  const works = { Off: 'no work', Half: 'half a day', Full: '' } as const;
</script>

<svelte:head><title>Calendar · Cage · Mud Room</title></svelte:head>

{#snippet event(e: Schemas['CageEventView'])}
  <a class="event" href="/cage?hold={e.hold}">
    <Mark kind={words[e.kind][1]} word={words[e.kind][0]} />
    <span class="what">{e.item}</span>
    <span class="quiet"
      ><span class="c">{e.hold}</span>
      {number(e.quantity)}
      {e.unit}{e.kind === 'Ready' || time(e.at) === '00:00' ? '' : `, ${time(e.at)}`}</span
    >
    {#if e.words}<span class="quiet">{e.words}</span>{/if}
  </a>
{/snippet}

<Frame queueTitle="Calendar of the cage" queueCount={counted(coming.length, 'day mark')} workTitle="Calendar" bind:part>
  {#snippet queue()}
    <p class="pad"><a class="link" href="/cage">Back to the holds</a></p>
    <p class="pad quiet">
      A time that is over frees nothing by itself: a supervisor lifts the hold from then on. Where the site does not
      work on that day, that is the next day worked.
    </p>
    {#if calendar}
      <p class="pad">
        {#if calendar.before > 0}{counted(calendar.before, 'mark')} before these weeks.
        {/if}{#if calendar.behind > 0}{counted(calendar.behind, 'mark')} behind them.
        {/if}{counted(calendar.noDay, 'open hold')}
        {calendar.noDay === 1 ? 'waits' : 'wait'} for people and no day.
      </p>
    {/if}
  {/snippet}
  {#snippet work()}
    <div class="head">
      <h1>{finding}</h1>
      <p class="row">
        <button class="button" id="earlier" disabled={days.length === 0} onclick={() => turn(-5)}
          >Five weeks back</button
        >
        <button class="button" id="this-week" onclick={() => (from = undefined)}>This week</button>
        <button class="button" id="later" disabled={days.length === 0} onclick={() => turn(5)}>Five weeks on</button>
      </p>
    </div>
    <ProblemNote error={query.error} />
    {#if weeks.length > 0}
      <table class="weeks">
        <caption class="sr-only">What ends from {day(days[0]!.on)} to {day(days.at(-1)!.on)}</caption>
        <thead
          ><tr
            >{#each weekdays as d (d)}<th scope="col">{d}</th>{/each}</tr
          ></thead
        >
        <tbody>
          {#each weeks as week (week[0]!.on)}
            <tr>
              {#each week as d (d.on)}
                <td
                  class:today={d.on === today}
                  class:off={d.works === 'Off'}
                  class:half={d.works === 'Half'}
                  class:past={d.on < today}
                  class:bare={d.events.length === 0}
                >
                  <p class="date">
                    <b>{day(d.on)}</b>{#if d.on === today}&nbsp;today{/if}{#if works[d.works]}&nbsp;<span class="quiet"
                        >{works[d.works]}</span
                      >{/if}
                  </p>
                  {#each d.events as e (e.hold + e.kind + e.words)}{@render event(e)}{/each}
                  {#if d.notShown > 0}<p class="quiet">and {d.notShown} more</p>{/if}
                  {#if d.workedOn && d.events.length > 0}<p class="quiet">worked on {day(d.workedOn)}</p>{/if}
                </td>
              {/each}
            </tr>
          {/each}
        </tbody>
      </table>
    {/if}
  {/snippet}
</Frame>

<style>
  .weeks {
    border-collapse: collapse;
    table-layout: fixed;
    width: 100%;
  }
  th {
    text-align: left;
    padding: 4px 8px;
    font-size: 13px;
    background: var(--stone-1);
  }
  td {
    border: 1px solid var(--stone-2);
    vertical-align: top;
    height: 92px;
    padding: 4px 6px;
    overflow-wrap: anywhere;
  }
  .head .row {
    margin-top: 8px;
  }
  .date {
    margin: 0 0 2px;
    font-size: 13px;
  }
  td.off {
    background: var(--stone-1);
  }
  td.half {
    background: linear-gradient(var(--paper) 50%, var(--stone-1) 50%);
  }
  td.today {
    box-shadow: inset 0 0 0 2.5px var(--peat);
  }
  td.past .date {
    opacity: 0.75;
  }
  .event {
    display: flex;
    flex-direction: column;
    gap: 1px;
    margin: 3px 0;
    padding: 3px 0 3px;
    border-top: 1px solid var(--stone-2);
    text-decoration: none;
    color: inherit;
    font-size: 13px;
    min-height: 24px;
  }
  .event .what {
    font-weight: 600;
    text-decoration: underline;
    text-decoration-color: var(--stone-3);
  }
  p.quiet {
    margin: 2px 0;
    font-size: 13px;
  }
  @media (max-width: 900px) {
    .weeks,
    .weeks tbody,
    .weeks tr,
    .weeks td {
      display: block;
    }
    .weeks thead,
    td.bare:not(.today) {
      display: none;
    }
    td {
      height: auto;
      padding: 8px 14px;
    }
    .event {
      min-height: 44px;
    }
  }
</style>
