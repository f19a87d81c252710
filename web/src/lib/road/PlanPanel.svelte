<script lang="ts">
  /** The load in hand: what its plan breaks, the nearest plan that keeps all rules, and a plan typed by hand. */
  import Field from '$lib/ui/Field.svelte';
  import type { Schemas } from '$lib/api/client';
  import { act } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { time } from '$lib/ui/format';
  import { at, minuteOf } from './board';
  let {
    block,
    day,
    asked,
    error,
    said,
    onmove,
    onleave,
    ontakeoff,
  }: {
    block: Schemas['DayBlock'];
    day: Schemas['DayAnswer'];
    asked?: { door: number; start: string; check: Schemas['PlanCheckAnswer'] };
    error: unknown;
    said: string;
    onmove: (door: number, start: string, crew: number[] | null, reason: string | null) => void;
    onleave: () => void;
    ontakeoff: () => void;
  } = $props();
  // svelte-ignore state_referenced_locally
  let door = $state(block.door ?? day.doors[0]?.number ?? 1);
  // svelte-ignore state_referenced_locally
  let start = $state(
    time(at(day.date, Math.max(minuteOf(block.start), day.now.slice(0, 10) === day.date ? minuteOf(day.now) : 0))),
  );
  // svelte-ignore state_referenced_locally
  let crew = $state<number[]>([...block.crew]);
  let reason = $state('');
  let offer = $state<Schemas['PlanOffer'] | null>(null);
  const broken = $derived(asked ? asked.check.broken : block.broken.filter((r) => !r.overruled));
  const nearest = $derived(asked ? asked.check.nearest : offer);
  const onlyAdvice = $derived(broken.length > 0 && broken.every((r) => r.force === 'Advisory'));
  // Where the plan as it stands breaks a rule, or there is none, the nearest one that keeps all is asked for.
  $effect(() => {
    if (asked || !session.may('PlanArrivals') || (broken.length === 0 && block.door !== null)) return;
    let gone = false;
    const check = async (number: number, begin: string) =>
      (
        await act('/api/{site}/road/plan/check', {
          arrival: block.card.number,
          door: number,
          start: begin,
          crew: null,
          version: block.version,
          reason: null,
        })
      ).nearest;
    const from = at(
      day.date,
      Math.max(minuteOf(block.start), day.now.slice(0, 10) === day.date ? minuteOf(day.now) : 0),
    );
    void check(block.door ?? day.doors[0]!.number, from).then(
      (n) => {
        if (!gone) offer = n ?? null;
      },
      () => undefined,
    );
    return () => (gone = true);
  });
  const typed = (event: SubmitEvent) => {
    event.preventDefault();
    onmove(door, `${day.date}T${start}:00`, crew, reason || null);
  };
</script>

<section class="panel" aria-label="Plan of {block.card.number}">
  <div class="words">
    {#if broken.length > 0}
      <Mark
        kind="disc"
        word={asked ? 'That breaks a rule' : broken.length === 1 ? 'Rule broken' : `${broken.length} rules broken`}
      />
      {#each broken as r (r.sentence)}<p><b class="c">{block.card.number}</b> {r.sentence}</p>{/each}
    {:else if block.door === null}
      <p>
        <b class="c">{block.card.number}</b>
        {block.card.vendors.join(', ')}: {block.units}
        {block.handling === 'Palletised'
          ? 'pallets'
          : block.handling === 'FloorLoaded'
            ? 'cartons, packed loose'
            : 'parcels'}, about {block.minutes}
        min for one. {block.card.why}
      </p>
    {:else}
      <p>
        <a class="link c" href="/road/arrivals/{block.card.number}">{block.card.number}</a>
        {block.card.vendors.join(', ')}: door {block.door}, {time(block.start)} to {time(block.end)}, {block.crewNames.join(
          ' and ',
        ) || 'nobody named'}. {block.units}
        {block.handling === 'Palletised' ? 'pallets' : block.handling === 'FloorLoaded' ? 'cartons' : 'parcels'}, about {block.minutes}
        min.{block.plannedBy ? ` Planned by ${block.plannedBy}.` : ''}
      </p>
    {/if}
    <ProblemNote {error} />
    {#if said && !error && !asked}<p class="good" role="status">{said}</p>{/if}
  </div>
  {#if session.may('PlanArrivals')}
    <div class="acts">
      {#if nearest}
        <button class="button go" onclick={() => onmove(nearest!.door, nearest!.start, nearest!.crew, null)}>
          Door {nearest.door} at {time(nearest.start)}, {nearest.crewNames.join(' and ')}
        </button>
        <span class="quiet">The nearest plan that keeps all rules.</span>
      {:else if broken.length > 0}<span class="quiet">No plan of this day keeps all rules.</span>{/if}
      {#if asked}
        {#if onlyAdvice}
          <form
            class="row"
            onsubmit={(e) => {
              e.preventDefault();
              onmove(asked!.door, asked!.start, null, reason);
            }}
          >
            <Field label="Keep it, say why" class="grow"
              ><input bind:value={reason} maxlength="200" required name="reason" /></Field
            >
            <button class="button">Keep it</button>
          </form>
        {/if}
        <button class="link" onclick={onleave}>Leave it where it was</button>
      {/if}
    </div>
    <details class="by-hand">
      <summary>Plan it by hand</summary>
      <form class="row" onsubmit={typed}>
        <Field label="Door"
          ><select bind:value={door} name="door"
            >{#each day.doors as d (d.number)}<option value={d.number}>{d.number} · {d.equipment}</option
              >{/each}</select
          ></Field
        >
        <Field label="At"><input type="time" step="300" bind:value={start} name="start" required /></Field>
        <fieldset class="row">
          <legend class="quiet">Crew</legend>
          {#each day.workers as w (w.id)}
            <label class="who"
              ><input type="checkbox" value={w.id} bind:group={crew} />
              {w.name.split(' ')[0]}{w.skills.includes('dangerous goods') ? ' (dangerous goods)' : ''}</label
            >
          {/each}
        </fieldset>
        <Field label="Reason, if a warning is overruled"><input bind:value={reason} maxlength="200" /></Field>
        <button class="button">Plan it so</button>
        {#if block.door !== null}<button class="button" type="button" onclick={ontakeoff}>Take it off the door</button
          >{/if}
      </form>
    </details>
  {/if}
</section>

<style>
  .panel {
    padding: 10px 14px 14px;
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(250px, 340px);
    gap: 8px 18px;
  }
  .words p {
    margin-top: 3px;
  }
  .acts {
    display: flex;
    flex-direction: column;
    gap: 6px;
    align-items: flex-start;
  }
  .acts .button.go {
    width: 100%;
    min-height: 38px;
  }
  .acts form {
    width: 100%;
    align-items: flex-end;
  }
  .by-hand {
    grid-column: 1/-1;
  }
  .by-hand summary {
    cursor: pointer;
    min-height: 26px;
    font-weight: 600;
  }
  .by-hand form {
    align-items: flex-end;
    padding-top: 6px;
  }
  .who {
    display: inline-flex;
    gap: 5px;
    align-items: center;
    min-height: 32px;
  }
  @media (max-width: 900px) {
    .panel {
      grid-template-columns: 1fr;
    }
  }
</style>
