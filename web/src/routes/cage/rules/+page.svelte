<script lang="ts">
  /** The rules that hold goods when they are counted: what each says, what a changed one would have caught, signed in force. */
  import { act, ask, type Schemas } from '$lib/api/client';
  import ConditionFields from '$lib/cage/ConditionFields.svelte';
  import { session } from '$lib/session.svelte';
  import Field from '$lib/ui/Field.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import { counted, day, when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const query = createQuery(() => ({
    queryKey: ['cage', 'rules', session.site],
    queryFn: () => ask('/api/{site}/cage/rules'),
  }));
  const rules = $derived(query.data);
  type Says = Schemas['HoldRuleSays'];
  const empty: Says = {
    name: '',
    days: 14,
    counted: 'Calendar',
    from: 'Tally',
    item: '',
    category: '',
    vendor: '',
    origin: '',
    batch: '',
    seasonFirst: '',
    seasonLast: '',
  };
  /** The rule that is changed; 0 for a new one. */
  let chosen = $state(0);
  let says = $state<Says>({ ...empty });
  let wants = $state<Schemas['Wanted'][]>([]);
  let part = $state<Part>('work');
  const may = $derived(session.may('KeepPlans'));
  const current = $derived(rules?.rules.find((r) => r.id === chosen));
  function choose(rule: Schemas['HoldRuleView'] | undefined) {
    chosen = rule?.id ?? 0;
    says = rule ? { ...rule.says } : { ...empty };
    wants = rule ? rule.wants.map((w) => ({ ...w })) : [];
    part = 'work';
    [error, done, why] = [undefined, '', ''];
  }
  /** What is tried: what stands in the form, once nobody types any more. */
  let tried = $state<Says>();
  $effect(() => {
    const now = $state.snapshot(says);
    const later = setTimeout(() => (tried = now), 350);
    return () => clearTimeout(later);
  });
  const namesGoods = $derived(
    tried !== undefined &&
      tried.days >= 0 &&
      [tried.item, tried.category, tried.vendor, tried.origin, tried.batch].some((t) => (t ?? '').trim() !== ''),
  );
  const trial = createQuery(() => ({
    queryKey: ['cage', 'rules', 'trial', session.site, tried],
    queryFn: () => ask('/api/{site}/cage/rules/trial', { ...tried!, name: tried!.name || 'a rule' }),
    enabled: namesGoods,
    retry: false,
  }));
  let name = $state(session.state?.name ?? '');
  let password = $state('');
  let why = $state('');
  let error = $state<unknown>();
  let done = $state('');
  async function run(work: () => Promise<{ sentence: string }>) {
    [error, done] = [undefined, ''];
    try {
      const { sentence } = await work();
      await query.refetch();
      choose(undefined);
      done = sentence;
    } catch (problem) {
      error = problem;
    }
    password = '';
  }
  function sign(event: SubmitEvent) {
    event.preventDefault();
    void run(() =>
      act('/api/{site}/cage/rules/sign', {
        says,
        inPlaceOf: chosen === 0 ? null : chosen,
        signer: name,
        password,
        wants,
      }),
    );
  }
  const end = () => void run(() => act('/api/{site}/cage/rules/end', { rule: chosen, why, signer: name, password }));
</script>

<svelte:head><title>Rules of holds · Cage · Mud Room</title></svelte:head>
<Frame
  queueTitle="Rules of holds"
  queueCount={counted(rules?.rules.length ?? 0, 'rule')}
  workTitle={current?.name ?? 'A rule'}
  bind:part
>
  {#snippet queue()}
    <p class="pad row">
      <a class="link" href="/cage">Back to the holds</a>
      {#if may}<button class="button" id="new-rule" onclick={() => choose(undefined)}>A new rule</button>{/if}
    </p>
    {#each rules?.rules ?? [] as r (r.id)}
      <QueueCard
        onpress={() => choose(r)}
        current={r.id === chosen}
        code={r.by === null ? 'from before' : day(r.since)}
        title={r.name}
        why={r.words}
      />
    {:else}
      <p class="empty">No rule yet: goods are held by hand, when they are counted aside, or by the bench.</p>
    {/each}
    {#if rules?.ended.length}
      <details class="pad">
        <summary>Ended ({rules.ended.length})</summary>
        {#each rules.ended as r (r.id)}
          <p><b>{r.name}</b> {r.words}<br /><span class="quiet">ended {when(r.endedAt)} by {r.endedBy}</span></p>
        {/each}
      </details>
    {/if}
  {/snippet}
  {#snippet work()}
    <div class="head">
      <h1>{current?.name ?? (may ? 'A new rule' : 'Rules of holds')}</h1>
      {#if current}
        <p>{current.words}</p>
        <p class="quiet">
          {current.by === null
            ? 'In force from before rules were signed.'
            : `Signed by ${current.by}, ${when(current.since)}.`}
          Goods that it holds stay held as long as it said, whatever becomes of it.
        </p>
        {#if current.by !== null}<p>
            <a class="link" href="/book?text={encodeURIComponent(current.name)}">All that happened to {current.name}</a>
          </p>{/if}
      {:else}
        <p class="quiet">
          Every rule that catches goods lays its conditions on them; they are free when the last is met.
        </p>
      {/if}
    </div>
    {#if done}<p class="good note" id="done" role="status">{done}</p>{/if}
    <datalist id="vendors"
      >{#each rules?.vendors ?? [] as v (v)}<option value={v}></option>{/each}</datalist
    >
    {#if may || current}
      <form class="pad rule" onsubmit={sign}>
        <fieldset disabled={!may}>
          <legend class="sr-only">What the rule says</legend>
          <div class="fields">
            <Field label="It is called" class="name"
              ><input name="rule-name" bind:value={says.name} maxlength="60" required autocomplete="off" /></Field
            >
            <Field label="Days, 0 for no time"
              ><input
                name="rule-days"
                class="c"
                type="number"
                min="0"
                max="3650"
                bind:value={says.days}
                required
              /></Field
            >
            <Field label="Which days"
              ><select name="rule-counted" bind:value={says.counted}
                ><option value="Calendar">calendar days</option><option value="Working">working days</option></select
              ></Field
            >
            <Field label="Counted from"
              ><select name="rule-from" bind:value={says.from}
                ><option value="Tally">the tally</option><option value="Arrival">the gate</option><option
                  value="Production">production</option
                ></select
              ></Field
            >
          </div>
          <h2>It catches goods that are all of this</h2>
          <div class="fields">
            <Field label="Item, by code or name"
              ><input name="rule-item" bind:value={says.item} autocomplete="off" /></Field
            >
            <Field label="Item group"
              ><select name="rule-category" bind:value={says.category}
                ><option value="">any</option>{#each rules?.categories ?? [] as c (c)}<option value={c}>{c}</option
                  >{/each}</select
              ></Field
            >
            <Field label="Vendor"
              ><input name="rule-vendor" bind:value={says.vendor} list="vendors" autocomplete="off" /></Field
            >
            <Field label="Origin, a country"
              ><input name="rule-origin" bind:value={says.origin} autocomplete="off" /></Field
            >
            <Field label="Source batch, * is any"
              ><input name="rule-batch" class="c" bind:value={says.batch} autocomplete="off" /></Field
            >
            <div class="season">
              <Field label="Season from"
                ><input
                  name="rule-season-first"
                  class="c"
                  bind:value={says.seasonFirst}
                  placeholder="11-01"
                  autocomplete="off"
                /></Field
              >
              <Field label="to"
                ><input
                  name="rule-season-last"
                  class="c"
                  bind:value={says.seasonLast}
                  placeholder="02-28"
                  autocomplete="off"
                /></Field
              >
            </div>
          </div>
          <h2>It wants besides time</h2>
          <ConditionFields bind:wants />
        </fieldset>
        {#if may}
          <h2>Signature</h2>
          <div class="fields">
            <Field label="Name"><input name="signer" bind:value={name} autocomplete="off" /></Field>
            <Field label="Password"
              ><input name="signature" type="password" bind:value={password} autocomplete="off" /></Field
            >
            {#if current}<Field label="Why, to end it"
                ><input name="rule-why" bind:value={why} maxlength="200" autocomplete="off" /></Field
              >{/if}
          </div>
          <div class="row">
            <button class="button go">{current ? 'Sign the change in force' : 'Sign it in force'}</button>
            {#if current}<button class="button" type="button" id="end-rule" onclick={end}>End the rule</button>{/if}
          </div>
        {/if}
        <ProblemNote {error} />
      </form>
    {/if}
  {/snippet}
  {#snippet trail()}
    <section class="trail-part" aria-live="polite">
      <h2>On what came in ninety days</h2>
      {#if !namesGoods}
        <p class="quiet">
          {may ? 'Name some goods' : 'Choose a rule'}, and what the rule would have caught stands here.
        </p>
      {:else if trial.error}
        <ProblemNote error={trial.error} />
      {:else if trial.data}
        <p id="trial">
          It would have caught <b>{counted(trial.data.lots, 'lot')}</b> of {counted(trial.data.vendors, 'vendor')}, out
          of {trial.data.lookedAt} since {day(trial.data.since)}; {tried!.days > 0
            ? `its time would still hold ${trial.data.stillHeld}`
            : 'it lays no time'}.
        </p>
        {#each trial.data.last as l (l.item + l.batch + l.came)}
          <p>
            {l.item}{l.batch ? ', ' : ''}<span class="c">{l.batch ?? ''}</span><br />
            <span class="quiet"
              >{l.vendor ?? 'nobody knows whose'}, <span class="c">{l.arrival}</span>, {when(l.came)}{tried!.days > 0
                ? ` until ${when(l.until)}`
                : ''}</span
            >
          </p>
        {/each}
        {#if trial.data.lots > trial.data.last.length}<p class="quiet">
            and {trial.data.lots - trial.data.last.length} before.
          </p>{/if}
      {/if}
    </section>
  {/snippet}
</Frame>

<style>
  .rule {
    display: flex;
    flex-direction: column;
    gap: 12px;
  }
  fieldset {
    border: 0;
    margin: 0;
    padding: 0;
    min-width: 0;
  }
  h2 {
    margin: 8px 0 4px;
  }
  .fields :global(.name) {
    grid-column: 1 / -1;
  }
  .season {
    align-items: end;
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 10px;
  }
  .fields {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
    gap: 10px;
    align-items: end;
  }
</style>
