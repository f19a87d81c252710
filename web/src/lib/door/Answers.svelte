<script lang="ts">
  /** What a supervisor has answered to one's questions: seen and heard on the device that asked, in every room, until it is put away. */
  import { ask, type Schemas } from '$lib/api/client';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  const answers = createQuery(() => ({
    queryKey: ['answers', 'house', session.site, session.state?.personId],
    queryFn: () => ask('/api/{site}/door/answers'),
    enabled: session.may('Tally'),
  }));
  const key = $derived(`answers ${session.site} ${session.state?.personId}`);
  const read = (name: string): number[] => JSON.parse(localStorage.getItem(name) ?? '[]') as number[];
  let away = $derived(read(key));
  const told: number[] = [];
  const shown = $derived((answers.data ?? []).filter((a) => !away.includes(a.id)).slice(0, 3));
  $effect(() => {
    for (const a of shown)
      if (!told.includes(a.id)) {
        told.push(a.id);
        scanLine.say({ words: `${a.answeredBy}: ${a.answer}`, next: 'look at what was answered', tone: 'look' });
      }
  });
  function putAway(a: Schemas['QuestionRow']) {
    away = [...away, a.id].slice(-200);
    localStorage.setItem(key, JSON.stringify(away));
  }
</script>

{#if shown.length > 0}
  <section class="answers" aria-label="Answers to your questions">
    {#each shown as a (a.id)}
      <p class="row" role="status">
        <Mark kind="done" word="answered" />
        <span class="grow"><b>{a.answer}</b> <span class="quiet">{a.answeredBy}, {a.arrival}: {a.sentence}</span></span>
        <a class="button" href="/door/{a.arrival}">To its tally</a>
        <button class="button" onclick={() => putAway(a)}>Seen</button>
      </p>
    {/each}
  </section>
{/if}

<style>
  .answers {
    flex: none;
    border-top: 2px solid var(--wall);
    background: var(--lit-faint);
    padding: 6px 16px;
    max-height: 30vh;
    overflow-y: auto;
  }
</style>
