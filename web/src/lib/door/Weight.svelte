<script lang="ts">
  /** The weight of a count: typed, or taken from a scale. */
  import Field from '$lib/ui/Field.svelte';
  import ReadScale from './ReadScale.svelte';
  import type { Draft } from './draft.svelte';
  let { draft }: { draft: Draft } = $props();
  const item = $derived(draft.reading!.item!);
  const nominal = $derived(draft.content.times(item.mass).toNumber());
</script>

<Field
  >{#snippet label()}Weight, kg{Number.isFinite(nominal) && nominal > 0
      ? `; about ${Math.round(nominal * 10) / 10}, within ${item.weightTolerance} %`
      : ''}{/snippet}<input
    name="weight"
    bind:value={draft.weight}
    oninput={() => draft.changed()}
    inputmode="decimal"
    class="c"
    autocomplete="off"
  /></Field
>
<div class="read">
  <ReadScale
    path={'/api/{site}/door/scales'}
    take={(scale) => {
      draft.weight = String(scale.kilograms);
      draft.changed();
    }}
  />
</div>

<style>
  .read {
    align-self: end;
    display: flex;
    gap: 8px;
    align-items: center;
    font-size: 13px;
  }
</style>
