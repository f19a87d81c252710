<script lang="ts">
  /** One characteristic of a draft in fields; what is typed is kept when the field is left. */
  import { base64 } from '$lib/api/attach';
  import { act, limits, type Schemas } from '$lib/api/client';
  import { ways } from '$lib/bench/limits';
  import MarkedPicture from '$lib/bench/MarkedPicture.svelte';
  import RuleFields from '$lib/bench/RuleFields.svelte';
  import Field from '$lib/ui/Field.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  let {
    of = $bindable(),
    aqls,
    changed,
    remove,
  }: { of: Schemas['CharacteristicText']; aqls: number[]; changed: () => void; remove: () => void } = $props();
  let error = $state<unknown>();
  async function show(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const file = field.files?.[0];
    if (!file) return;
    error = undefined;
    try {
      const content = await base64(file);
      const kept = await act('/api/{site}/bench/plans/picture', { content }, undefined, limits.long);
      of.picture = { id: kept.id, marks: [] };
      changed();
    } catch (problem) {
      error = problem;
    } finally {
      field.value = '';
    }
  }
  function mark(x: number, y: number) {
    of.picture!.marks = [...of.picture!.marks, { x, y, text: `Mark ${of.picture!.marks.length + 1}` }];
    changed();
  }
  const classes: Schemas['CharacteristicClass'][] = ['Critical', 'Major', 'Minor'];
</script>

<div class="fields" role="group" aria-label={of.name}>
  <Field label="Name"><input name="name" bind:value={of.name} onchange={changed} maxlength="60" /></Field>
  <Field label="Class"
    ><select bind:value={of.class} onchange={changed}
      >{#each classes as c (c)}<option value={c}>{c.toLowerCase()}</option>{/each}</select
    ></Field
  >
  <Field label="Unit" hint="blank: it is looked at"
    ><input name="unit" class="short" bind:value={of.unit} onchange={changed} maxlength="12" /></Field
  >
  {#if of.unit}
    <Field label="At least"
      ><input name="lower" class="c short" inputmode="decimal" bind:value={of.lower} onchange={changed} /></Field
    >
    <Field label="At most"
      ><input name="upper" class="c short" inputmode="decimal" bind:value={of.upper} onchange={changed} /></Field
    >
    <Field label="Nominal"
      ><input name="nominal" class="c short" inputmode="decimal" bind:value={of.nominal} onchange={changed} /></Field
    >
    <Field label="How it is had"
      ><select name="had" bind:value={of.had} onchange={changed}
        >{#each Object.entries(ways) as [way, word] (way)}<option value={way}>{word}</option>{/each}</select
      ></Field
    >
    <Field label="Gauge" hint="its name; blank: any"
      ><input name="gauge" bind:value={of.gauge} onchange={changed} maxlength="40" /></Field
    >
    <Field label="It reads from"
      ><input class="c short" inputmode="decimal" bind:value={of.gaugeLow} onchange={changed} /></Field
    >
    <Field label="to"><input class="c short" inputmode="decimal" bind:value={of.gaugeHigh} onchange={changed} /></Field>
  {:else}
    <Field label="Good is called"><input bind:value={of.passWord} onchange={changed} maxlength="30" /></Field>
    <Field label="Bad is called"><input bind:value={of.failWord} onchange={changed} maxlength="30" /></Field>
  {/if}
  <Field label="How to look" class="wide"
    ><input bind:value={of.instruction} onchange={changed} maxlength="400" /></Field
  >
  <label class="tick"
    ><input type="checkbox" name="uses-up" bind:checked={of.usesUp} onchange={changed} /> a piece is used up by it</label
  >
</div>
<div class="fields" role="group" aria-label="Picture of {of.name}">
  {#if of.picture}
    <MarkedPicture id={of.picture.id} of={of.name} bind:marks={of.picture.marks} {mark} />
    <div class="marks">
      <p class="quiet">A press on the picture sets a mark.</p>
      {#each of.picture.marks as m, i (i)}
        <span class="row">
          <Field label="Mark {i + 1}"><input bind:value={m.text} onchange={changed} maxlength="60" /></Field>
          <Field label="from the left, %"
            ><input class="c few" type="number" min="0" max="100" bind:value={m.x} onchange={changed} /></Field
          >
          <Field label="from the top, %"
            ><input class="c few" type="number" min="0" max="100" bind:value={m.y} onchange={changed} /></Field
          >
          <button
            class="button"
            type="button"
            aria-label="Take mark {i + 1} off"
            onclick={() => {
              of.picture!.marks = of.picture!.marks.filter((_, at) => at !== i);
              changed();
            }}>Off</button
          >
        </span>
      {/each}
    </div>
  {/if}
  <span class="row">
    <label class="button"
      >{of.picture ? 'Another picture' : 'A picture to judge by'}<input
        type="file"
        name="reference-picture"
        accept="image/*"
        class="sr-only"
        onchange={show}
      /></label
    >
    {#if of.picture}<button
        class="button"
        type="button"
        onclick={() => {
          of.picture = null;
          changed();
        }}>Without a picture</button
      >{/if}
  </span>
  <ProblemNote {error} />
</div>
<div class="foot">
  <RuleFields
    bind:rule={of.rule}
    of={of.name}
    none="with the {of.class.toLowerCase()}s"
    values={of.unit !== null && of.unit !== ''}
    {aqls}
    {changed}
  />
  <button class="button" onclick={remove}>Leave it out</button>
</div>

<style>
  .fields {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 12px;
    align-items: start;
    margin-bottom: 8px;
  }
  .fields > :global(.wide) {
    flex: 1 1 420px;
  }
  .foot {
    display: flex;
    flex-wrap: wrap;
    gap: 12px;
    align-items: end;
    justify-content: space-between;
    margin-top: 8px;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: end;
  }
  .marks {
    display: flex;
    flex-direction: column;
    gap: 6px;
  }
  .few {
    width: 70px;
  }
  .tick {
    align-self: center;
  }
  .button:focus-within {
    outline: 3px solid var(--lamp);
  }
  .short {
    width: 84px;
  }
</style>
