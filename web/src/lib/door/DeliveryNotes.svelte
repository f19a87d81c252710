<script lang="ts">
  /** The delivery note of each vendor aboard, typed or scanned at any time before its receipt is posted. */
  import { act, type Schemas } from '$lib/api/client';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  let { arrival, vendors, ondone }: { arrival: string; vendors: Schemas['VendorAboard'][]; ondone: () => void } =
    $props();
  let error = $state<unknown>();
  let said = $state('');
  async function keep(vendorId: number, note: string) {
    error = undefined;
    said = '';
    try {
      said = (await act('/api/{site}/door/delivery-note', { arrival, vendorId, note })).sentence;
      ondone();
    } catch (problem) {
      error = problem;
    }
  }
</script>

<div class="notes">
  {#each vendors as v (v.id)}
    <label class="note"
      ><span>{v.name}</span><input
        name="delivery-note-{v.id}"
        value={v.deliveryNote ?? ''}
        maxlength="40"
        class="c plain"
        autocomplete="off"
        onchange={(e) => void keep(v.id, e.currentTarget.value)}
      /></label
    >
  {/each}
  <ProblemNote {error} />
  {#if said}<p role="status">{said}</p>{/if}
</div>

<style>
  .notes {
    display: flex;
    flex-direction: column;
    gap: 6px;
  }
  .note {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 118px;
    gap: 8px;
    align-items: center;
  }
</style>
