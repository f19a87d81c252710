<script lang="ts">
  /** The doors an arrival can be brought to. What only warns of a door is overruled with a reason, which stays. */
  import Field from '$lib/ui/Field.svelte';
  import { act, Problem, type Schemas } from '$lib/api/client';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  let {
    arrival,
    doors,
    planned,
    ondone,
  }: {
    arrival: string;
    doors: Schemas['DoorView'][];
    planned: number | null;
    ondone: (sentence: string) => void | Promise<void>;
  } = $props();
  let error = $state<unknown>();
  let asked = $state<number>();
  let reason = $state('');
  const warned = $derived(error instanceof Problem && error.code === 'plan-warns');
  async function bring(door: number, why: string | null = null) {
    error = undefined;
    asked = door;
    try {
      const done = await act('/api/{site}/road/at-door', { arrival, door, reason: why });
      reason = '';
      await ondone(done.sentence);
    } catch (problem) {
      error = problem;
    }
  }
</script>

<div class="row">
  <b>At door</b>
  {#each doors as door (door.number)}
    <button
      class="button"
      class:go={door.number === planned}
      disabled={!!door.standsThere}
      title={door.equipment}
      onclick={() => void bring(door.number)}
    >
      {door.number}{door.standsThere ? ` · ${door.standsThere}` : ''}
    </button>
  {/each}
</div>
<ProblemNote {error} />
{#if warned && asked !== undefined}
  <form
    class="row"
    onsubmit={(e) => {
      e.preventDefault();
      void bring(asked!, reason);
    }}
  >
    <Field label={`Why it goes to door ${asked} all the same`}
      ><input name="door-reason" bind:value={reason} required maxlength="200" /></Field
    >
    <button class="button go">Bring it to door {asked}</button>
  </form>
{/if}
