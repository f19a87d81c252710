<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import DateField from '$lib/ui/DateField.svelte';
  /** How the site plans: which rules forbid and which warn, hours, rates, holidays, free days. */
  import { act, ask, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Frame from '$lib/ui/Frame.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  import WhoChanges from '$lib/site/WhoChanges.svelte';
  import InForce from '$lib/site/InForce.svelte';
  type Settings = Schemas['PlanSettings'];
  const rules: [Schemas['PlanRule'], string][] = [
    ['DoorTaken', 'Two arrivals at one door at once'],
    ['Spacing', 'Too little time between two arrivals at a door'],
    ['ShiftHours', 'Outside the hours of the door, or on a holiday'],
    ['LongerThanShift', 'Unloading takes longer than the door is open'],
    ['Vehicle', 'The door is not built for the vehicle'],
    ['GoodsClass', 'The goods may not go through the door'],
    ['Skill', 'Nobody of the crew has the ticket the goods ask for'],
    ['HeadCount', 'Somebody of the crew is not here, or nobody is named'],
    ['CrewTaken', 'Somebody of the crew is at another door'],
    ['BeforeGate', 'At the door before it can be'],
    ['YardSpot', 'No yard spot is free while it waits'],
  ];
  const rates: [keyof Settings & string, string][] = [
    ['setUpMinutes', 'Minutes before the first unit is out'],
    ['minutesPerLine', 'Minutes for each line beyond the first'],
    ['palletsPerHour', 'Pallets an hour and person'],
    ['cartonsPerHour', 'Loose cartons an hour and person'],
    ['parcelsPerHour', 'Parcels an hour and person'],
    ['spacingMinutes', 'Minutes between two arrivals at a door'],
    ['gateMinutes', 'Minutes from the gate to a door'],
    ['mostCrew', 'Most people at one door'],
    ['inspectionsPerHour', 'Inspections an hour and inspector'],
    ['tasksPerHour', 'Tasks an hour and driver'],
    ['otherFreeDays', 'Free days of containers of other lines'],
  ];
  const days = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const;
  const planning = createQuery(() => ({
    queryKey: ['site', 'planning', session.site],
    queryFn: () => ask('/api/{site}/site/planning'),
    refetchOnWindowFocus: false,
  }));
  let form = $state<Settings>();
  let horizon = $state(14);
  let version = $state(0);
  let error = $state<unknown>();
  let said = $state('');
  $effect(() => {
    if (!planning.data || form) return;
    form = structuredClone(planning.data.settings) as Settings;
    horizon = planning.data.horizonDays;
    version = planning.data.inForce.version;
  });
  const may = $derived(session.may('SetUp'));
  const hours = (door: number, weekday: string) => form?.hours?.find((h) => h.door === door && h.day === weekday);
  function setHours(door: number, weekday: Schemas['DayOfWeek'], from: string, to: string) {
    if (!form) return;
    const others = (form.hours ?? []).filter((h) => h.door !== door || h.day !== weekday);
    form.hours = from && to ? [...others, { door, day: weekday, from, to }] : others;
  }
  const long = (clock: string) => (clock.length === 5 ? `${clock}:00` : clock);
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    said = '';
    try {
      said = (
        await act('/api/{site}/site/planning', {
          settings: {
            ...form!,
            hours: (form!.hours ?? []).map((h) => ({ ...h, from: long(h.from), to: long(h.to) })),
            holidays: (form!.holidays ?? []).map((h) => ({ ...h, until: h.until ? long(h.until) : null })),
          },
          horizonDays: horizon,
          version,
        })
      ).sentence;
      version = (await planning.refetch()).data?.inForce.version ?? version;
    } catch (problem) {
      error = problem;
    }
  }
</script>

<svelte:head><title>How days are planned · Site · Mud Room</title></svelte:head>
<Frame queueTitle="Site" workTitle="How days are planned">
  {#snippet queue()}
    <p class="pad"><a class="link" href="/site">Back to the set-up</a></p>
    <p class="pad quiet">
      A rule that forbids stops a plan that breaks it. One that warns lets it through with a reason, which stays with
      the arrival.
    </p>
    {#if session.may('PlanArrivals')}<p class="pad">
        <a class="link" href="/road/roster">Who is here when: the roster</a>
      </p>{/if}
  {/snippet}
  {#snippet work()}
    {#if form && planning.data}
      <form class="pad settings" onsubmit={keep}>
        <h1>How days are planned</h1>
        <WhoChanges />
        <InForce of={planning.data.inForce} />
        <fieldset disabled={!may}>
          <legend>Rules of the plan</legend>
          <div class="rules">
            {#each rules as [rule, word] (rule)}
              <span>{word}</span>
              <span class="field"
                ><select
                  aria-label={word}
                  name="rule-{rule}"
                  value={form.advisory?.includes(rule) ? 'warns' : 'forbids'}
                  onchange={(e) =>
                    (form!.advisory =
                      e.currentTarget.value === 'warns'
                        ? [...(form!.advisory ?? []), rule]
                        : (form!.advisory ?? []).filter((r) => r !== rule))}
                  ><option value="forbids">forbids</option><option value="warns">only warns</option></select
                ></span
              >
            {/each}
          </div>
        </fieldset>
        <fieldset disabled={!may} class="rates">
          <legend>Rates and times</legend>
          {#each rates as [key, word] (key)}
            <Field label={word}
              ><input class="c" type="number" step="any" name={key} bind:value={form[key] as number} required /></Field
            >
          {/each}
          <Field label="Days ahead of due that are not early"
            ><input class="c" type="number" bind:value={horizon} required /></Field
          >
        </fieldset>
        <fieldset disabled={!may}>
          <legend>Hours of the doors</legend>
          <div class="wide">
            <table class="list">
              <thead
                ><tr
                  ><th>Door</th>{#each days as d (d)}<th>{d.slice(0, 3)}</th>{/each}</tr
                ></thead
              >
              <tbody>
                {#each planning.data.doors as door (door)}
                  <tr>
                    <th scope="row">{door}</th>
                    {#each days as d (d)}
                      {@const h = hours(door, d)}
                      <td>
                        <span class="field"
                          ><input
                            type="time"
                            aria-label="Door {door} opens on {d}"
                            value={h?.from.slice(0, 5) ?? ''}
                            onchange={(e) =>
                              setHours(door, d, e.currentTarget.value, h?.to ?? (e.currentTarget.value ? '17:00' : ''))}
                          /><input
                            type="time"
                            aria-label="Door {door} shuts on {d}"
                            value={h?.to.slice(0, 5) ?? ''}
                            onchange={(e) =>
                              setHours(
                                door,
                                d,
                                h?.from ?? (e.currentTarget.value ? '06:00' : ''),
                                e.currentTarget.value,
                              )}
                          /></span
                        >
                      </td>
                    {/each}
                  </tr>
                {/each}
              </tbody>
            </table>
          </div>
        </fieldset>
        <fieldset disabled={!may}>
          <legend>Holidays and half days</legend>
          {#each form.holidays ?? [] as holiday, i (i)}
            <div class="row">
              <DateField label="Day" bind:value={holiday.day} required disabled={!may} />
              <Field label="Name"><input bind:value={holiday.name} required maxlength="60" /></Field>
              <Field label="Work until; blank for none"><input type="time" bind:value={holiday.until} /></Field>
              <button
                class="button"
                type="button"
                onclick={() => (form!.holidays = (form!.holidays ?? []).filter((h) => h !== holiday))}>Away</button
              >
            </div>
          {:else}<p class="quiet">None.</p>{/each}
          <button
            class="button"
            type="button"
            onclick={() => (form!.holidays = [...(form!.holidays ?? []), { day: '', name: '', until: null }])}
            >One more holiday</button
          >
        </fieldset>
        <fieldset disabled={!may}>
          <legend>Free days of containers</legend>
          {#each form.freeDays ?? [] as line, i (i)}
            <div class="row">
              <Field label="Shipping line"><input bind:value={line.shippingLine} required maxlength="60" /></Field>
              <Field label="Free days"><input class="c" type="number" bind:value={line.days} required /></Field>
              <button
                class="button"
                type="button"
                onclick={() => (form!.freeDays = (form!.freeDays ?? []).filter((l) => l !== line))}>Away</button
              >
            </div>
          {/each}
          <button
            class="button"
            type="button"
            onclick={() => (form!.freeDays = [...(form!.freeDays ?? []), { shippingLine: '', days: 5 }])}
            >One more shipping line</button
          >
        </fieldset>
        <ProblemNote {error} />
        {#if said}<p class="good" role="status">{said}</p>{/if}
        {#if may}<div class="row"><button class="button go">Keep the settings</button></div>
        {/if}
      </form>
    {/if}
  {/snippet}
</Frame>

<style>
  .settings {
    display: flex;
    flex-direction: column;
    gap: 18px;
  }
  fieldset {
    border-top: 2px solid var(--stone-2);
    padding-top: 8px;
  }
  .rules :global(.field > select) {
    min-height: 32px;
  }
  td input[type='time'] {
    padding: 2px 4px;
    min-height: 32px;
  }
  legend {
    font-weight: 600;
    padding-right: 10px;
  }
  .rules {
    display: grid;
    grid-template-columns: minmax(0, 420px) 140px;
    gap: 4px 16px;
    align-items: center;
  }
  .rates {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
    gap: 8px 14px;
    align-items: end;
  }
  .rates legend {
    grid-column: 1/-1;
  }
  .wide {
    overflow-x: auto;
  }
  .row {
    align-items: flex-end;
    margin-bottom: 6px;
  }
</style>
