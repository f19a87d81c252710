<script lang="ts">
  /** The facts of a house: its name and clock, what its units are numbered by, how it writes numbers and dates, its yard. */
  import Field from '$lib/ui/Field.svelte';
  import { act, ask, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Frame from '$lib/ui/Frame.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  import WhoChanges from '$lib/site/WhoChanges.svelte';
  const house = createQuery(() => ({
    queryKey: ['site', 'house', session.site],
    queryFn: () => ask('/api/{site}/site/house'),
    refetchOnWindowFocus: false,
  }));
  const vehicles = ['truck', 'container', 'van', 'parcel'];
  let form = $state<Schemas['HouseFacts']>();
  let error = $state<unknown>();
  let said = $state('');
  const may = $derived(session.may('SetUp'));
  const show = () => (form = house.data && (structuredClone(house.data.facts) as Schemas['HouseFacts']));
  $effect(() => {
    if (house.data && !form) show();
  });
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    said = '';
    try {
      said = (await act('/api/{site}/site/house', form!)).sentence;
      await house.refetch();
      show();
    } catch (problem) {
      error = problem;
    }
  }
  function addSpot() {
    form!.spots = [...form!.spots, { number: '', vehicles: ['truck'], coldPlug: false, x: 0 }];
  }
</script>

<svelte:head><title>The house · Site · Mud Room</title></svelte:head>
<Frame queueTitle="Site" workTitle="The house">
  {#snippet queue()}
    <p class="pad"><a class="link" href="/site">Back to the set-up</a></p>
    <p class="pad quiet">What is numbered or written already stays as it is; what is kept here holds from now on.</p>
  {/snippet}
  {#snippet work()}
    {#if house.error}<div class="pad"><ProblemNote error={house.error} /></div>{/if}
    {#if form}
      <form class="pad" onsubmit={keep}>
        <WhoChanges />
        <fieldset disabled={!may}>
          <legend>Name and clock</legend>
          <Field label="Name"><input bind:value={form.name} name="name" maxlength="60" required /></Field>
          <Field label="Time zone"
            ><input class="c" bind:value={form.timeZone} name="time-zone" list="time-zones" required /></Field
          >
          <datalist id="time-zones"
            >{#each house.data?.timeZones ?? [] as z (z)}<option value={z}></option>{/each}</datalist
          >
          <Field label="GLN, by which messages name the site"
            ><input
              class="c"
              bind:value={() => form!.gln ?? '', (v) => (form!.gln = v || null)}
              name="gln"
              maxlength="13"
              inputmode="numeric"
            /></Field
          >
          <Field label="Dates are written"
            ><select bind:value={form.dateForm} name="date-form"
              ><option value="DayMonthYear">31.03.2026 — the day first</option><option value="MonthDayYear"
                >03/31/2026 — the month first</option
              ></select
            ></Field
          >
          <label class="tick"
            ><input type="checkbox" bind:checked={form.decimalComma} name="decimal-comma" /> A comma stands before decimals:
            2,5 is two and a half</label
          >
        </fieldset>
        <fieldset disabled={!may}>
          <legend>Numbers of units</legend>
          {#if !form.ownNumbers && !house.data?.facts.companyPrefix}
            <p class="said wide">No unit gets a number before this is set.</p>
          {/if}
          <label class="tick wide"
            ><input type="radio" bind:group={form.ownNumbers} value={false} name="numbers" /> Numbers of our own GS1 company
            prefix, known everywhere</label
          >
          <Field label="GS1 company prefix"
            ><input
              class="c"
              bind:value={() => form!.companyPrefix ?? '', (v) => (form!.companyPrefix = v || null)}
              name="prefix"
              maxlength="12"
              inputmode="numeric"
              disabled={form.ownNumbers}
            /></Field
          >
          <label class="tick wide"
            ><input type="radio" bind:group={form.ownNumbers} value={true} name="numbers" /> Own numbers, not GS1: good inside
            this house only</label
          >
          <Field label="First digit"
            ><input class="c" type="number" min="0" max="9" bind:value={form.extension} name="extension" /></Field
          >
          <Field label="The next serial number"
            ><input class="c" type="number" min="0" bind:value={form.nextNumber} name="next-number" /></Field
          >
          {#if house.data?.sample}<p class="wide quiet">
              The next unit gets <span class="c">{house.data.sample}</span>.
            </p>{/if}
        </fieldset>
        <fieldset disabled={!may}>
          <legend>Spots of the yard</legend>
          {#each form.spots as spot, i (i)}
            <div class="spot wide">
              <Field label="Spot"
                ><input class="c" bind:value={spot.number} maxlength="20" required name="spot" /></Field
              >
              <Field label="Metres from the west wall"
                ><input class="c" type="number" min="0" step="any" bind:value={spot.x} /></Field
              >
              {#each vehicles as v (v)}
                <label class="tick"
                  ><input
                    type="checkbox"
                    value={v}
                    bind:group={spot.vehicles}
                    aria-label="Spot {spot.number} takes a {v}"
                  />
                  {v}</label
                >
              {/each}
              <label class="tick"><input type="checkbox" bind:checked={spot.coldPlug} /> plug for cold goods</label>
              {#if may}<button
                  type="button"
                  class="link"
                  aria-label="Take spot {spot.number} away"
                  onclick={() => (form!.spots = form!.spots.filter((_, n) => n !== i))}>Take away</button
                >{/if}
            </div>
          {:else}<p class="quiet wide">None: at the gate any name is taken.</p>{/each}
          {#if may}<button type="button" class="button" onclick={addSpot}>Add a spot</button>{/if}
        </fieldset>
        {#if may}<div class="row"><button class="button go">Keep</button></div>{/if}
        <ProblemNote {error} />
        {#if said}<p class="good" role="status">{said}</p>{/if}
      </form>
    {/if}
  {/snippet}
</Frame>

<style>
  form {
    display: flex;
    flex-direction: column;
    gap: 18px;
  }
  fieldset {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
    gap: 10px 16px;
    align-items: end;
    border: 0;
    padding: 0;
    margin: 0;
  }
  legend {
    font-weight: 700;
    padding: 0 0 6px;
  }
  .wide {
    grid-column: 1 / -1;
  }
  .tick {
    display: inline-flex;
    gap: 8px;
    align-items: center;
    min-height: 44px;
  }
  .spot {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 14px;
    align-items: end;
    border-bottom: 1px solid var(--stone-2);
    padding-bottom: 8px;
  }
  .spot :global(.field) {
    width: 150px;
  }
  .spot .link {
    min-height: 44px;
    margin-left: auto;
  }
</style>
