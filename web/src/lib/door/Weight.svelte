<script lang="ts">
  /** The weight of a count: typed, or taken from a scale. */
  import Field from '$lib/ui/Field.svelte';
  import { onScale } from './scale';
  import type { Draft } from './draft.svelte';
  let { draft }: { draft: Draft } = $props();
  const item = $derived(draft.reading!.item!);
  const nominal = $derived(draft.content.times(item.mass).toNumber());
  let said = $state('');
  async function read() {
    said = '';
    const last = await onScale('/api/{site}/door/scales');
    if (typeof last === 'string') said = last;
    else {
      draft.weight = String(last.kilograms);
      draft.changed();
      said = `From ${last.scale}.`;
    }
  }
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
  <button type="button" class="button" onclick={read}>Read the scale</button><span role="status">{said}</span>
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
