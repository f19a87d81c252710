<script lang="ts">
  /** Second counts: somebody who did not count the item first counts it again; who settles tallies sees both. */
  import Field from '$lib/ui/Field.svelte';
  import { act, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { number } from '$lib/ui/format';
  let { rows, ondone }: { rows: Schemas['SecondCountRow'][]; ondone: () => void } = $props();
  const may = $derived(session.may('SettleTally'));
  let packs = $state<Record<number, string>>({});
  let error = $state<Record<number, unknown>>({});
  async function run(id: number, work: () => Promise<unknown>) {
    error[id] = undefined;
    try {
      await work();
      ondone();
    } catch (problem) {
      error[id] = problem;
    }
  }
  const word: Record<Schemas['SecondCountState'], string> = {
    Waiting: 'to be counted',
    Agrees: 'both agree',
    Differs: 'they differ',
    FirstStands: 'the first stands',
  };
</script>

{#each rows as r (r.id)}
  <div class="second" data-second={r.id}>
    <p>
      <Mark kind={r.state === 'Waiting' ? 'open' : r.state === 'Differs' ? 'disc' : 'done'} word={word[r.state]} />
      <b>{r.itemName}</b>
    </p>
    {#if r.first !== null && r.first !== undefined}<p class="c">
        first {number(r.first)}{r.second === null || r.second === undefined ? '' : `, second ${number(r.second)}`}
        {r.unit}{r.countedBy ? ` by ${r.countedBy}` : ''}
      </p>{/if}
    {#if r.state === 'Waiting'}
      {#if r.mine}<p class="quiet">You counted it first: somebody else counts it now.</p>
      {:else if session.may('Tally')}
        <form
          class="row"
          data-scans="line"
          onsubmit={(e) => {
            e.preventDefault();
            void run(r.id, () =>
              act('/api/{site}/door/second-count', { id: r.id, packs: packs[r.id] ?? '', pack: r.unit }),
            );
          }}
        >
          <Field label={`How many ${r.unit} stand there in all`} class="grow"
            ><input class="c" name="second" inputmode="decimal" bind:value={packs[r.id]} required /></Field
          ><button class="button">Note it</button>
        </form>
      {/if}
    {:else if r.state === 'Differs' && may}
      <p class="quiet">Correct the first count in the tally, or let it stand.</p>
      <button
        class="button"
        onclick={() => run(r.id, () => act('/api/{site}/door/second-count/first-stands', { id: r.id }))}
        >The first count stands</button
      >
    {/if}
    <ProblemNote error={error[r.id]} />
  </div>
{/each}

<style>
  .second {
    border-top: 1px solid var(--stone-2);
    padding: 8px 0;
    display: flex;
    flex-direction: column;
    gap: 6px;
  }
  .row {
    align-items: flex-end;
  }
</style>
