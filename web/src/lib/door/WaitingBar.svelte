<script lang="ts">
  /** What is not sent yet, and what came back: above the sill, in every room, as long as there is any. */
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { waiting } from './waiting.svelte';
  const others = $derived(waiting.onTheirWay.filter((w) => w.person !== session.state?.personId));
  const arrivals = $derived([...new Set(waiting.onTheirWay.map((w) => w.arrival))]);
  let open = $state(false);
</script>

{#if !waiting.reachable || waiting.all.length > 0}
  <section class="bar" aria-label="Counts waiting to be sent">
    <p class="row" role="status">
      <Mark kind={waiting.reachable ? 'open' : 'late'} word={waiting.reachable ? 'sending' : 'no network'} />
      <b id="waiting">{waiting.onTheirWay.length}</b>
      <span class="grow"
        >{waiting.onTheirWay.length === 1 ? 'count waits' : 'counts wait'} to be sent{arrivals.length > 0
          ? ` for ${arrivals.join(', ')}`
          : ''}. They are kept on this device.
        {#if others.length > 0}{others.length} of them are {others[0]!.personName}'s and wait until they sign in.{/if}</span
      >
      {#if waiting.cameBack.length > 0}<button class="button" aria-expanded={open} onclick={() => (open = !open)}
          >{waiting.cameBack.length} came back</button
        >{/if}
    </p>
    {#if open || waiting.cameBack.length > 0}
      <ul>
        {#each waiting.cameBack.filter((w) => w.person === session.state?.personId) as w (w.seq)}
          <li>
            <span class="grow"
              ><b>{w.words}</b> <span class="c quiet">{w.arrival} {w.at.slice(11, 16)}</span><br />{w.back!.sentence}
              {w.back!.next}</span
            >
            <a class="button" href="/door/{w.arrival}">To its tally</a>
            <button class="button" onclick={() => waiting.forget(w)}>It is not to count</button>
          </li>
        {/each}
      </ul>
    {/if}
  </section>
{/if}

<style>
  .bar {
    flex: none;
    border-top: 2px solid var(--wall);
    background: var(--lit-faint);
    padding: 6px 16px;
    max-height: 40vh;
    overflow-y: auto;
  }
  li {
    display: flex;
    gap: 10px;
    align-items: center;
    flex-wrap: wrap;
    border-top: 1px solid var(--stone-2);
    padding: 6px 0;
  }
</style>
