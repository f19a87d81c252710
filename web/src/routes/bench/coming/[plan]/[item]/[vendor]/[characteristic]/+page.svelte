<script lang="ts">
  /** A characteristic over a vendor's past lots: chart or table, the broken rule in words, how well it fits its limits. */
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { act, ask, type Schemas } from '$lib/api/client';
  import ComingFrame from '$lib/bench/ComingFrame.svelte';
  import LotsChart from '$lib/bench/LotsChart.svelte';
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import Field from '$lib/ui/Field.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { counted } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const [plan, item, vendor, characteristic] = $derived([
    Number(page.params['plan']),
    Number(page.params['item']),
    Number(page.params['vendor']),
    Number(page.params['characteristic']),
  ]);
  /** What the limits come from. */
  let by = $state<Schemas['LotsChart']>('Lots');
  const query = createQuery(() => ({
    queryKey: ['bench', 'coming', session.site, plan, item, vendor, characteristic, by],
    queryFn: () =>
      ask('/api/{site}/bench/coming/{plan}/{item}/{vendor}/{characteristic}', {
        plan,
        item,
        vendor,
        characteristic,
        by,
      }),
    placeholderData: (before: Schemas['ComingAnswer'] | undefined) => before,
  }));
  const c = $derived(query.data);
  const second = { Lots: 'Change from lot to lot', Spread: 'Standard deviation', Range: 'Range within the lot' };
  let note = $state('');
  let telling = $state(false);
  let error = $state<unknown>();
  let said = $state('');
  async function tell(event: SubmitEvent) {
    event.preventDefault();
    [error, said] = [undefined, ''];
    try {
      said = (await act('/api/{site}/bench/coming/tell', { plan, item, vendor, characteristic, note: note || null }))
        .sentence;
      [telling, note] = [false, ''];
      await query.refetch();
    } catch (problem) {
      error = problem;
    }
  }
  let view = $state<'chart' | 'table'>('chart');
  const short = (v: number | null | undefined) =>
    v === null || v === undefined ? '' : String(Number(v.toPrecision(3)));
  const index = (v: number) => v.toFixed(2);
  const trouble = $derived(c?.state === 'PassesLimit' || c?.state === 'RuleBroken');
  function csv() {
    const rows = [
      [
        'lot',
        'day',
        c!.unit ? 'mean' : 'percent',
        'usual_low',
        'usual_high',
        'looked',
        'nonconforming',
        'spread',
        { Lots: 'change', Spread: 'standard_deviation', Range: 'range' }[c!.by],
      ],
      ...c!.lots.map((l) => [
        l.number,
        l.on,
        l.value,
        l.low,
        l.high,
        l.looked,
        l.nonconforming,
        l.spread ?? '',
        l.second ?? '',
      ]),
    ];
    const link = document.createElement('a');
    link.href = URL.createObjectURL(
      new Blob([rows.map((r) => r.join(',')).join('\r\n') + '\r\n'], { type: 'text/csv' }),
    );
    link.download = `${c!.item} ${c!.name}.csv`.replace(/[^\w. -]/g, '');
    link.click();
    URL.revokeObjectURL(link.href);
  }
  const indexes = $derived(
    c
      ? [
          { title: 'Inside one lot', name: 'Cpk', both: c.cp, nearer: c.cpk, bothName: 'Cp' },
          { title: 'Over all lots', name: 'Ppk', both: c.pp, nearer: c.ppk, bothName: 'Pp' },
        ].filter((x) => x.nearer !== null)
      : [],
  );
</script>

<svelte:head><title>{c?.name ?? 'Seen coming'} · Bench · Mud Room</title></svelte:head>
<ComingFrame current="{plan} {item} {vendor} {characteristic}" workTitle={c?.name ?? 'Seen coming'}>
  {#if query.error}<div class="pad"><ProblemNote error={query.error} /></div>{/if}
  {#if c}
    <div class="head">
      <div class="titled">
        <h1>
          {#if trouble}<Mark kind="disc" word="" />{/if}
          {c.headline}
        </h1>
        <div class="views" role="group" aria-label="Shown as">
          <button class="button" aria-pressed={view === 'chart'} onclick={() => (view = 'chart')}>chart</button>
          <button class="button" aria-pressed={view === 'table'} onclick={() => (view = 'table')}>table</button>
          <button class="button" onclick={csv}>CSV</button>
        </div>
      </div>
      {#if c.unit && c.unit !== 'per piece'}
        <Field label="Usual is what follows from" class="by"
          ><select name="by" bind:value={by}
            ><option value="Lots">how lots differ from one another</option><option value="Spread"
              >the standard deviations within lots</option
            ><option value="Range">the ranges within lots</option></select
          ></Field
        >
      {/if}
      {#if c.whyNoChart}<p>{c.whyNoChart}</p>{/if}
      <p class="quiet">
        {c.name}, {c.item}, {c.vendor}: {c.limits}. {c.center === null
          ? ''
          : `The usual range comes from the first ${counted(c.history, 'lot')}.`}
      </p>
    </div>
    {#if c.center === null || view === 'table'}
      <table class="list">
        <thead
          ><tr
            ><th>Lot</th><th>Day</th><th>{c.unit ? `Mean, ${c.unit}` : 'Nonconforming, %'}</th><th>Usual range</th
            >{#if c.secondCenter !== null}<th>{second[c.by]}</th>{/if}<th>Looked at</th><th>Nonconforming</th></tr
          ></thead
        >
        <tbody>
          {#each c.lots as l (l.number)}
            <tr class:run={l.inRun}>
              <td><a class="link c" href="/bench/{l.number}">{l.number}</a></td>
              <td>{l.on}</td>
              <td class="c">{short(l.value)}{l.inRun ? ' ▲' : ''}</td>
              <td class="c">{c.center === null ? '' : `${short(l.low)} to ${short(l.high)}`}</td>
              {#if c.secondCenter !== null}<td class="c"
                  >{short(l.second)}{l.second !== null && (l.second > l.secondHigh! || l.second < l.secondLow!)
                    ? ' outside'
                    : ''}</td
                >{/if}
              <td class="c">{l.looked}</td>
              <td class="c">{l.nonconforming}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    {:else}
      <LotsChart coming={c} onpick={(number) => goto(`/bench/${number}`)} />
    {/if}
    {#if c.told}<p class="told">{c.told}</p>{/if}
    {#if said}<p class="told" role="status"><b>{said}</b></p>{/if}
    {#if c.state !== 'Steady' && c.state !== 'TooFew' && session.may('Inspect')}
      {#if !telling}<p class="told">
          <button class="button" id="tell-buyer" onclick={() => (telling = true)}>Tell the buyer</button>
        </p>
      {:else}<form class="told tell" onsubmit={tell}>
          <p>
            The buyer gets: {c.by === 'Lots' ? c.headline : c.name} With the last {Math.min(20, c.lots.length)} lots.
          </p>
          <Field label="What you add, if anything"
            ><input name="tell-note" bind:value={note} maxlength="500" autocomplete="off" /></Field
          >
          <span class="views">
            <button class="button go">Send it</button>
            <button class="button" type="button" onclick={() => (telling = false)}>Not now</button>
          </span>
        </form>{/if}
    {/if}
    <div class="told"><ProblemNote {error} /></div>
    {#each c.broken as b (b.name)}
      <p class="told"><b>Rule broken: {b.name}</b>, at {b.at}. {b.means}</p>
    {/each}
    {#if c.next.length}
      <p class="told">
        To come, if it goes on so: {c.next.map(short).join(', ')}
        {c.unit}. The limit is {short(c.next.at(-1)! > (c.upper ?? Infinity) ? c.upper : c.lower)}.
      </p>
    {/if}
  {/if}
  {#snippet trail()}
    {#if c}
      <section class="trail-part">
        <h2>How well it fits its limits</h2>
        {#if c.whyNoIndex}<p class="quiet">{c.whyNoIndex}</p>{/if}
        {#if c.betweenShare !== null}
          <p>
            <b class="c big">{Math.round(100 * c.betweenShare)} %</b> of all spread lies between lots
            <span class="quiet"
              >{c.betweenShare > 0.5 ? 'alike lots would win most' : 'most of it is within each lot'}</span
            >
          </p>
        {/if}
        {#each indexes as x (x.name)}
          <p>
            {x.title} <b class="c big">{index(x.nearer!.value)}</b>
            {x.name}<br />
            <span class="quiet"
              >95 %: {index(x.nearer!.low)} to {index(x.nearer!.high)}{x.both
                ? `; ${x.bothName} ${index(x.both.value)}, ${index(x.both.low)} to ${index(x.both.high)}`
                : '; only one limit, so the nearer alone counts'}.</span
            >
          </p>
        {/each}
        {#if c.cpk && c.ppk && c.cpk.value > c.ppk.value * 1.25}<p>
            One lot holds together; <b>from lot to lot it wanders.</b>
          </p>{/if}
        {#if c.cpk}<p class="quiet">The range of Ppk takes lots as if they did not follow one another.</p>{/if}
      </section>
      {#if c.secondCenter !== null}
        <section class="trail-part">
          <h2>{second[c.by]}</h2>
          <p>
            Usually {short(c.secondCenter)}
            {c.unit}, at most {short(c.lots.at(-1)?.secondHigh)}. Last: {short(c.lots.at(-1)?.second)}.
          </p>
        </section>
      {/if}
    {/if}
  {/snippet}
</ComingFrame>

<style>
  .titled {
    display: flex;
    gap: 12px;
    justify-content: space-between;
    align-items: start;
    flex-wrap: wrap;
  }
  .views {
    display: flex;
  }
  .titled + :global(.by) {
    max-width: 380px;
    margin: 4px 0;
  }
  .told {
    padding: 6px 18px;
  }
  .tell {
    display: flex;
    flex-direction: column;
    gap: 8px;
    align-items: flex-start;
  }
  .run td {
    font-weight: 700;
  }
  .big {
    font-size: 22px;
  }
</style>
