<script lang="ts">
  /** What becomes of nonconforming goods: decided over part or all of a hold; and what was decided, until it has happened. */
  import { act, ask, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import DateField from '$lib/ui/DateField.svelte';
  import Field from '$lib/ui/Field.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { number, when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  type Decidable = Pick<
    Schemas['HoldCard'],
    'number' | 'item' | 'quantity' | 'unit' | 'reason' | 'decision' | 'canDecide' | 'choices' | 'twoDecide'
  >;
  let { hold, changed }: { hold: Decidable; changed: (sentence: string) => Promise<unknown> } = $props();
  const all: { kind: Schemas['DecisionKind']; word: string; then: string }[] = [
    { kind: 'UsableAgain', word: 'usable again', then: 'They are free of the return at once.' },
    { kind: 'BackToCustomer', word: 'send back to the customer', then: 'They stay held until they have left.' },
    { kind: 'ReturnToVendor', word: 'return to vendor', then: 'They stay held until they have left.' },
    { kind: 'Scrap', word: 'scrap', then: 'They stay held until somebody besides you has seen them go.' },
    { kind: 'Rework', word: 'rework', then: 'They are made to conform, and wait at the bench then.' },
    { kind: 'Repair', word: 'repair', then: 'They are made fit for use, and wait at the bench then.' },
    {
      kind: 'Regrade',
      word: 'regrade',
      then: 'They stay held until they are relabelled, and are the other item then.',
    },
    {
      kind: 'ReleaseUnderConcession',
      word: 'release under concession',
      then: 'They are usable at once; what is left behind the last day is held again.',
    },
  ];
  const happened: Record<Schemas['DecisionKind'], string> = {
    ReturnToVendor: 'They have left',
    Scrap: 'They are scrapped',
    Rework: 'They are reworked',
    Repair: 'They are repaired',
    ReleaseUnderConcession: 'They are released',
    UsableAgain: 'They are usable',
    BackToCustomer: 'They have left',
    Regrade: 'They are relabelled',
  };
  const choices = $derived(hold.choices.map((kind) => all.find((c) => c.kind === kind)!));
  let decision = $state<Schemas['DecisionKind']>(untrack(() => hold.choices[0]!));
  let quantity = $state('');
  let note = $state('');
  let askedBy = $state('');
  let forWhom = $state('');
  let until = $state('');
  let into = $state('');
  let second = $state('');
  let secondPassword = $state('');
  let remark = $state('');
  let witness = $state('');
  let password = $state('');
  let why = $state('');
  let takesBack = $state(false);
  let busy = $state(false);
  let error = $state<unknown>();
  const site = createQuery(() => ({
    queryKey: ['site', session.site],
    queryFn: () => ask('/api/{site}/site'),
    enabled: decision === 'Regrade',
  }));
  const others = $derived(
    (site.data?.items ?? []).filter((i) => i.unit === hold.unit && i.name !== hold.item).map((i) => i.name),
  );
  const then = $derived(choices.find((c) => c.kind === decision)?.then);
  async function run(event: SubmitEvent, work: () => Promise<{ sentence: string }>) {
    event.preventDefault();
    error = undefined;
    busy = true;
    try {
      const { sentence } = await work();
      quantity = note = remark = why = askedBy = forWhom = until = into = second = '';
      takesBack = false;
      await changed(sentence);
    } catch (problem) {
      error = problem;
    } finally {
      busy = false;
      password = secondPassword = '';
    }
  }
  function decide() {
    const isConcession = decision === 'ReleaseUnderConcession';
    return act('/api/{site}/cage/decide', {
      hold: hold.number,
      decision,
      quantity,
      note: note || null,
      askedBy: isConcession ? askedBy : null,
      forWhom: isConcession ? forWhom : null,
      until: isConcession && until ? until : null,
      into: decision === 'Regrade' ? into : null,
      second: second || null,
      secondPassword: second ? secondPassword : null,
    });
  }
</script>

{#if hold.decision}
  {@const d = hold.decision}
  <p>
    <b>{number(hold.quantity)} {hold.unit} {d.toBe}</b>{#if d.usableUntil}&nbsp;until {when(d.usableUntil)}{/if}:
    {d.note}
    <span class="quiet"
      >{d.by}, {when(d.at)}{#if d.value !== null}; worth {number(d.value)}{/if}</span
    >
  </p>
  {#if d.mayCarryOut}
    <form
      class="decide"
      onsubmit={(e) =>
        run(e, () =>
          act('/api/{site}/cage/carry-out', {
            hold: hold.number,
            note: remark || null,
            witness: d.wantsWitness ? witness : null,
            witnessPassword: d.wantsWitness ? password : null,
          }),
        )}
    >
      <Field label="Remark"><input name="carry-out-note" bind:value={remark} maxlength="200" /></Field>
      {#if d.wantsWitness}
        <Field label="Who saw it"><input name="witness" bind:value={witness} autocomplete="off" /></Field>
        <Field label="Their password"
          ><input name="witness-password" type="password" bind:value={password} autocomplete="off" /></Field
        >
      {/if}
      <button class="button go" disabled={busy}>{happened[d.kind]}</button>
    </form>
  {/if}
  {#if d.mayTakeBack}
    <details bind:open={takesBack}>
      <summary>{d.usableUntil ? 'End the concession now' : 'Take the decision back'}</summary>
      <form class="decide" onsubmit={(e) => run(e, () => act('/api/{site}/cage/undecide', { hold: hold.number, why }))}>
        <Field label={d.usableUntil ? 'Why it ends' : 'Why it is taken back'}
          ><input name="undecide-why" bind:value={why} maxlength="200" /></Field
        >
        <button class="button" disabled={busy}>{d.usableUntil ? 'End it' : 'Take it back'}</button>
      </form>
    </details>
  {/if}
{:else if hold.canDecide}
  <form class="decide" onsubmit={(e) => run(e, decide)}>
    <Field label="Decide over part or all" hint={then} class="wide">
      <select name="decision" bind:value={decision}>
        {#each choices as c (c.kind)}<option value={c.kind}>{c.word}</option>{/each}
      </select></Field
    >
    <Field label={`How many ${hold.unit}`}
      ><input
        name="quantity"
        bind:value={quantity}
        inputmode="decimal"
        class="c"
        placeholder={String(hold.quantity)}
      /></Field
    >
    <Field label="Why"><input name="why" bind:value={note} /></Field>
    {#if decision === 'ReleaseUnderConcession'}
      <Field label="Who asked for it"><input name="asked-by" bind:value={askedBy} maxlength="80" required /></Field>
      <Field label="For what order, job or use"
        ><input name="for-whom" bind:value={forWhom} maxlength="80" required autocomplete="off" /></Field
      >
      <DateField label="Last day, if it ends" name="until" bind:value={until} />
    {:else if decision === 'Regrade'}
      <Field label="To which item" class="wide">
        <input name="into" list="regrade-{hold.number}" bind:value={into} required autocomplete="off" /></Field
      >
      <datalist id="regrade-{hold.number}">
        {#each others as name (name)}<option value={name}></option>{/each}
      </datalist>
    {/if}
    {#if hold.twoDecide}
      <Field label="Who decides too"><input name="second" bind:value={second} autocomplete="off" /></Field>
      <Field label="Their password"
        ><input name="second-password" type="password" bind:value={secondPassword} autocomplete="off" /></Field
      >
    {/if}
    <button class="button" class:go={hold.reason === 'Nonconforming'} disabled={busy}>Decide</button>
  </form>
{/if}
<ProblemNote {error} />

<style>
  .decide {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(130px, 1fr));
    gap: 10px;
    align-items: start;
  }
  .decide :global(.wide) {
    grid-column: span 2;
  }
  .decide .button {
    margin-top: 24px;
  }
  @media (max-width: 700px) {
    .decide .button {
      margin-top: 0;
    }
  }
</style>
