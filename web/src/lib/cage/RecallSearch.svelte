<script lang="ts">
  /** Where to look for what is missing: the likeliest place first, each ticked by who looked there. */
  import { act, type Schemas } from '$lib/api/client';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { number, time } from '$lib/ui/format';
  let {
    recall,
    at,
    changed,
  }: {
    recall: Schemas['RecallAnswer'];
    /** The place that was scanned last. */
    at: string;
    changed: (sentence: string) => Promise<unknown>;
  } = $props();
  let error = $state<unknown>();
  let busy = $state(false);
  async function say(
    path: '/api/{site}/cage/recalls/not-in' | '/api/{site}/cage/recalls/found',
    missing: number,
    bin: string,
  ) {
    error = undefined;
    busy = true;
    try {
      await changed((await act(path, { recall: recall.number, missing, bin })).sentence);
    } catch (problem) {
      error = problem;
    } finally {
      busy = false;
    }
  }
  const next = (m: Schemas['RecallMissingView']) => m.search.find((s) => !s.looked)?.address;
</script>

<div class="problem-first"><ProblemNote {error} /></div>
{#each recall.missing as m (m.id)}
  <section class="missing" data-missing={m.id}>
    <h3>{number(m.quantity)} {m.unitWord} of {m.item}{m.batch ? `, batch ${m.batch}` : ''}</h3>
    <p class="quiet">{m.inPacks}; not in <span class="c">{m.address}</span>: {m.by}, {time(m.at)}</p>
    <ol>
      {#each m.search as s (s.address)}
        <li class:at={s.address === at} class:next={s.address === next(m)}>
          <span class="where"
            ><b class="c">{s.address}</b><br /><span class="quiet">{s.looked ? `looked: ${s.looked}` : s.why}</span
            ></span
          >
          <button
            class="button"
            disabled={busy || !recall.mayMove}
            onclick={() => void say('/api/{site}/cage/recalls/found', m.id, s.address)}
            >Found<span class="sr-only"> in {s.address}</span></button
          >
          {#if !s.looked}<button
              class="button"
              class:go={s.address === next(m)}
              disabled={busy}
              onclick={() => void say('/api/{site}/cage/recalls/not-in', m.id, s.address)}
              >Not here<span class="sr-only">, {s.address}</span></button
            >{:else}<span class="ticked" aria-hidden="true">✓</span>{/if}
        </li>
      {/each}
    </ol>
    {#if at && m.search.every((s) => s.address !== at)}
      <p>
        <button
          class="button"
          disabled={busy || !recall.mayMove}
          onclick={() => void say('/api/{site}/cage/recalls/found', m.id, at)}>Found in {at}</button
        >
      </p>
    {/if}
  </section>
{/each}

<style>
  /* In sight while the list is worked off. */
  .problem-first {
    position: sticky;
    top: 0;
    z-index: 1;
  }
  .missing {
    margin-bottom: 12px;
  }
  h3 {
    margin: 0;
    font-size: 16px;
  }
  p {
    margin: 2px 0 6px;
  }
  ol {
    list-style: none;
    margin: 0;
    padding: 0;
  }
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 8px;
    align-items: center;
    padding: 6px 8px;
    border-top: 1px solid var(--stone-2);
  }
  li.at {
    background: var(--lit-faint);
  }
  .where {
    flex: 1 1 100px;
  }
  .ticked {
    width: 28px;
    text-align: center;
    color: var(--usable);
  }
  li .button {
    min-height: 40px;
  }
</style>
