<script lang="ts">
  /** What needs who is signed in, now: the most pressing first, each with the way to it. */
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import Field from '$lib/ui/Field.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { counted, when } from '$lib/ui/format';
  import { noticesOf } from '$lib/ui/notices';
  import { act, type Schemas } from '$lib/api/client';
  import { createQuery } from '@tanstack/svelte-query';
  const query = createQuery(() => noticesOf(session.site));
  const words: Record<
    Schemas['NoticeKind'],
    [string, 'disc' | 'late' | 'today' | 'inspect' | 'held' | 'open' | 'done']
  > = {
    Missing: ['missing', 'disc'],
    Overdue: ['overdue', 'late'],
    Question: ['a question', 'today'],
    Answer: ['an answer', 'done'],
    WaitedFor: ['waited for', 'today'],
    Warning: ['a warning', 'late'],
    ToFind: ['to look at', 'inspect'],
    ToDecide: ['to decide', 'held'],
    ToCarryOut: ['to be done', 'open'],
    ToSign: ['to sign', 'held'],
    ToLift: ['to release', 'done'],
  };
  const all = $derived(query.data?.notices ?? []);
  /** Only of this kind; all where none is chosen. */
  let only = $state<Schemas['NoticeKind']>();
  let part = $state<Part>('work');
  const kinds = $derived([...new Set(all.map((n) => n.kind))]);
  const blank = { about: '', to: '', title: '', text: '' };
  /** The notice that a mail is written about; several may be of one number. */
  let writing = $state<Schemas['NoticeView']>();
  let mail = $state({ ...blank });
  let said = $state('');
  let busy = $state(false);
  let error = $state<unknown>();
  function write(n: Schemas['NoticeView']) {
    said = '';
    error = undefined;
    writing = n;
    mail = { about: n.subject, to: '', title: `${n.subject}: ${words[n.kind][0]}`, text: n.sentence };
  }
  async function send(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    busy = true;
    try {
      said = (await act('/api/{site}/notices/mail', mail)).sentence;
      writing = undefined;
    } catch (problem) {
      error = problem;
    } finally {
      busy = false;
    }
  }
  const shown = $derived(only && kinds.includes(only) ? all.filter((n) => n.kind === only) : all);
</script>

<svelte:head><title>For you · Mud Room</title></svelte:head>
<Frame queueTitle="For you" queueCount={query.data?.total ?? ''} workTitle="For you" bind:part>
  {#snippet queue()}
    <QueueCard
      onpress={() => {
        only = undefined;
        part = 'work';
      }}
      current={!only}
      code={String(all.length)}
      title="all of it"
      why=""
    />
    {#each kinds as kind (kind)}
      <QueueCard
        onpress={() => {
          only = kind;
          part = 'work';
        }}
        current={only === kind}
        code={String(all.filter((n) => n.kind === kind).length)}
        title={words[kind][0]}
        why=""
      />
    {/each}
  {/snippet}
  {#snippet work()}
    <div class="head">
      <h1>
        {#if !query.data}…{:else if query.data.total === 0}Nothing waits for you{:else}{counted(
            query.data.total,
            'thing',
          )} for you{/if}
      </h1>
      <p class="quiet">What only you, or somebody with your rights, can do. It goes from here when it is done.</p>
    </div>
    <ProblemNote error={query.error} />
    {#if said}<p class="pad good">{said} <a class="link" href="/book/out">What went out</a></p>{/if}
    <ol class="notices">
      {#each shown as n, i (i)}
        <li>
          <a href={n.href}>
            <span class="kind"><Mark kind={words[n.kind][1]} word={words[n.kind][0]} /></span>
            <span class="what"><b class="c">{n.subject}</b> {n.sentence}</span>
            <span class="quiet since">{when(n.since)}</span>
          </a>
          {#if session.may('KeepPromises')}
            {#if writing && writing.subject === n.subject && writing.kind === n.kind && writing.sentence === n.sentence}
              <form class="letter" onsubmit={send}>
                <Field label="To which address" hint="It goes when you press, and not before."
                  ><input
                    name="mail-to"
                    inputmode="email"
                    bind:value={mail.to}
                    maxlength="254"
                    required
                    autocomplete="off"
                  /></Field
                >
                <Field label="Subject"
                  ><input
                    name="mail-title"
                    bind:value={mail.title}
                    maxlength="150"
                    required
                    autocomplete="off"
                  /></Field
                >
                <Field label="Text"
                  ><textarea name="mail-text" rows="4" bind:value={mail.text} maxlength="5000" required
                  ></textarea></Field
                >
                <ProblemNote {error} />
                <p class="row">
                  <button class="button go" disabled={busy}>Send the mail</button>
                  <button type="button" class="button" onclick={() => (writing = undefined)}>Not now</button>
                </p>
              </form>
            {:else}
              <button class="link mail" onclick={() => write(n)}>Mail about {n.subject}</button>
            {/if}
          {/if}
        </li>
      {/each}
    </ol>
    {#if query.data && query.data.total > all.length}<p class="pad quiet">
        and {query.data.total - all.length} more behind these.
      </p>{/if}
  {/snippet}
</Frame>

<style>
  .notices {
    list-style: none;
    margin: 0;
    padding: 0;
  }
  li a {
    display: grid;
    grid-template-columns: 120px 1fr auto;
    gap: 14px;
    align-items: baseline;
    padding: 11px 18px;
    border-top: 1px solid var(--stone-2);
    color: inherit;
    text-decoration: none;
    min-height: 44px;
  }
  .mail {
    display: block;
    margin: -6px 18px 8px;
    min-height: 24px;
  }
  .letter {
    display: grid;
    gap: 10px;
    max-width: 560px;
    padding: 4px 18px 14px;
  }
  .letter p {
    margin: 0;
  }
  li a:hover .what {
    text-decoration: underline;
  }
  @media (max-width: 700px) {
    li a {
      grid-template-columns: 1fr auto;
      gap: 4px 10px;
    }
    .what {
      grid-column: 1 / -1;
      grid-row: 2;
    }
  }
</style>
