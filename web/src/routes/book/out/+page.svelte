<script lang="ts">
  /** What others were told: each message, how far it is, and trying again. */
  import { act, ask, type Schemas } from '$lib/api/client';
  import List from '$lib/list/List.svelte';
  import { session } from '$lib/session.svelte';
  import Field from '$lib/ui/Field.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { when } from '$lib/ui/format';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  type Message = Schemas['OutRow'];
  let only = $state('');
  let at = $state(1);
  let chosen = $state<string>();
  let error = $state<unknown>();
  let said = $state('');
  let part = $state<Part>('work');
  const out = createQuery(() => ({
    queryKey: ['out', session.site, only, at],
    queryFn: () => ask('/api/{site}/book/out', { state: only, page: at }),
    placeholderData: keepPreviousData,
  }));
  const shown = $derived(out.data?.messages.find((m) => m.id === chosen));
  const body = createQuery(() => ({
    queryKey: ['out-body', session.site, chosen],
    queryFn: async () => (await fetch(`/api/${session.site}/book/out/${chosen}`)).text(),
    enabled: chosen !== undefined,
  }));
  const tells: Record<Schemas['OutKind'], string> = {
    ReceiptPosted: 'receipt posted',
    ReceiptSettled: 'receipt settled',
    ReceiptReversed: 'receipt reversed',
    QualityNotice: 'notice to the buyer',
    ReceiptAcceptance: 'acceptance of a receipt',
    GoodsDecided: 'goods decided over',
    Mail: 'mail',
    ReturnFinding: 'finding of a return',
  };
  const marks: Record<Schemas['OutState'], ['open' | 'today' | 'done' | 'disc', string]> = {
    Waiting: ['open', 'waiting'],
    Sent: ['today', 'sent'],
    Acknowledged: ['done', 'arrived'],
    Failed: ['disc', 'not sent'],
  };
  async function again(message: string) {
    error = undefined;
    said = '';
    try {
      said = (await act('/api/{site}/book/out/again', { message })).sentence;
      await out.refetch();
    } catch (problem) {
      error = problem;
    }
  }
</script>

{#snippet whenCell(m: Message)}<span class="c nowrap">{when(m.at)}</span>{/snippet}
{#snippet whatCell(m: Message)}<button
    class="link"
    onclick={() => {
      chosen = m.id;
      part = 'trail';
    }}><b class="c">{m.subject}</b></button
  >
  {tells[m.kind]}{/snippet}
{#snippet stateCell(m: Message)}<Mark
    kind={marks[m.state][0]}
    word={marks[m.state][1]}
  />{#if m.said && m.state !== 'Acknowledged'}<br /><span class="quiet">{m.said}</span>{/if}{/snippet}
{#snippet triesCell(m: Message)}{m.tries}{/snippet}
{#snippet againCell(m: Message)}{#if m.state !== 'Acknowledged'}<button class="button" onclick={() => again(m.id)}
      >Try again</button
    >{/if}{/snippet}

<svelte:head><title>Messages out · Book · Mud Room</title></svelte:head>
<Frame queueTitle="Book" workTitle="Messages out" trailTitle="The message" bind:part>
  {#snippet queue()}
    <p class="pad"><a class="link" href="/book">Back to Book</a></p>
    {#if out.data}
      <p class="pad quiet">
        {#if out.data.receipts === 'Never'}
          Nobody is told of receipts here. The administrator sets it in <a class="link" href="/site/door"
            >Site, how goods are counted</a
          >.
        {:else}
          Others are told of a receipt when it is {out.data.receipts === 'WhenPosted'
            ? 'posted'
            : 'settled: the last of its goods is in its place'}. Each message is a file in
          <span class="c">{out.data.folder}</span> beside the database; who takes it away has it.
        {/if}
      </p>
    {/if}
  {/snippet}
  {#snippet work()}
    <div class="pad row">
      <h1 class="grow">Messages out</h1>
      <Field label="State"
        ><select name="state" bind:value={only} onchange={() => (at = 1)}
          ><option value="">all</option>{#each Object.entries(marks) as [value, [, word]] (value)}<option {value}
              >{word}</option
            >{/each}</select
        ></Field
      >
    </div>
    <div class="pad">
      <ProblemNote error={error ?? out.error} />
      {#if said}<p class="good" role="status">{said}</p>{/if}
    </div>
    <List
      name="out"
      label="Messages out"
      counted={['message', 'messages']}
      rows={out.data?.messages}
      total={out.data?.inAll ?? 0}
      pageSize={out.data?.pageSize ?? 40}
      pending={out.isPending}
      key={(m) => m.id}
      isOn={(m) => chosen === m.id}
      bind:page={at}
      empty="No message went out yet."
      columns={[
        { key: 'when', word: 'When', cell: whenCell },
        { key: 'what', word: 'What', cell: whatCell, fixed: true },
        { key: 'state', word: 'State', cell: stateCell, fixed: true },
        { key: 'tries', word: 'Tries', cell: triesCell, number: true },
        ...(session.may('KeepOrders') ? [{ key: 'again', word: 'Once more', cell: againCell, fixed: true }] : []),
      ]}
    />
  {/snippet}
  {#snippet trail()}
    <section class="trail-part">
      {#if shown}
        <h2><span class="c">{shown.subject}</span> {tells[shown.kind]}</h2>
        <pre class="c">{body.data ?? 'One moment.'}</pre>
      {:else}
        <p class="quiet">Press a message to read what was told.</p>
      {/if}
    </section>
  {/snippet}
</Frame>

<style>
  pre {
    font-size: 13px;
    white-space: pre-wrap;
    overflow-wrap: anywhere;
  }
</style>
