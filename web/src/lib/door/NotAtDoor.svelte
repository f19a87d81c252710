<script lang="ts">
  /** Foot of a tally whose vehicle stands at no door: says so, and brings it to one. */
  import { act, ask, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { time } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  let { card, ondone }: { card: Schemas['ArrivalCard']; ondone: (words: string) => void } = $props();
  const queue = createQuery(() => ({
    queryKey: ['door', 'queue', session.site],
    queryFn: () => ask('/api/{site}/door/queue'),
  }));
  let error = $state<unknown>();

  async function bring(door: number) {
    error = undefined;
    try {
      ondone((await act('/api/{site}/road/at-door', { arrival: card.number, door })).sentence);
    } catch (problem) {
      error = problem;
    }
  }
</script>

<div class="row">
  <span class="grow"
    ><b>{card.number} is not at a door yet</b>, so nothing can be counted. Planned {time(card.planned)}{card.door
      ? `, door ${card.door}`
      : ''}.</span
  >
  {#if session.may('PlanArrivals')}
    {#each queue.data?.doors ?? [] as d (d.number)}
      <button
        class="button"
        class:go={d.number === card.door && !d.standsThere}
        disabled={d.standsThere !== null}
        title={d.standsThere ? `${d.standsThere} stands there` : d.equipment}
        onclick={() => bring(d.number)}>Door {d.number}</button
      >
    {/each}
  {:else}
    <span class="quiet">A supervisor or the gate brings it to its door.</span>
  {/if}
</div>
<ProblemNote {error} />
