<script lang="ts">
  /** The weight of a count: typed, or taken from a scale. */
  import Field from '$lib/ui/Field.svelte';
  import { ask, Problem } from '$lib/api/client';
  import type { Draft } from './draft.svelte';
  let { draft }: { draft: Draft } = $props();
  const item = $derived(draft.reading!.item!);
  const nominal = $derived(draft.content.times(item.mass).toNumber());
  let said = $state('');
  async function read() {
    said = '';
    try {
      const scales = await ask('/api/{site}/door/scales');
      const last = scales.find((s) => !s.old);
      if (!last)
        said = scales.length ? 'No scale has sent a weight in the last minute.' : 'No scale has sent a weight yet.';
      else if (!last.steady) said = `${last.scale} is not steady yet.`;
      else {
        draft.weight = String(last.kilograms);
        draft.changed();
        said = `From ${last.scale}.`;
      }
    } catch (problem) {
      said = problem instanceof Problem ? problem.sentence : 'The scale could not be read.';
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
