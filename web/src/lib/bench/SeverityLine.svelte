<script lang="ts">
  /** How sharply this vendor's lots are looked at, class by class, and how it came there: a line of lots. */
  import { act, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Field from '$lib/ui/Field.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  let {
    severities,
    inspection,
    changed,
  }: { severities: Schemas['SeverityView'][]; inspection: string; changed: () => void } = $props();
  let asked = $state<Schemas['SeveritySaid']>();
  let reason = $state('');
  let error = $state<unknown>();
  const questions: Record<Schemas['SeveritySaid'], string> = {
    ReducedAllowed: 'Allow reduced inspection',
    ReducedEnded: 'End reduced inspection',
    Restarted: 'Restart on tightened',
  };
  const open = $derived([
    ...(severities.some((s) => s.mayBeReduced) ? (['ReducedAllowed'] as const) : []),
    ...(severities.some((s) => s.severity === 'Reduced') ? (['ReducedEnded'] as const) : []),
    ...(severities.some((s) => s.isStopped) ? (['Restarted'] as const) : []),
  ]);
  async function say(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    try {
      await act('/api/{site}/bench/severity', { inspection, said: asked!, reason });
      [asked, reason] = [undefined, ''];
      changed();
    } catch (problem) {
      error = problem;
    }
  }
</script>

<section class="trail-part">
  <h2>Severity</h2>
  {#each severities as s (s.class)}
    <p>
      <b>{s.class}: {s.isStopped ? 'stopped' : s.severity.toLowerCase()}</b>{s.severity === 'Normal' && s.lots.length
        ? `, score ${s.score}`
        : ''}. <span class="quiet">{s.why}</span>
    </p>
    {#if s.lots.length}
      <ol class="lots" aria-label="Lots of this vendor, {s.class.toLowerCase()}">
        {#each s.lots as l (l.number)}
          <li
            class:not={!l.isAccepted}
            class:tight={l.under === 'Tightened'}
            class:lax={l.under === 'Reduced'}
            title="{l.number}, {l.on}: {l.isAccepted ? 'accepted' : 'not accepted'}, {l.under.toLowerCase()}. {l.then}"
          >
            <a href="/bench/{l.number}"
              ><span class="sr-only"
                >{l.number} {l.isAccepted ? 'accepted' : 'not accepted'}, {l.under.toLowerCase()}</span
              ></a
            >
          </li>
        {/each}
      </ol>
    {/if}
    {#if s.signing}<p class="next">{s.signing}</p>{/if}
  {/each}
  {#if session.may('SaySeverity')}
    {#each open as word (word)}
      <button class="button" onclick={() => (asked = word)} aria-expanded={asked === word}>{questions[word]}</button>
    {/each}
    {#if asked}
      <form onsubmit={say}>
        <Field label="Why"><input bind:value={reason} maxlength="200" required /></Field>
        <button class="button">{questions[asked]}</button>
        <ProblemNote {error} />
      </form>
    {/if}
  {/if}
</section>

<style>
  .lots {
    display: flex;
    flex-wrap: wrap;
    gap: 2px;
    list-style: none;
    padding: 0;
    margin: 4px 0 8px;
  }
  /* Accepted stands on the line, not accepted hangs below it with a notch; tightened has a lid, reduced is low. */
  li a {
    display: block;
    width: 24px;
    height: 24px;
    background: linear-gradient(var(--usable), var(--usable)) center / 12px 12px no-repeat;
    border-bottom: 2px solid var(--peat);
  }
  .lax a {
    background-size: 12px 6px;
  }
  .tight a {
    border-top: 3px double var(--peat);
  }
  .not a {
    background: linear-gradient(var(--disc), var(--disc)) center / 14px 14px no-repeat;
    border-bottom-style: dashed;
  }
  .next {
    font-weight: 700;
  }
  form {
    display: flex;
    flex-direction: column;
    gap: 8px;
    margin-top: 8px;
  }
</style>
