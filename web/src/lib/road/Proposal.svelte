<script lang="ts">
  /** A whole day proposed: what changes and why, what found no place; all of it is taken, some, or nothing. */
  import { act, limits, type Schemas } from '$lib/api/client';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { number, time } from '$lib/ui/format';
  import { Dialog, Portal } from '@skeletonlabs/skeleton-svelte';
  import { dayName } from './board';
  let {
    open = $bindable(false),
    date,
    onend,
  }: { open: boolean; date: string; onend: (sentence: string) => void } = $props();
  let proposed = $state<Schemas['ProposedDayAnswer']>();
  let taken = $state<string[]>([]);
  let error = $state<unknown>();
  const changed = $derived(proposed?.moves.filter((m) => m.changed) ?? []);
  // svelte-ignore state_referenced_locally
  act('/api/{site}/road/plan/propose', { date, seconds: 8 }, undefined, limits.long).then(
    (answer) => {
      proposed = answer;
      taken = answer.moves.filter((m) => m.changed).map((m) => m.arrival);
    },
    (problem) => (error = problem),
  );
  async function take() {
    error = undefined;
    try {
      const done = await act('/api/{site}/road/plan/take', {
        moves: changed
          .filter((m) => taken.includes(m.arrival))
          .map((m) => ({
            arrival: m.arrival,
            door: m.door,
            start: m.start,
            crew: m.crew,
            version: m.version,
            reason: null,
          })),
      });
      onend(done.sentence);
      open = false;
    } catch (problem) {
      error = problem;
    }
  }
</script>

<Dialog {open} onOpenChange={(e) => (open = e.open)}>
  <Portal>
    <Dialog.Backdrop class="veil" />
    <Dialog.Positioner class="over">
      <Dialog.Content class="over-sheet">
        <Dialog.Title class="text-lg font-bold">A plan for {dayName(date)}</Dialog.Title>
        {#if proposed}
          <p><b>{proposed.sentence}</b></p>
          <p class="quiet">
            Weighted lateness {number(proposed.latenessNow)} → {number(proposed.lateness)} min, waiting {number(
              proposed.waitingNow,
            )} → {number(proposed.waiting)} min. Searched {proposed.seconds.toFixed(1)} s.
          </p>
          {#if changed.length > 0}
            <table class="list">
              <thead><tr><th>Take</th><th>Arrival</th><th>Now</th><th>Proposed</th><th>Why</th></tr></thead>
              <tbody>
                {#each changed as m (m.arrival)}
                  <tr>
                    <td><input type="checkbox" value={m.arrival} bind:group={taken} aria-label="Take {m.arrival}" /></td
                    >
                    <td><b class="c">{m.arrival}</b><br /><span class="quiet">{m.vendors}</span></td>
                    <td>{m.fromDoor ? `door ${m.fromDoor}, ${time(m.fromStart)}` : 'no door'}</td>
                    <td
                      ><b>door {m.door}, {time(m.start)}</b> to {time(m.end)}<br /><span class="quiet"
                        >{m.crewNames.join(' and ')}</span
                      ></td
                    >
                    <td>{m.why}</td>
                  </tr>
                {/each}
              </tbody>
            </table>
          {/if}
          {#each proposed.notPlaced as n (n.arrival)}<p class="said">
              <b class="c">{n.arrival}</b>
              {n.vendors}: no place. {n.why}
            </p>{/each}
        {:else if !error}
          <p role="status">Looking for the best plan, for at most 8 seconds.</p>
        {/if}
        <ProblemNote {error} />
        <div class="row end">
          {#if changed.length > 0}
            <button class="button go" disabled={taken.length === 0} onclick={take}
              >{taken.length === changed.length ? 'Take all of it' : `Take ${taken.length}`}</button
            >
          {/if}
          <button class="button" onclick={() => (open = false)}>Take nothing</button>
        </div>
      </Dialog.Content>
    </Dialog.Positioner>
  </Portal>
</Dialog>

<style>
  .end {
    margin-top: 12px;
  }
  p {
    margin-top: 6px;
  }
</style>
