<script lang="ts">
  /** How the site counts goods in: quantities, blind counts, stops, reasons, printers, print rules. */
  import Field from '$lib/ui/Field.svelte';
  import { act, ask, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Frame from '$lib/ui/Frame.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  import WhoChanges from '$lib/site/WhoChanges.svelte';
  import InForce from '$lib/site/InForce.svelte';
  type Settings = Schemas['DoorSettings'];
  const page = createQuery(() => ({
    queryKey: ['site', 'door-settings', session.site],
    queryFn: () => ask('/api/{site}/site/door'),
    refetchOnWindowFocus: false,
  }));
  let form = $state<Settings>();
  let hasAddresses = $state(true);
  let scanner = $state<Schemas['ScannerSettings']>();
  let receipts = $state<Schemas['ReceiptOut']>('Never');
  let version = $state(0);
  let error = $state<unknown>();
  let said = $state('');
  $effect(() => {
    if (!page.data || form) return;
    form = structuredClone(page.data.settings) as Settings;
    scanner = structuredClone(page.data.scanner);
    receipts = page.data.receipts;
    hasAddresses = page.data.hasAddresses;
    version = page.data.inForce.version;
  });
  const may = $derived(session.may('SetUp'));
  const switches: [
    keyof Settings & ('blind' | 'secondCount' | 'scanForced' | 'restAsOrdered' | 'placeChosen'),
    string,
  ][] = [
    ['blind', 'Count blind: who counts does not see what is expected'],
    ['secondCount', 'What differs is counted a second time by somebody else before the tally is closed'],
    ['scanForced', 'Only what was scanned is counted; a supervisor may choose an item'],
    ['restAsOrdered', 'What is still open may be taken as ordered by one press'],
    ['placeChosen', 'The receiver chooses the receiving place'],
  ];
  const kinds: [Schemas['Aside'], string][] = [
    ['Damaged', 'damaged'],
    ['ShortLife', 'too short a remaining life'],
    ['LabelWrong', 'label wrong'],
    ['Over', 'over'],
    ['NotOnOrder', 'on no order'],
    ['WrongItem', 'another item than was ordered'],
    ['OtherSite', 'for another own site'],
  ];
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    said = '';
    try {
      const kept = await act('/api/{site}/site/door', {
        settings: $state.snapshot(form!) as Settings,
        scanner: $state.snapshot(scanner!),
        receipts,
        hasAddresses,
        version,
      });
      said = kept.sentence;
      version = (await page.refetch()).data?.inForce.version ?? version;
    } catch (problem) {
      error = problem;
    }
  }
</script>

<svelte:head><title>How goods are counted · Site · Mud Room</title></svelte:head>
<Frame queueTitle="Site" workTitle="How goods are counted">
  {#snippet queue()}
    <p class="pad"><a class="link" href="/site">Back to the set-up</a></p>
    <p class="pad"><a class="link" href="/site/scanner">Teach a scanner</a></p>
    <p class="pad"><a class="link" href="/door/prints">Labels printed</a></p>
    <p class="pad quiet">What is set here holds for every door and device of this site from the moment it is kept.</p>
  {/snippet}
  {#snippet work()}
    {#if page.error}<div class="pad"><ProblemNote error={page.error} /></div>{/if}
    {#if form && page.data}
      <form class="pad settings" onsubmit={keep}>
        <h1>How goods are counted</h1>
        <WhoChanges />
        <InForce of={page.data.inForce} />
        <fieldset disabled={!may}>
          <legend>Counting</legend>
          <Field label="When an item is scanned, how many stand filled in" class="wide"
            ><select name="quantity" bind:value={form.quantity}>
              <option value="Scanned">one pack for each scan</option>
              <option value="Proposed">what is still open, to be looked at</option>
              <option value="Typed">nothing: it must be typed</option>
            </select></Field
          >
          {#each switches as [key, word] (key)}
            <label class="choice"><input type="checkbox" name={key} bind:checked={form[key]} /> {word}</label>
          {/each}
          {#if scanner}<Field
              label="The same label within so many milliseconds is asked about, one or two; 0 never asks"
              class="wide"
              ><input name="repeatWithin" type="number" min="0" max="2000" bind:value={scanner.repeatWithin} /></Field
            >{/if}
        </fieldset>
        <fieldset disabled={!may}>
          <legend>Stops before a bin</legend>
          <Field label="Counted goods stand first" class="wide"
            ><select name="stops" bind:value={form.stops}>
              <option value="ReceivingPlace">in the receiving place of the door</option>
              <option value="ReceivingPlaceAndBench">there, and what is to be inspected at the bench</option>
              <option value="StraightIn">usable goods straight in the bin that is proposed</option>
            </select></Field
          >
          <Field label="Inspection" class="wide"
            ><select name="inspection" bind:value={form.inspection}>
              <option value="AfterReceipt">after the receipt is posted</option>
              <option value="BeforeReceipt">before: no receipt while a verdict is missing</option>
            </select></Field
          >
          <Field label="Others are told of a receipt" class="wide"
            ><select name="receiptOut" bind:value={receipts}>
              <option value="Never">never</option>
              <option value="WhenPosted">when it is posted</option>
              <option value="WhenSettled">when the last of its goods is in its place, with the places</option>
            </select></Field
          >
          <label class="choice"
            ><input type="checkbox" name="hasAddresses" bind:checked={hasAddresses} /> The site keeps addresses; without them
            it is one undivided store, and goods are in when they are counted</label
          >
        </fieldset>
        <fieldset disabled={!may}>
          <legend>Reasons to count goods aside</legend>
          <p class="quiet">A kind without a reason of its own is offered by its own name.</p>
          {#each form.reasons ?? [] as reason, i (i)}
            <div class="row">
              <Field label="Reason"><input name="reason-name" bind:value={reason.name} maxlength="60" required /></Field
              >
              <Field label="Means"
                ><select bind:value={reason.kind}
                  >{#each kinds as [kind, word] (kind)}<option value={kind}>{word}</option>{/each}</select
                ></Field
              >
              <label class="choice"
                ><input type="checkbox" bind:checked={reason.wantsSentence} /> wants a sentence</label
              >
              <label class="choice"
                ><input type="checkbox" name="reason-picture" bind:checked={reason.wantsPicture} /> wants a picture</label
              >
              <button
                class="button"
                type="button"
                onclick={() => (form!.reasons = (form!.reasons ?? []).filter((r) => r !== reason))}>Away</button
              >
            </div>
          {/each}
          <button
            class="button"
            type="button"
            onclick={() =>
              (form!.reasons = [
                ...(form!.reasons ?? []),
                { name: '', kind: 'Damaged', wantsSentence: true, wantsPicture: false },
              ])}>One more reason</button
          >
        </fieldset>
        <fieldset disabled={!may}>
          <legend>Label printers</legend>
          <p class="quiet">Without an address the stand-in keeps each label to be looked at.</p>
          {#each form.printers ?? [] as printer, i (i)}
            <div class="row">
              <Field label="Name"><input name="printer-name" bind:value={printer.name} maxlength="40" required /></Field
              >
              <Field label="Address of a real one" class="grow"
                ><input
                  class="c"
                  bind:value={printer.address}
                  placeholder="ipp://printserver:631/printers/door2"
                /></Field
              >
              <button
                class="button"
                type="button"
                onclick={() => (form!.printers = (form!.printers ?? []).filter((p) => p !== printer))}>Away</button
              >
            </div>
          {/each}
          <button
            class="button"
            type="button"
            onclick={() => (form!.printers = [...(form!.printers ?? []), { name: '', address: '' }])}
            >One more printer</button
          >
        </fieldset>
        <fieldset disabled={!may}>
          <legend>Which label comes by itself</legend>
          {#each form.prints ?? [] as rule, i (i)}
            <div class="row">
              <Field label="When"
                ><select bind:value={rule.event}
                  ><option value="UnitCounted">a unit was counted: its label</option><option value="PackCounted"
                    >loose packs were counted: one each</option
                  ><option value="CountedAside">goods were set aside</option></select
                ></Field
              >
              <Field label="At door"
                ><select
                  value={rule.door ?? ''}
                  onchange={(e) => (rule.door = e.currentTarget.value ? Number(e.currentTarget.value) : null)}
                  ><option value="">all</option>{#each page.data.doors as d (d)}<option value={d}>{d}</option
                    >{/each}</select
                ></Field
              >
              <Field label="From printer"
                ><select bind:value={rule.printer} required
                  >{#each form.printers ?? [] as p, j (j)}<option>{p.name}</option>{/each}</select
                ></Field
              >
              <Field label="Size"
                ><select bind:value={rule.size}
                  ><option value="a6">A6</option><option value="4x6">4 × 6 in</option></select
                ></Field
              >
              <button
                class="button"
                type="button"
                onclick={() => (form!.prints = (form!.prints ?? []).filter((p) => p !== rule))}>Away</button
              >
            </div>
          {/each}
          <button
            class="button"
            type="button"
            disabled={(form.printers ?? []).length === 0}
            onclick={() =>
              (form!.prints = [
                ...(form!.prints ?? []),
                { event: 'UnitCounted', door: null, printer: form!.printers![0]!.name, size: 'a6' },
              ])}>One more rule</button
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
    display: flex;
    flex-direction: column;
    gap: 8px;
    align-items: flex-start;
  }
  legend {
    font-weight: 600;
    padding-right: 10px;
  }
  :global(.settings .field.wide) {
    width: min(460px, 100%);
  }
  .choice {
    display: inline-flex;
    gap: 8px;
    align-items: center;
    min-height: 32px;
  }
  .row {
    align-items: flex-end;
    width: 100%;
  }
</style>
