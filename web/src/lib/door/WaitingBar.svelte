<script lang="ts">
  /** What is not sent yet, and what came back: above the sill, in every room, as long as there is any. */
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import Symbol from '$lib/ui/Symbol.svelte';
  import { waiting } from './waiting.svelte';
  const others = $derived(waiting.onTheirWay.filter((w) => w.person !== session.state?.personId));
  const arrivals = $derived([...new Set(waiting.onTheirWay.map((w) => w.arrival).filter(Boolean))]);
  let open = $state(false);
  const labels = $derived(waiting.all.filter((w) => w.sscc));
  const counts = $derived(waiting.onTheirWay.filter((w) => w.arrival).length);
  const steps = $derived(waiting.onTheirWay.length - counts);
  const many = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`;
</script>

{#if !waiting.reachable || waiting.all.length > 0}
  <section class="bar" aria-label="Counts waiting to be sent">
    <p class="row" role="status">
      {#if waiting.onTheirWay.length > 0 || !waiting.reachable}<Mark
          kind={waiting.reachable ? 'open' : 'late'}
          word={waiting.reachable ? 'sending' : 'no network'}
        />
        <b id="waiting">{waiting.onTheirWay.length}</b>{/if}
      <span class="grow"
        >{#if waiting.onTheirWay.length > 0 || !waiting.reachable}{waiting.onTheirWay.length === 1 ? 'waits' : 'wait'} to
          be sent: {many(counts, 'count')}{steps > 0 ? `, ${many(steps, 'step')} of put-away` : ''}{arrivals.length > 0
            ? ` for ${arrivals.join(', ')}`
            : ''}. They are kept on this device.{:else}The server could not take this:{/if}
        {#if session.away}<b>{session.state?.name}: scan your badge again where the network reaches.</b>{/if}
        {#if others.length > 0}{others.length} of them are {others[0]!.personName}'s and wait until they sign in.{/if}</span
      >
      {#if labels.length > 0 && waiting.cameBack.length === 0}<button
          class="button"
          aria-expanded={open}
          onclick={() => (open = !open)}>{many(labels.length, 'label')}</button
        >{/if}
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
            <a class="button" href={w.arrival ? `/door/${w.arrival}` : '/shelf'}
              >{w.arrival ? 'To its tally' : 'To the shelf'}</a
            >
            <button class="button" onclick={() => waiting.forget(w)}
              >{w.arrival ? 'It is not to count' : 'Take it off the list'}</button
            >
          </li>
        {/each}
        {#each labels as w (w.seq)}
          <li class="label">
            <Symbol symbol="gs1-128" text="(00){w.sscc}" wide />
            <span><b>{w.words}</b>{w.batch ? `, batch ${w.batch}` : ''}<br /><span class="c">(00) {w.sscc}</span></span>
            <button class="button" onclick={() => print()}>Print from this device</button>
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
