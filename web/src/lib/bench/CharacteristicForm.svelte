<script lang="ts">
  /** One characteristic of a draft in fields; what is typed is kept when the field is left. */
  import type { Schemas } from '$lib/api/client';
  import RuleFields from '$lib/bench/RuleFields.svelte';
  import Field from '$lib/ui/Field.svelte';
  let {
    of = $bindable(),
    aqls,
    changed,
    remove,
  }: { of: Schemas['CharacteristicText']; aqls: number[]; changed: () => void; remove: () => void } = $props();
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
    <Field label="Gauge" hint="blank: typed"
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
  }
  .foot {
    display: flex;
    flex-wrap: wrap;
    gap: 12px;
    align-items: end;
    justify-content: space-between;
    margin-top: 8px;
  }
  .short {
    width: 84px;
  }
</style>
