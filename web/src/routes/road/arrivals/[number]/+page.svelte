<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import DateField from '$lib/ui/DateField.svelte';
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { attach } from '$lib/api/attach';
  import { act, ask, type Schemas } from '$lib/api/client';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import ToDoor from '$lib/road/ToDoor.svelte';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import LoadBar from '$lib/ui/LoadBar.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { day, number, when } from '$lib/ui/format';
  import { inSight } from '$lib/ui/inSight';
  import { createQuery } from '@tanstack/svelte-query';
  import { cards } from '$lib/list/cards';
  const which = $derived(page.params['number'] ?? '');
  const arrival = createQuery(() => ({
    queryKey: ['road', `arrival:${which}`, session.site],
    queryFn: () => ask('/api/{site}/road/arrivals/{number}', { number: which }),
  }));
  const a = $derived(arrival.data?.card);
  const d = $derived(arrival.data);
  let error = $state<unknown>();
  let said = $state('');
  let eta = $state('');
  let source = $state('');
  let add = $state('');
  let off = $state<number[]>([]);
  let document = $state('');
  let toSite = $state('');
  let why = $state('');
  let editing = $state(false);
  let form = $state({
    vehicle: 'truck',
    plate: '',
    haulier: '',
    container: '',
    notIso6346: false,
    sizeType: '',
    shippingLine: '',
    vessel: '',
    voyage: '',
    portFrom: '',
    portTo: '',
    seal: '',
    handling: 'Palletised' as Schemas['Handling'],
    units: 1,
  });
  const mayPlan = $derived(session.may('PlanArrivals') && a?.state !== 'CountedIn' && a?.state !== 'Withdrawn');
  function edit() {
    if (!d || !a) return;
    form = {
      vehicle: a.vehicle,
      plate: d.plate ?? '',
      haulier: d.haulier ?? '',
      container: a.container ?? '',
      notIso6346: d.papers ? !d.papers.iso6346 : false,
      sizeType: d.papers?.sizeType ?? '',
      shippingLine: d.papers?.shippingLine ?? '',
      vessel: d.papers?.vessel ?? '',
      voyage: d.papers?.voyage ?? '',
      portFrom: d.papers?.portFrom ?? '',
      portTo: d.papers?.portTo ?? '',
      seal: d.seal ?? '',
      handling: d.handling,
      units: d.units,
    };
    editing = true;
  }
  async function run(work: () => Promise<{ sentence?: string }>) {
    error = undefined;
    said = '';
    try {
      said = (await work()).sentence ?? '';
      await arrival.refetch();
      return true;
    } catch (problem) {
      error = problem;
      return false;
    }
  }
  async function attachAll(files: FileList | null) {
    for (const file of files ?? [])
      await run(() => attach(which, file).then(() => ({ sentence: `${file.name} is attached.` })));
  }
  $effect(() =>
    scanLine.use(async (text) => {
      const reading = await ask('/api/{site}/scan', { text });
      if (reading.arrival) await goto(`/road/arrivals/${reading.arrival}`);
      return { words: reading.words, next: reading.problem?.next, tone: reading.problem ? 'refused' : 'look' };
    }),
  );
  let carried = $state<Schemas['ManifestRow']>();
  let aboard = $state('');
  let withdrawing = $state(false);
  let reason = $state('');
  function carry(line: Schemas['ManifestRow']) {
    [carried, aboard] = [line, String(line.expected)];
  }
</script>

<svelte:head><title>{which} · Mud Room</title></svelte:head>
<RoadFrame current={which} workTitle={which}>
  {#if arrival.error}<div class="pad"><ProblemNote error={arrival.error} /></div>{/if}
  {#if a && arrival.data}
    <div class="head">
      <div class="row">
        <h1><span class="c">{a.number}</span> {a.vendors.join(', ')}</h1>
        {#if a.rank === 0}<Mark kind="late" word="late" />{/if}
      </div>
      <p><a class="link" href="/book?text={a.number}">All that happened to {a.number}</a></p>
      <p class="quiet">
        {a.vehicle}{a.container ? ` ${a.container}` : ''}
        {d?.papers && !d.papers.iso6346 ? '(not an ISO 6346 number)' : ''}
        {d?.sizeInWords ? `· ${d.sizeInWords}` : ''}
        {arrival.data.haulier ? `· ${arrival.data.haulier}` : ''}
        {d?.papers?.vessel
          ? `· ${d.papers.vessel} ${d.papers.voyage ?? ''}, ${d.papers.portFrom ?? '?'} to ${d.papers.portTo ?? '?'}`
          : ''}
        {arrival.data.seal ? `· seal ${arrival.data.seal}` : ''} · planned {when(a.planned)}
        {a.expected ? `· thought to come ${when(a.expected)}` : ''}
      </p>
      <LoadBar
        share={a.share}
        notches={a.notches}
        open={a.state === 'AtDoor'}
        ribbed={a.vehicle === 'container'}
        label="{Math.round(a.share * 100)} % counted"
      />
      <p>{a.why}</p>
      <p class="quiet">
        {d?.units}
        {d?.handling === 'Palletised' ? 'pallets' : d?.handling === 'FloorLoaded' ? 'cartons, packed loose' : 'parcels'} ·
        door {a.door ?? 'not planned'}
        · crew {d?.crew.join(' and ') || 'nobody named'} · <a class="link" href="/road?plan={which}">on the board</a>
        {#if mayPlan}<button class="link" onclick={edit}>Change its papers</button>{/if}
      </p>
      {#each d?.broken ?? [] as r (r.sentence)}
        <p><Mark kind="disc" word={r.overruled ? 'overruled' : 'rule broken'} /> {r.sentence}</p>
      {/each}
      {#each d?.overrulings ?? [] as o (o.rule)}<p class="quiet">Overruled by {o.by}: {o.reason}</p>{/each}
      {#each d?.orderChanges ?? [] as c, i (i)}
        <p><Mark kind="falls" word="order changed" /> {c.sentence} <span class="quiet">{c.by}, {when(c.at)}</span></p>
      {/each}
      {#each d?.differences ?? [] as f (f.id)}
        <p>
          <Mark kind="disc" word="differs from the order" />
          {f.sentence}
          {#if f.decision}<b>{f.decision}</b> <span class="quiet">{f.decidedBy}</span>
          {:else if mayPlan}
            {#each ['Take it when it comes', 'Leave it aboard'] as word (word)}
              <button
                class="link"
                onclick={() =>
                  run(() =>
                    act('/api/{site}/road/arrivals/decide-difference', {
                      arrival: which,
                      difference: f.id,
                      decision: word,
                    }),
                  )}>{word}</button
              >
            {/each}
          {/if}
        </p>
      {/each}
      <ProblemNote {error} />
      {#if said}<p class="good" role="status">{said}</p>{/if}
    </div>
    {#if editing}
      <form
        class="pad papers"
        onsubmit={(e) => {
          e.preventDefault();
          void run(() => act('/api/{site}/road/arrivals/details', { arrival: which, ...form })).then(
            (done) => (editing = !done),
          );
        }}
      >
        <Field label="Vehicle"
          ><select bind:value={form.vehicle}
            >{#each ['truck', 'container', 'van', 'parcel'] as v (v)}<option>{v}</option>{/each}</select
          ></Field
        >
        <Field label="How it is packed"
          ><select bind:value={form.handling}
            ><option value="Palletised">on pallets</option><option value="FloorLoaded">loose cartons</option><option
              value="Parcels">parcels</option
            ></select
          ></Field
        >
        <Field label="Pallets, cartons or parcels"><input type="number" min="1" bind:value={form.units} /></Field>
        <Field label="Plate"><input class="c" bind:value={form.plate} maxlength="60" /></Field>
        <Field label="Haulier"><input bind:value={form.haulier} maxlength="60" /></Field>
        <Field label="Seal"><input class="c" bind:value={form.seal} maxlength="60" /></Field>
        <Field label="Container"><input class="c" bind:value={form.container} maxlength="30" /></Field>
        <label class="tick"><input type="checkbox" bind:checked={form.notIso6346} /> not an ISO 6346 number</label>
        <Field label="Size and type, as 42G1"><input class="c" bind:value={form.sizeType} maxlength="4" /></Field>
        <Field label="Shipping line"><input bind:value={form.shippingLine} maxlength="60" /></Field>
        <Field label="Vessel"><input bind:value={form.vessel} maxlength="60" /></Field>
        <Field label="Voyage"><input bind:value={form.voyage} maxlength="60" /></Field>
        <Field label="From port"><input bind:value={form.portFrom} maxlength="60" /></Field>
        <Field label="To port"><input bind:value={form.portTo} maxlength="60" /></Field>
        <div class="row">
          <button class="button go">Keep</button><button class="button" type="button" onclick={() => (editing = false)}
            >Leave it</button
          >
        </div>
      </form>
    {/if}
    {#if a.state === 'AtDoor'}
      <div class="pad"><a class="button go" href="/door/{a.number}">Count at door {a.door}</a></div>
    {:else if a.state !== 'CountedIn' && a.state !== 'Withdrawn'}
      <div class="pad bring">
        {#if session.may('PlanArrivals')}
          <ToDoor arrival={which} doors={arrival.data.doors} planned={a.door} ondone={() => goto(`/door/${which}`)} />
        {/if}
        {#if session.may('KeepGate') && (a.state === 'Expected' || a.state === 'InYard')}<a class="link" href="/yard"
            >At the gate: Yard</a
          >{/if}
      </div>
    {/if}
    <table class="list" {@attach cards}>
      <caption class="sr-only">Manifest</caption>
      <thead
        ><tr><th>Order · line</th><th>Item</th><th class="number">Aboard</th><th>Due</th><th>Waited for</th></tr></thead
      >
      <tbody>
        {#each arrival.data.manifest as m (m.id)}
          <tr>
            <td
              >{#if mayPlan && m.counted === 0}<input
                  type="checkbox"
                  value={m.id}
                  bind:group={off}
                  aria-label="Choose {m.order} line {m.line}"
                />{/if}
              <a class="link c" href="/road/orders/{m.order}">{m.order}</a> · {m.line}<br /><span class="quiet"
                >{m.vendor}</span
              ></td
            >
            <td><b>{m.itemName}</b><br /><span class="c quiet">{m.itemCode}</span></td>
            <td class="number"
              >{#if mayPlan}<button class="link" onclick={() => carry(m)} title="Say how much of it is aboard"
                  >{number(m.expected)} {m.unit}</button
                >{:else}{number(m.expected)} {m.unit}{/if}<br /><span class="quiet">{m.inPacks}</span
              >{#if m.inTransit > 0}<br /><Mark kind="open" word="in transit" />
                {number(m.inTransit)}{/if}</td
            >
            <td>
              {#if m.dueState === 'Late'}<Mark kind="late" word="late {m.daysLate} d" />
              {:else if m.dueState === 'DueToday'}<Mark kind="today" word="today" />
              {:else}<Mark kind="ontime" word={day(m.due)} />{/if}
            </td>
            <td>{m.waiting > 0 ? `${number(m.waiting)} ${m.unit}: ${m.waitingFor}` : ''}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#if carried && mayPlan}
      <form
        class="pad row"
        {@attach inSight}
        onsubmit={(e) => {
          e.preventDefault();
          void run(() =>
            act('/api/{site}/road/arrivals/carry', { arrival: which, line: carried!.id, quantity: aboard }),
          ).then((done) => {
            if (done) carried = undefined;
          });
        }}
      >
        <Field
          label={`How much of ${carried.itemName}, ${carried.order} line ${carried.line}, is aboard, in ${carried.unit}`}
          ><input class="c" name="aboard" bind:value={aboard} required inputmode="decimal" /></Field
        >
        <button class="button go">Keep</button>
        <button class="button" type="button" onclick={() => (carried = undefined)}>Leave it</button>
        <p class="quiet">The rest stays open on its order, and may come on another vehicle.</p>
      </form>
    {/if}
    {#if a.state === 'Withdrawn' && session.may('PlanArrivals')}
      <div class="pad row">
        <button
          class="button"
          onclick={() => run(() => act('/api/{site}/yard/take-back', { arrival: which, reason: null }))}
          >It comes after all: take the withdrawal back</button
        >
      </div>
    {/if}
    {#if mayPlan}
      <div class="pad row tools">
        {#if off.length > 0}
          <button
            class="button"
            onclick={() =>
              run(() => act('/api/{site}/road/arrivals/take-off', { arrival: which, lines: off })).then(
                () => (off = []),
              )}>Take {off.length} {off.length === 1 ? 'line' : 'lines'} off; they stay open on their orders</button
          >
        {/if}
        {#if a.state === 'Expected' || a.state === 'InYard'}
          <details open={a.vehicle === 'container'}>
            <summary>Take over on the way, or send to another site</summary>
            <form
              class="row"
              onsubmit={(e) => {
                e.preventDefault();
                const back = (e.submitter as HTMLButtonElement).value === 'back';
                void run(() =>
                  act(back ? '/api/{site}/road/take-over/back' : '/api/{site}/road/take-over', {
                    arrival: which,
                    lines: off,
                    document,
                  }),
                ).then((done) => {
                  if (done) off = [];
                });
              }}
            >
              <Field label="Ours on the way, by paper"
                ><input
                  class="c"
                  name="document"
                  bind:value={document}
                  placeholder="bill of lading"
                  required
                  maxlength="60"
                /></Field
              >
              <button class="button" value="over"
                >Take over {off.length > 0
                  ? `${off.length} ${off.length === 1 ? 'line' : 'lines'}`
                  : 'all lines'}</button
              >
              {#if d?.manifest.some((m) => m.inTransit > 0)}<button class="button" value="back">Give back</button>{/if}
            </form>
            {#if a.state === 'Expected' && d && d.otherSites.length > 0}
              <form
                class="row"
                onsubmit={(e) => {
                  e.preventDefault();
                  const whole = off.length === 0 || off.length === d.manifest.length;
                  void run(() =>
                    act('/api/{site}/road/redirect', { arrival: which, lines: off, site: toSite, reason: why }),
                  ).then((done) => {
                    off = [];
                    if (done && whole) void goto('/road');
                  });
                }}
              >
                <Field
                  >{#snippet label()}Send {off.length > 0
                      ? `${off.length} ${off.length === 1 ? 'line' : 'lines'}`
                      : 'it'} to another site{/snippet}<select bind:value={toSite} name="to-site" required
                    ><option value=""></option>{#each d.otherSites as s (s.code)}<option value={s.code}>{s.name}</option
                      >{/each}</select
                  ></Field
                >
                <Field label="since"><input name="why" bind:value={why} required maxlength="200" /></Field>
                <button class="button">Send there</button>
              </form>
            {/if}
          </details>
        {/if}
        {#if !d?.counted}
          <form
            class="row"
            onsubmit={(e) => {
              e.preventDefault();
              void run(() => act('/api/{site}/road/arrivals/add', { arrival: which, orders: [add], parts: null })).then(
                (done) => {
                  if (done) add = '';
                },
              );
            }}
          >
            <Field label="Add what is open on order"><input class="c" bind:value={add} name="add" required /></Field>
            <button class="button">Add</button>
          </form>
        {/if}
        {#if a.state === 'Expected'}
          <form
            class="row"
            onsubmit={(e) => {
              e.preventDefault();
              void run(() => act('/api/{site}/road/eta', { arrival: which, eta: `${eta}:00`, source }));
            }}
          >
            <DateField label="Thought to come" name="eta" withTime bind:value={eta} required />
            <Field label="says"
              ><input bind:value={source} name="source" placeholder="haulier" required maxlength="60" /></Field
            >
            <button class="button">Keep the new time</button>
          </form>
        {/if}
        {#if !d?.counted}
          {#if withdrawing}
            <form
              class="row"
              {@attach inSight}
              onsubmit={(e) => {
                e.preventDefault();
                void run(() => act('/api/{site}/road/arrivals/withdraw', { arrival: which, reason })).then((done) => {
                  if (done) withdrawing = false;
                });
              }}
            >
              <Field label={`Why ${which} does not come, or is sent away`}
                ><input name="withdraw-reason" bind:value={reason} required maxlength="200" /></Field
              >
              <button class="button go">Withdraw {which}</button>
              <button class="button" type="button" onclick={() => (withdrawing = false)}>Leave it</button>
            </form>
          {:else}
            <button class="button" onclick={() => (withdrawing = true)}>Withdraw it</button>
          {/if}
        {/if}
      </div>
    {/if}
    {#if d && d.advised.length > 0}
      <h2 class="pad">The vendor says these units are aboard</h2>
      <table class="list" {@attach cards}>
        <thead
          ><tr
            ><th>Unit</th><th>On unit</th><th>Item</th><th class="number">Quantity</th><th>Source batch</th><th
              >Best before</th
            ></tr
          ></thead
        >
        <tbody>
          {#each d.advised as u, i (i)}
            <tr
              ><td class="c">{u.sscc ?? 'loose'} {u.packageType ?? ''}</td><td class="c quiet">{u.parentSscc ?? ''}</td
              ><td>{u.item ?? 'holds other units'}</td><td class="number"
                >{u.item ? `${number(u.quantity)} ${u.unit}` : ''}</td
              ><td class="c">{u.sourceBatch ?? ''}</td><td>{u.bestBefore ?? ''}</td></tr
            >
          {/each}
        </tbody>
      </table>
    {/if}
  {/if}
  {#snippet trail()}
    <section class="trail-part">
      <h2>Papers and pictures</h2>
      {#each d?.attachments ?? [] as p (p.id)}
        <p>
          <a class="link" href="/api/{session.site}/road/attachments/{p.id}" target="_blank" rel="noreferrer"
            >{p.name}</a
          ><br /><span class="quiet">{Math.ceil(p.size / 1024)} kB, {p.by}, {when(p.at)}</span>
        </p>
      {:else}<p class="quiet">None yet.</p>{/each}
      {#if session.may('Attach')}
        <Field label="Attach a picture or PDF"
          ><input
            type="file"
            accept="image/png,image/jpeg,image/webp,application/pdf"
            capture="environment"
            multiple
            onchange={(e) => void attachAll(e.currentTarget.files)}
          /></Field
        >
      {/if}
    </section>
    {#if d && d.etas.length > 0}
      <section class="trail-part">
        <h2>When it was thought to come</h2>
        {#each d.etas as e, i (i)}
          <p>
            <b>{when(e.to)}</b>{e.from ? `, before that ${when(e.from)}` : ''}<br /><span class="quiet"
              >{e.source}; {e.by}, {when(e.at)}</span
            >
          </p>
        {/each}
      </section>
    {/if}
    <section class="trail-part">
      <h2>What happened</h2>
      <ol class="history">
        {#each d?.history ?? [] as h, i (i)}<li>
            <time>{h.at.slice(11, 16)}</time><span>{h.sentence} <span class="quiet">{h.by}, {day(h.at)}</span></span>
          </li>{/each}
      </ol>
    </section>
  {/snippet}
</RoadFrame>

<style>
  .bring {
    display: flex;
    flex-direction: column;
    gap: 10px;
  }
  form {
    align-items: flex-end;
  }
  .papers {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
    gap: 8px 12px;
    border-bottom: 1px solid var(--stone-2);
  }
  .tick {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    min-height: 36px;
  }
  details {
    width: 100%;
    order: 9;
  }
  summary {
    min-height: 32px;
    cursor: pointer;
    font-weight: 600;
  }
  details .row {
    margin-top: 8px;
  }
  .tools {
    align-items: flex-end;
    gap: 18px;
  }
</style>
