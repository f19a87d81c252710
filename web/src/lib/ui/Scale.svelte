<script lang="ts">
  /** The demo's scale: what is put on it here, a count or a sheet can read. */
  import Field from '$lib/ui/Field.svelte';
  import { act, Problem } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  let kilograms = $state('');
  let said = $state('');
  async function put() {
    said = '';
    try {
      const weight = { scale: 'Demo scale', kilograms: Number(kilograms), steady: true };
      const reading = session.may('Tally')
        ? await act('/api/{site}/door/scales', weight)
        : await act('/api/{site}/bench/scales', weight);
      said = `${reading.scale} shows ${reading.kilograms} kg.`;
    } catch (problem) {
      said = problem instanceof Problem ? problem.sentence : 'That is no weight.';
    }
  }
</script>

<form
  class="row"
  onsubmit={(e) => {
    e.preventDefault();
    void put();
  }}
>
  <Field label="On the scale, kg"
    ><input class="c" name="on-scale" type="number" step="0.001" bind:value={kilograms} required /></Field
  >
  <button class="button">Put it on the scale</button>
  <span role="status">{said}</span>
</form>

<style>
  .row {
    align-items: flex-end;
    padding-bottom: 8px;
  }
</style>
