<script lang="ts">
  /** What a hold wants besides time, each with what meets it: a paper looked at, a signature; and its papers. */
  import { base64 } from '$lib/api/attach';
  import { act, ask, limits, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Field from '$lib/ui/Field.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  let { hold, changed }: { hold: Schemas['HoldCard']; changed: (sentence: string) => Promise<unknown> } = $props();
  const papers = createQuery(() => ({
    queryKey: ['cage', 'papers', session.site, hold.number],
    queryFn: () => ask('/api/{site}/cage/holds/{hold}/papers', { hold: hold.number }),
  }));
  const choices = createQuery(() => ({
    queryKey: ['cage', 'choices', session.site],
    queryFn: () => ask('/api/{site}/cage/choices'),
    staleTime: Infinity,
  }));
  /** The condition whose form is open. */
  let open = $state(0);
  let paper = $state(0);
  // What is attached is most likely what is wanted.
  let kind = $derived<Schemas['PaperKind'] | ''>(hold.conditions.find((c) => c.paper && !c.isMet)?.paper ?? '');
  let [name, password, note, why] = $state(['', '', '', '']) as [string, string, string, string];
  let busy = $state(false);
  let error = $state<unknown>();
  const looked = $derived(papers.data?.find((p) => p.id === paper));
  function begin(condition: Schemas['ConditionView']) {
    open = open === condition.id ? 0 : condition.id;
    [name, password, note, why] = [session.state?.name ?? '', '', '', ''];
    paper = papers.data?.find((p) => p.kind === condition.paper)?.id ?? papers.data?.[0]?.id ?? 0;
    error = undefined;
  }
  async function run(work: () => Promise<{ sentence: string }>) {
    error = undefined;
    busy = true;
    try {
      const { sentence } = await work();
      open = 0;
      await Promise.all([papers.refetch(), changed(sentence)]);
    } catch (problem) {
      error = problem;
    } finally {
      busy = false;
      password = '';
    }
  }
  function meet(event: SubmitEvent, c: Schemas['ConditionView']) {
    event.preventDefault();
    const signs = c.kind === 'Signature';
    void run(() =>
      act('/api/{site}/cage/meet', {
        hold: hold.number,
        condition: c.id,
        paper: signs || paper === 0 ? null : paper,
        paperIs: signs || looked?.kind ? null : c.paper,
        note: note || null,
        signer: signs ? name : null,
        password: signs ? password : null,
      }),
    );
  }
  function attach(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const file = field.files?.[0];
    if (!file) return;
    void run(async () => {
      const content = await base64(file);
      field.value = '';
      return act(
        '/api/{site}/cage/attach',
        { hold: hold.number, name: file.name, content, kind: kind || null },
        undefined,
        limits.long,
      );
    });
  }
</script>

{#each hold.links as link, i (i)}
  {@const c = hold.conditions.find((x) => x.id === link.condition)}
  <div class="condition">
    <Mark
      kind={link.closed ? 'done' : link.overdue ? 'late' : 'held'}
      word={link.overdue ? `${link.word}, overdue` : link.word}
    />
    <span class="grow">{link.sentence}</span>
    {#if c?.may}<button class="button" aria-expanded={open === c.id} onclick={() => begin(c)}
        >{c.kind === 'Paper' ? 'Look at it' : 'Sign'}<span class="sr-only">: {c.words}</span></button
      >{:else if c?.mayOpen}<button class="link" aria-expanded={open === c.id} onclick={() => begin(c)}
        >Take back<span class="sr-only">: {c.words}</span></button
      >{/if}
  </div>
  {#if c && open === c.id}
    <form
      class="meet"
      onsubmit={(e) =>
        c.isMet
          ? (e.preventDefault(),
            void run(() => act('/api/{site}/cage/open-again', { hold: hold.number, condition: c.id, why })))
          : meet(e, c)}
    >
      {#if c.isMet}
        <Field label="Why it is taken back"><input name="open-why" bind:value={why} maxlength="200" /></Field>
        <button class="button" disabled={busy}>Take it back</button>
      {:else if c.kind === 'Paper'}
        {#if papers.data?.length}
          <Field label="The {c.paperWord}"
            ><select name="paper" bind:value={paper}
              >{#each papers.data as p (p.id)}<option value={p.id}>{p.name}{p.word ? `, ${p.word}` : ''}</option
                >{/each}</select
            ></Field
          >
          {#if looked}<a
              class="link"
              href="/api/{session.site}/road/attachments/{looked.id}"
              target="_blank"
              rel="noopener">Open {looked.name}</a
            >{/if}
          <Field label="Remark"><input name="meet-note" bind:value={note} maxlength="200" /></Field>
          <button class="button" disabled={busy}>I looked at it: it is right</button>
        {:else}
          <p>No paper is attached yet. Attach the {c.paperWord} below first.</p>
        {/if}
      {:else}
        <Field label="Name"><input name="signer" bind:value={name} autocomplete="off" /></Field>
        <Field label="Password"
          ><input name="signature" type="password" bind:value={password} autocomplete="off" required /></Field
        >
        <Field label="Remark"><input name="meet-note" bind:value={note} maxlength="200" /></Field>
        <button class="button" disabled={busy}>Sign for {hold.number}</button>
      {/if}
    </form>
  {/if}
{/each}
<ProblemNote {error} />
{#if session.may('Attach')}
  <details open={hold.conditions.some((c) => c.kind === 'Paper' && !c.isMet)}>
    <summary>Attach a paper or picture</summary>
    <div class="row attach">
      <Field label="It is"
        ><select name="paper-kind" bind:value={kind}
          ><option value="">a picture, or anything else</option>{#each choices.data?.papers ?? [] as p (p.kind)}<option
              value={p.kind}>a {p.word}</option
            >{/each}</select
        ></Field
      >
      <Field label="File"
        ><input
          type="file"
          name="hold-paper"
          accept="image/png,image/jpeg,image/webp,application/pdf"
          disabled={busy}
          onchange={attach}
        /></Field
      >
    </div>
  </details>
{/if}
{#if papers.data?.length}
  <ul class="papers" aria-label="Papers and pictures">
    {#each papers.data as p (p.id)}
      <li>
        <a class="link" href="/api/{session.site}/road/attachments/{p.id}" target="_blank" rel="noopener">{p.name}</a>
        <span class="quiet">{p.word ?? (p.isOwn ? '' : 'came with the goods')} {p.by}, {when(p.at)}</span>
      </li>
    {/each}
  </ul>
{/if}

<style>
  .condition {
    display: flex;
    gap: 10px;
    align-items: baseline;
    flex-wrap: wrap;
  }
  .condition .grow {
    flex: 1 1 200px;
  }
  .meet {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
    gap: 10px;
    align-items: end;
    padding: 8px 0 8px 12px;
    border-left: 3px solid var(--held);
  }
  .attach {
    align-items: end;
    flex-wrap: wrap;
  }
  .papers {
    margin: 0;
    padding: 0;
    list-style: none;
  }
</style>
