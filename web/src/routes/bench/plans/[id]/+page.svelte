<script lang="ts">
  /** A plan of inspection: what the version in force says, what the draft changes, and what both really do to a vendor's lots. */
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { act, ask, type Schemas } from '$lib/api/client';
  import CharacteristicForm from '$lib/bench/CharacteristicForm.svelte';
  import PlanCurves from '$lib/bench/PlanCurves.svelte';
  import PlansFrame from '$lib/bench/PlansFrame.svelte';
  import RuleFields from '$lib/bench/RuleFields.svelte';
  import DateField from '$lib/ui/DateField.svelte';
  import Field from '$lib/ui/Field.svelte';
  import type { Part } from '$lib/ui/Frame.svelte';
  import { valueFrom } from '$lib/bench/limits';
  import LimitRule from '$lib/ui/LimitRule.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { session } from '$lib/session.svelte';
  import { counted, number, when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  type Text = Schemas['PlanText'];
  const id = $derived(Number(page.params['id']));
  const query = createQuery(() => ({
    queryKey: ['plan', 'plans', id, session.site],
    queryFn: () => ask('/api/{site}/bench/plan/{id}', { id }),
    refetchOnWindowFocus: false,
  }));
  const plan = $derived(query.data);
  const may = $derived(session.may('KeepPlans'));
  const shown = $derived(plan?.draft ?? plan?.inForce ?? plan?.next);
  let part = $state<Part>('work');
  let error = $state<unknown>();
  let said = $state('');
  /** What is typed and not kept yet: it follows what the server has until a hand is on it. */
  let says = $state<Text>();
  let open = $state(0);
  let dirty = $state(false);
  /** Counts what hands do, so that an answer on its way writes over nothing that is typed meanwhile. */
  let edits = 0;
  function typed(event: Event) {
    if (!(event.target as HTMLElement).closest('main')) return;
    edits++;
    dirty = true;
  }
  $effect(() => {
    if (shown && !dirty) says = structuredClone($state.snapshot(shown.says)) as Text;
  });
  let lots = $state('');
  const of = $derived(plan?.lots.find((l) => `${l.itemId} ${l.vendorId}` === lots) ?? plan?.lots[0]);
  let lotSize = $state('');
  let kind = $state<Schemas['CharacteristicClass']>('Major');
  let severity = $state<'' | Schemas['Severity']>('');
  const lot = $derived(Number(lotSize.replace(/\s/g, '')) || of?.lotSize || 100);
  const doing = createQuery(() => ({
    queryKey: [
      'plan',
      'plans',
      'does',
      id,
      session.site,
      plan?.draft?.hash,
      plan?.inForce?.hash,
      lot,
      kind,
      severity,
      of,
    ],
    queryFn: () =>
      ask('/api/{site}/bench/plan/{id}/does', {
        id,
        of: kind,
        lot,
        item: of?.itemId,
        vendor: of?.vendorId,
        severity,
      }),
    enabled: plan !== undefined,
    placeholderData: (before: Schemas['PlanDoesAnswer'] | undefined) => before,
  }));
  const does = $derived(doing.data);
  const change = (characteristic: number | null, field?: string) =>
    plan?.changes.filter((c) => c.characteristic === characteristic && (field === undefined || c.field === field)) ??
    [];

  async function tried(work: () => Promise<{ sentence: string; hash?: string }>) {
    error = undefined;
    said = '';
    const before = edits;
    try {
      const answer = await work();
      if (edits === before) dirty = false;
      answered = answer.hash;
      await query.refetch();
      said = answer.sentence;
      return true;
    } catch (problem) {
      error = problem;
      return false;
    }
  }
  /** What the last change came to, until the page shows it or something newer: a change in the same breath goes on from there. */
  let answered: string | undefined;
  let seen: string | undefined;
  $effect(() => {
    if (shown?.hash !== seen) answered = undefined;
    seen = shown?.hash;
  });
  const keep = () =>
    tried(() =>
      act('/api/{site}/bench/plans/draft', {
        plan: id,
        looked: answered ?? shown!.hash,
        says: $state.snapshot(says!) as Text,
      }),
    );
  let keeping: Promise<unknown> = Promise.resolve();
  /** Every change is kept at once, as the draft, one after the other. */
  function changed() {
    edits++;
    dirty = true;
    keeping = keeping.then(keep);
  }
  const begin = () =>
    tried(() => act('/api/{site}/bench/plans/draft', { plan: id, looked: shown!.hash, says: shown!.says }));
  async function drop() {
    const only = plan?.before.length === 0 && !plan.inForce && !plan.next;
    if (!(await tried(() => act('/api/{site}/bench/plans/drop', { plan: id, looked: plan!.draft!.hash })))) return;
    if (only) await goto('/bench/plans');
  }
  function add() {
    const next: Schemas['CharacteristicText'] = {
      id: 0,
      name: `Characteristic ${says!.characteristics.length + 1}`,
      class: 'Major',
      unit: null,
      nominal: null,
      lower: null,
      upper: null,
      gauge: null,
      gaugeLow: null,
      gaugeHigh: null,
      passWord: 'good',
      failWord: 'bad',
      instruction: '',
      rule: null,
      usesUp: false,
      had: 'Typed',
      picture: null,
    };
    says!.characteristics = [...says!.characteristics, next];
    open = says!.characteristics.length;
    changed();
  }
  function remove(at: number) {
    says!.characteristics = says!.characteristics.filter((_, i) => i !== at);
    open = 0;
    changed();
  }
  let signing = $state(false);
  let name = $state(session.state?.name ?? '');
  let password = $state('');
  let comment = $state('');
  let from = $state('');
  async function sign(event: SubmitEvent) {
    event.preventDefault();
    const done = await tried(() =>
      act('/api/{site}/bench/plans/sign', {
        plan: id,
        looked: plan!.draft!.hash,
        from: from || null,
        name,
        password,
        comment: comment || null,
      }),
    );
    password = '';
    if (done) [signing, comment] = [false, ''];
  }
  const passes = (d: Schemas['PlanDoes'] | null | undefined) => (d ? Math.round(d.forVendor) : null);
  const knows = $derived((does?.vendor?.inspected ?? 0) > 0);
  /** Where nothing is known of the vendor: at the AQL of each version, and where a rule has none, at one of a hundred. */
  const quality = $derived.by(() => {
    const named = [does?.inForce, does?.draft].filter((d) => d).map((d) => d!.atAql !== null);
    if (named.every(Boolean)) return 'at the AQL';
    return named.some(Boolean) ? 'at the AQL, or else with 1 nonconforming of 100,' : 'with 1 nonconforming of 100';
  });
  const pastWords = $derived(
    `Averaged over the hill: ${counted(does?.vendor?.lots ?? 0, 'lot')}, ` +
      `${number(does?.vendor?.nonconforming ?? 0)} nonconforming of ${number(does?.vendor?.inspected ?? 0)} pieces.`,
  );
  const three = (value: number | null | undefined) =>
    value === null || value === undefined ? '' : number(Number(value.toPrecision(value >= 100 ? 3 : 2)));
</script>

<svelte:document oninput={typed} />
<svelte:head><title>{plan?.name ?? 'Plan'} · Bench · Mud Room</title></svelte:head>
<PlansFrame current={id} workTitle={plan?.name ?? 'Plan'} bind:part>
  {#if query.error}<div class="pad"><ProblemNote error={query.error} /></div>{/if}
  {#if plan && shown && says}
    <div class="head">
      <div class="titled">
        <h1>{plan.name}, version {shown.number}</h1>
        {#if may}
          {#if plan.draft}
            {#if !signing}<button
                class="button go"
                id="sign-plan"
                onclick={() => (signing = true)}
                disabled={plan.faults.length > 0}>Sign it in force</button
              >{/if}
          {:else}<button class="button go" id="begin-draft" onclick={begin}>Draft the next version</button>{/if}
        {/if}
      </div>
      <p class="quiet">
        {#if plan.draft}Draft by {plan.draft.draftedBy}, {when(plan.draft.draftedAt)}.
          {plan.inForce
            ? `Version ${plan.inForce.number} stays in force until this one is signed.`
            : 'No version is in force yet.'}
        {:else}Signed by {shown.signedBy}{shown.from ? `, in force from ${when(shown.from)}` : ''}{shown.comment
            ? `: ${shown.comment}`
            : ''}.{/if}
      </p>
      <p><a class="link" href="/book?text={encodeURIComponent(plan.name)}">All that happened to {plan.name}</a></p>
      {#if said}<p role="status"><b>{said}</b></p>{/if}
      <ProblemNote {error} />
      {#each plan.faults as fault (fault)}<p class="fault">{fault}</p>{/each}
      {#if signing && plan.draft}
        <form class="sign" onsubmit={sign}>
          <Field label="Name"><input name="signer" bind:value={name} autocomplete="off" /></Field>
          <Field label="Password"
            ><input name="signature" type="password" bind:value={password} autocomplete="off" /></Field
          >
          <DateField label="In force from, blank is now" bind:value={from} />
          <Field label="Comment"><input name="comment" bind:value={comment} maxlength="1000" /></Field>
          <button class="button go">Sign version {plan.draft.number} in force</button>
          <button class="button" type="button" onclick={() => (signing = false)}>Not yet</button>
        </form>
      {/if}
    </div>

    {#if does && (does.inForce || does.draft)}
      <div class="says">
        <p class="big">
          {#if does.inForce}<span class="old">{passes(does.inForce)}</span>{/if}{#if does.inForce && does.draft}<span
              class="old"
              aria-label="becomes">→</span
            >{/if}{#if does.draft}<span>{passes(does.draft)}</span>{/if}
        </p>
        <p>
          <b
            >of 100 lots {knows ? `like ${does.vendor?.vendor}’s` : quality} would pass on their
            {kind.toLowerCase()}s.</b
          ><br />
          <span class="quiet">{knows ? pastWords : 'No lot of theirs was inspected yet.'}</span>
        </p>
      </div>
      <PlanCurves {does} />
    {/if}

    <table class="list">
      <thead
        ><tr
          ><th>Characteristic</th><th>Class</th><th>Value from</th><th>Limits, both inclusive</th><th>Sample rule</th
          ></tr
        ></thead
      >
      <tbody>
        {#each says.characteristics as c, i (c.id || `new ${i}`)}
          {@const differs = c.id ? change(c.id) : []}
          <tr class:changed={differs.length > 0} class:chosen={open === i + 1}>
            <td
              >{#if may && plan.draft}<button
                  class="link"
                  aria-expanded={open === i + 1}
                  onclick={() => (open = open === i + 1 ? 0 : i + 1)}>{c.name}</button
                >{:else}<b>{c.name}</b>{/if}</td
            >
            <td>{c.class.toLowerCase()}</td>
            <td>{valueFrom(c)}</td>
            <td
              >{shown.limits[i] ?? ''}
              {#if c.unit}<LimitRule
                  value={null}
                  lower={c.lower ? Number(c.lower) : null}
                  upper={c.upper ? Number(c.upper) : null}
                />{/if}</td
            >
            <td
              >{shown.rules[i] ?? ''}
              {#each differs as d (d.field)}<span class="was">{d.was === null ? 'new' : `${d.field} was ${d.was}`}</span
                >
              {/each}</td
            >
          </tr>
          {#if open === i + 1 && plan.draft && may}
            <tr class="form"
              ><td colspan="5"
                ><CharacteristicForm
                  bind:of={says.characteristics[i]!}
                  aqls={plan.aqls}
                  {changed}
                  remove={() => remove(i)}
                /></td
              ></tr
            >
          {/if}
        {:else}
          <tr><td colspan="5" class="quiet">No characteristic yet: there is nothing to look at.</td></tr>
        {/each}
        {#each plan.changes.filter((c) => c.characteristic !== null && c.now === null) as gone (gone.characteristic)}
          <tr class="changed"><td colspan="5"><span class="was">{gone.field}, {gone.was}, is left out</span></td></tr>
        {/each}
      </tbody>
    </table>
    {#if may && plan.draft}
      <div class="pad row">
        <button class="button" id="add-characteristic" onclick={add}>Add a characteristic</button>
        <button class="button" id="drop-draft" onclick={drop}>Drop the draft</button>
      </div>
    {/if}
    <section class="pad classes">
      <h2>Sample rule of each class</h2>
      {#each [['Critical', 'critical'], ['Major', 'major'], ['Minor', 'minor']] as [label, field] (field)}
        <div class="class">
          <b>{label}</b>
          {#if may && plan.draft}
            <RuleFields
              bind:rule={says[field as 'critical' | 'major' | 'minor']}
              of={label!}
              none={label === 'Critical' ? 'on the largest sample, none may fail' : 'no rule'}
              aqls={plan.aqls}
              {changed}
            />
          {:else}
            {@const rule = says[field as 'critical' | 'major' | 'minor']}
            <span
              >{rule === null
                ? label === 'Critical'
                  ? 'on the largest sample, none may fail'
                  : 'no rule'
                : rule.kind === 'Standard'
                  ? `level ${(rule.level ?? 'II').replace('S', 'S-')}, AQL ${rule.aql}${rule.isDouble ? ', double' : ''}`
                  : rule.kind.toLowerCase()}</span
            >
          {/if}
          {#each change(null, field) as d (d.field)}<span class="was">was {d.was ?? 'none'}</span>{/each}
        </div>
      {/each}
      {#if may && plan.draft}
        <div class="row">
          <Field label="Lots are counted in"
            ><select bind:value={says.samplingUnit} onchange={changed}>
              {#each plan.units as u (u)}<option value={u}>{u}</option>{/each}
            </select></Field
          >
          <label class="second"
            ><input type="checkbox" name="second" bind:checked={says.wantsSecond} onchange={changed} /> a second person signs</label
          >
          <label
            ><input type="checkbox" name="only-sample" bind:checked={says.onlySampleWaits} onchange={changed} /> only the
            sample waits</label
          >
          <label
            ><input type="checkbox" name="each-its-own" bind:checked={says.eachItsOwn} onchange={changed} /> each rule takes
            pieces of its own</label
          >
          <Field label="Skip lots after" unit="accepted in a row"
            ><input
              class="c short"
              name="skip-after"
              inputmode="numeric"
              bind:value={says.skipAfter}
              onchange={changed}
            /></Field
          >
          <Field label="and look at" unit="% of them"
            ><input
              class="c short"
              name="skip-percent"
              inputmode="decimal"
              bind:value={says.skipPercent}
              onchange={changed}
            /></Field
          >
          <Field label="Keep of each sample" unit={says.samplingUnit}
            ><input
              class="c short"
              name="retain-units"
              inputmode="numeric"
              bind:value={says.retainUnits}
              onchange={changed}
            /></Field
          >
          <Field label="for" unit="months"
            ><input
              class="c short"
              name="retain-months"
              inputmode="numeric"
              bind:value={says.retainMonths}
              onchange={changed}
            /></Field
          >
          <Field label="Whoever inspects has" hint="a ticket; blank: nobody is asked"
            ><input name="qualification" bind:value={says.qualification} onchange={changed} maxlength="60" /></Field
          >
          <Field label="Set-up" unit="min"
            ><input class="c short" inputmode="numeric" bind:value={says.setUpMinutes} onchange={changed} /></Field
          >
          <Field label="A piece takes" unit="s"
            ><input class="c short" inputmode="numeric" bind:value={says.secondsPerPiece} onchange={changed} /></Field
          >
        </div>
      {:else}
        <p class="quiet">
          Lots are counted in {says.samplingUnit}; {says.setUpMinutes} minutes to set up, {says.secondsPerPiece} seconds a
          piece.{says.wantsSecond ? ' A second person signs.' : ''}{says.onlySampleWaits
            ? ' Only the sample waits.'
            : ''}{says.eachItsOwn ? ' Each rule takes pieces of its own.' : ''}{says.retainUnits
            ? ` ${says.retainUnits} of each sample are kept for ${says.retainMonths} months.`
            : ''}{says.qualification ? ` Whoever inspects has ${says.qualification}.` : ''}{says.skipAfter
            ? ` After ${says.skipAfter} accepted in a row, ${says.skipPercent} % of lots are looked at.`
            : ''}
        </p>
      {/if}
    </section>
  {/if}
  {#snippet trail()}
    {#if plan}
      <section class="trail-part">
        <h2>{plan.draft && plan.inForce ? 'Old and new' : 'What it really does'}</h2>
        <div class="pick">
          <Field label="Lots of"
            ><select
              value={lots || (of ? `${of.itemId} ${of.vendorId}` : '')}
              onchange={(e) => (lots = e.currentTarget.value)}
            >
              {#each plan.lots as l (`${l.itemId} ${l.vendorId}`)}<option value="{l.itemId} {l.vendorId}"
                  >{l.item}, {l.vendor}</option
                >{:else}<option value="">nobody yet</option>{/each}
            </select></Field
          >
          <Field label="Lot size"
            ><input class="c short" inputmode="numeric" placeholder={String(lot)} bind:value={lotSize} /></Field
          >
          <Field label="Class"
            ><select bind:value={kind}
              ><option value="Critical">critical</option><option value="Major">major</option><option value="Minor"
                >minor</option
              ></select
            ></Field
          >
          <Field label="Severity"
            ><select bind:value={severity}
              ><option value=""
                >{does && severity === '' ? `${does.severity.toLowerCase()}, as it stands` : 'as it stands'}</option
              ><option value="Normal">normal</option><option value="Tightened">tightened</option><option value="Reduced"
                >reduced</option
              ></select
            ></Field
          >
        </div>
        {#if does && (does.inForce || does.draft)}
          {@const versions = [does.inForce, does.draft].filter((d) => d !== null && d !== undefined)}
          <table class="both">
            <thead
              ><tr
                ><th>Version</th>{#each versions as d (d.version)}<th class="c">{d.version}</th>{/each}</tr
              ></thead
            >
            <tbody>
              <tr
                ><th>Rule</th>{#each versions as d (d.version)}<td>{d.rule}</td>{/each}</tr
              >
              <tr
                ><th>Code letter</th>{#each versions as d (d.version)}<td class="c">{d.letter ?? ''}</td>{/each}</tr
              >
              <tr
                ><th>Look at</th>{#each versions as d (d.version)}<td class="c"
                    >{d.size}{d.second ? ` + ${d.second}` : ''}</td
                  >{/each}</tr
              >
              <tr
                ><th>Ac and Re</th>{#each versions as d (d.version)}<td class="c"
                    >{d.ac === null ? (d.k === null ? '' : `k ${three(d.k)}`) : `${d.ac}, ${d.ac + 1}`}</td
                  >{/each}</tr
              >
              <tr
                ><th>Passes at its AQL</th>{#each versions as d (d.version)}<td class="c"
                    >{d.atAql === null ? '' : `${Math.round(d.atAql)} %`}</td
                  >{/each}</tr
              >
              <tr
                ><th>Looked at, on average</th>{#each versions as d (d.version)}<td class="c">{three(d.looked)}</td
                  >{/each}</tr
              >
              <tr
                ><th>Worst that goes out</th>{#each versions as d (d.version)}<td class="c">{three(d.outgoing)} %</td
                  >{/each}</tr
              >
              <tr
                ><th>Minutes at the bench</th>{#each versions as d (d.version)}<td class="c">{Math.round(d.minutes)}</td
                  >{/each}</tr
              >
            </tbody>
          </table>
          {#each versions.filter((d) => d.note) as d (d.version)}<p class="quiet">
              Version {d.version}: {d.note}
            </p>{/each}
          <p class="quiet">A rejected lot is looked through whole: so the average is more than the sample.</p>
          {#if versions.length === 2}
            {@const more = Math.round(versions[1]!.minutes - versions[0]!.minutes)}
            <p>
              <b
                >{more === 0 ? 'The same minutes' : `${Math.abs(more)} minutes ${more > 0 ? 'more' : 'less'}`} for each lot.</b
              >
            </p>
          {/if}
        {:else}<p class="quiet">No part of it judges {kind.toLowerCase()}s.</p>{/if}
      </section>
      {#if plan.changes.length}
        <section class="trail-part">
          <h2>Changed in the draft</h2>
          {#each plan.changes as c (`${c.characteristic} ${c.field}`)}
            <p>
              {c.characteristic !== null
                ? `${says?.characteristics.find((x) => x.id === c.characteristic)?.name ?? ''} `
                : ''}{c.field}: {c.was ?? 'nothing'} → <b>{c.now ?? 'left out'}</b>
            </p>
          {/each}
        </section>
      {/if}
      {#if plan.next}<section class="trail-part">
          <h2>To come</h2>
          <p>Version {plan.next.number}, signed by {plan.next.signedBy}, in force from {when(plan.next.from)}.</p>
        </section>{/if}
      <section class="trail-part">
        <h2>Versions before</h2>
        {#each plan.before as v (v.number)}<p>
            Version {v.number}, signed by {v.signedBy}{v.from ? `, ${when(v.from)}` : ''}
            <span class="quiet c">{v.hash.slice(0, 12)}</span>
          </p>{:else}<p class="quiet">None.</p>{/each}
      </section>
    {/if}
  {/snippet}
</PlansFrame>

<style>
  .titled {
    display: flex;
    gap: 12px;
    justify-content: space-between;
    align-items: start;
    flex-wrap: wrap;
  }
  .fault {
    color: var(--disc);
    font-weight: 600;
  }
  .sign {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
    gap: 10px;
    align-items: end;
  }
  .says {
    display: flex;
    gap: 18px;
    align-items: center;
    padding: 10px 18px 0;
    flex-wrap: wrap;
  }
  .big {
    font: 700 48px/1 var(--code);
    display: flex;
    gap: 12px;
    align-items: center;
  }
  .old {
    color: var(--peat-2);
    font-weight: 500;
  }
  .changed td:first-child {
    box-shadow: inset 5px 0 var(--peat);
  }
  .was {
    display: inline-block;
    margin-left: 8px;
    font-weight: 700;
    border-bottom: 2px solid var(--peat);
  }
  .chosen td {
    background: var(--lit-faint);
  }
  .classes {
    display: flex;
    flex-direction: column;
    gap: 12px;
  }
  .class {
    display: flex;
    gap: 12px;
    align-items: end;
    flex-wrap: wrap;
  }
  .class b {
    width: 62px;
    padding-bottom: 6px;
  }
  .second {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    min-height: 36px;
  }
  .short {
    width: 90px;
  }
  .row {
    display: flex;
    gap: 12px;
    flex-wrap: wrap;
    align-items: end;
  }
  .pick {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 8px;
  }
  .pick :global(.field:is(:first-child, :last-child)) {
    grid-column: 1 / -1;
  }
  .pick :global(select) {
    width: 100%;
  }
  .both {
    width: 100%;
    margin-top: 10px;
    border-collapse: collapse;
  }
  .both th,
  .both td {
    text-align: left;
    padding: 4px 6px 4px 0;
    border-bottom: 1px solid var(--stone-2);
    font-weight: 400;
  }
  .both td:last-child {
    font-weight: 700;
  }
</style>
