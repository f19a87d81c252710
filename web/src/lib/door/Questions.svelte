<script lang="ts">
  /** Questions of a tally: the receiver sees what waits and what was answered; who may settle it answers here. */
  import Field from '$lib/ui/Field.svelte';
  import { act, ask, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  let {
    questions,
    aboard,
    ondone,
  }: { questions: Schemas['QuestionRow'][]; aboard: readonly string[]; ondone: () => void } = $props();
  const may = $derived(session.may('SettleTally'));
  const site = createQuery(() => ({
    queryKey: ['site', session.site],
    queryFn: () => ask('/api/{site}/site'),
    enabled: may && questions.some((q) => q.open && q.kind !== 'Over'),
  }));
  let item = $state<Record<number, string>>({});
  let pack = $state<Record<number, string>>({});
  let vendor = $state<Record<number, string>>({});
  let note = $state<Record<number, string>>({});
  let bind = $state<Record<number, boolean>>({});
  let error = $state<Record<number, unknown>>({});
  const packsOf = (code: string | undefined) =>
    (site.data?.items.find((i) => i.code === code)?.packs ?? []).map((p) => p.name);
  async function answer(q: Schemas['QuestionRow'], yes: boolean) {
    error[q.id] = undefined;
    try {
      await act('/api/{site}/door/answer', {
        question: q.id,
        yes,
        item: item[q.id] ?? null,
        pack: pack[q.id] ?? null,
        bind: q.kind === 'UnknownCode' && (bind[q.id] ?? true),
        note: note[q.id] ?? null,
        vendor: vendor[q.id] || null,
      });
      ondone();
    } catch (problem) {
      error[q.id] = problem;
    }
  }
</script>

{#each questions as q (q.id)}
  <div class="question" data-question={q.id}>
    <p>
      {#if q.open}<Mark kind="open" word="asked" />{:else}<Mark kind="done" word="answered" />{/if}
      {q.sentence}
      <span class="quiet">{q.askedBy.split(' ')[0]}</span>
    </p>
    {#if q.pictures.length > 0}<p class="row">
        {#each q.pictures as id (id)}<a href="/api/{session.site}/road/attachments/{id}" target="_blank" rel="noopener"
            ><img src="/api/{session.site}/road/attachments/{id}" alt="Taken with the question" /></a
          >{/each}
      </p>{/if}
    {#if !q.open}
      <p><b>{q.answer}</b> <span class="quiet">{q.answeredBy?.split(' ')[0]}</span></p>
    {:else if may}
      {#if q.kind !== 'Over'}
        <Field label="It is"
          ><select name="question-item" bind:value={item[q.id]}
            ><option value={undefined}></option>{#each site.data?.items ?? [] as i (i.code)}<option value={i.code}
                >{i.name}</option
              >{/each}</select
          ></Field
        >
        <Field label="Pack"
          ><select name="question-pack" bind:value={pack[q.id]}
            >{#each packsOf(item[q.id]) as p (p)}<option>{p}</option>{/each}</select
          ></Field
        >
        {#if item[q.id] && !aboard.includes(item[q.id]!)}<Field label="On no order here. Whose goods they are"
            ><select name="question-vendor" bind:value={vendor[q.id]}
              ><option value={undefined}>the only vendor aboard</option
              >{#each site.data?.vendors ?? [] as v (v.code)}<option value={v.code}>{v.name}</option>{/each}</select
            ></Field
          >{/if}
        {#if q.kind === 'UnknownCode'}<label class="tick"
            ><input
              type="checkbox"
              checked={bind[q.id] ?? true}
              onchange={(e) => (bind[q.id] = e.currentTarget.checked)}
            /> this code means it from now on</label
          >{/if}
      {/if}
      <Field label="A word to the receiver"
        ><input name="question-note" bind:value={note[q.id]} maxlength="300" /></Field
      >
      <ProblemNote error={error[q.id]} />
      <div class="row">
        <button class="button go" onclick={() => answer(q, true)}
          >{q.kind === 'Over' ? 'Yes, take them' : 'Count it as this'}</button
        ><button class="button" onclick={() => answer(q, false)}>No</button>
      </div>
    {/if}
  </div>
{/each}

<style>
  .question {
    border-top: 1px solid var(--stone-2);
    padding: 8px 0;
    display: flex;
    flex-direction: column;
    gap: 6px;
  }
  img {
    width: 116px;
    height: 84px;
    object-fit: cover;
    border-radius: 2px;
    border: 1px solid var(--stone-3);
  }
  .tick {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    min-height: 32px;
  }
</style>
