<script lang="ts">
  /** Goods of ours that are out for a treatment, and come back against their note. */
  import Field from '$lib/ui/Field.svelte';
  import { page } from '$app/state';
  import { act, ask, type Schemas } from '$lib/api/client';
  import DoorQueue from '$lib/door/DoorQueue.svelte';
  import List from '$lib/list/List.svelte';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { day, number } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  let filter = $state(page.url.searchParams.get('note') ?? '');
  let at = $state(1);
  type Note = Schemas['OutworkRow'];
  let part = $state<Part>('work');
  const notes = createQuery(() => ({
    queryKey: ['door', 'outwork', session.site, filter, at],
    queryFn: () => ask('/api/{site}/door/outwork', { order: filter, page: at }),
  }));
  let number_ = $state(page.url.searchParams.get('note') ?? '');
  let quantity = $state('');
  let door = $state<number>();
  let restLost = $state(false);
  let error = $state<unknown>();
  let said = $state('');
  $effect(() => {
    door ??= notes.data?.doors[0];
  });
  $effect(() =>
    scanLine.use(async (text) => {
      const reading = await ask('/api/{site}/scan', { text });
      if (reading.kind !== 'Outwork')
        return { words: reading.words, next: 'scan the outwork note', tone: 'refused' as const };
      number_ = reading.code;
      part = 'work';
      return { words: reading.words, next: 'type how many came back', tone: 'look' as const };
    }),
  );
  // Sending out: stock is found by its words, as in Book.
  let find = $state('');
  const stock = createQuery(() => ({
    queryKey: ['book', 'stock', 'shelf', session.site, find],
    queryFn: () => ask('/api/{site}/book/find', { text: find }),
    enabled: find.trim().length > 1 && session.may('Issue'),
  }));
  const site = createQuery(() => ({
    queryKey: ['site', session.site],
    queryFn: () => ask('/api/{site}/site'),
    enabled: session.may('Issue'),
  }));
  let balance = $state<number>();
  let out = $state({ quantity: '', vendor: '', order: '', treatment: '' });
  async function run(work: () => Promise<{ sentence: string }>, then: () => void) {
    error = undefined;
    said = '';
    try {
      said = (await work()).sentence;
      then();
      await notes.refetch();
    } catch (problem) {
      error = problem;
    }
  }
</script>

{#snippet noteCell(n: Note)}<button
    class="link c"
    onclick={() => {
      number_ = n.number;
      part = 'work';
    }}>{n.number}</button
  ><br /><span class="quiet">{n.by.split(' ')[0]}, {day(n.at)}</span>{/snippet}
{#snippet goodsCell(n: Note)}<b>{n.item}</b>{#if n.batch}<br /><span class="quiet">batch {n.batch}</span>{/if}{/snippet}
{#snippet whereCell(n: Note)}{n.vendor}, {n.treatment}<br /><span class="quiet"
    >order <span class="c">{n.order}</span></span
  >{/snippet}
{#snippet sentCell(n: Note)}{number(n.sent)} {n.unit}{/snippet}
{#snippet backCell(n: Note)}{number(n.back)}{n.lost > 0 ? `, ${number(n.lost)} lost` : ''}{/snippet}
{#snippet outCell(n: Note)}{#if n.open}<b>{number(n.out)}</b>{:else}<Mark
      kind="done"
      word="nothing more comes"
    />{/if}{/snippet}
{#snippet tools()}
  <Field label="Only one order or note" class="only"
    ><input class="c" bind:value={filter} oninput={() => (at = 1)} placeholder="number" /></Field
  >
{/snippet}

<svelte:head><title>Outwork · Door · Mud Room</title></svelte:head>
<Frame queueTitle="At the doors" workTitle="Outwork" bind:part>
  {#snippet queue()}<DoorQueue />{/snippet}
  {#snippet work()}
    <div class="pad">
      <h1>Goods out for a treatment</h1>
      <ProblemNote error={error ?? notes.error} />
      {#if said}<p class="good" role="status">{said}</p>{/if}
      {#if session.may('Tally')}
        <form
          class="row"
          onsubmit={(e) => {
            e.preventDefault();
            void run(
              () =>
                act('/api/{site}/door/outwork/back', {
                  note: number_,
                  quantity: quantity || null,
                  door: door ?? 0,
                  restLost,
                }),
              () => ([quantity, restLost] = ['', false]),
            );
          }}
        >
          <Field label="Note, scanned or typed"><input class="c" name="note" bind:value={number_} required /></Field>
          <Field label="How many came back"
            ><input class="c" name="back" bind:value={quantity} inputmode="decimal" /></Field
          >
          <Field label="At door"
            ><select bind:value={door}
              >{#each notes.data?.doors ?? [] as d (d)}<option value={d}>{d}</option>{/each}</select
            ></Field
          >
          <label class="choice"><input type="checkbox" bind:checked={restLost} /> nothing more comes back</label>
          <button class="button go">Take it in</button>
        </form>
      {/if}
    </div>
    <List
      name="outwork"
      label="Notes of outwork"
      counted={['note', 'notes']}
      rows={notes.data?.notes}
      total={notes.data?.inAll ?? 0}
      pageSize={notes.data?.pageSize ?? 60}
      pending={notes.isPending}
      key={(n) => n.number}
      bind:page={at}
      {tools}
      empty={filter ? `No note or order is called ${filter}.` : 'Nothing is out for a treatment.'}
      columns={[
        { key: 'note', word: 'Note', cell: noteCell, fixed: true },
        { key: 'goods', word: 'Goods', cell: goodsCell, fixed: true },
        { key: 'where', word: 'Where, what for', cell: whereCell },
        { key: 'sent', word: 'Sent', cell: sentCell, number: true },
        { key: 'back', word: 'Back', cell: backCell, number: true },
        { key: 'out', word: 'Out', cell: outCell, number: true },
      ]}
    />
    {#if session.may('Issue')}
      <form
        class="pad send"
        onsubmit={(e) => {
          e.preventDefault();
          void run(
            () => act('/api/{site}/door/outwork/send', { balance: balance ?? 0, ...out }),
            () => {
              out = { quantity: '', vendor: '', order: '', treatment: '' };
              balance = undefined;
            },
          );
        }}
      >
        <h2>Send goods out</h2>
        <div class="row">
          <Field label="Which stock: item, batch or bin" class="grow"
            ><input name="find" bind:value={find} autocomplete="off" /></Field
          >
          <Field label="From" class="grow"
            ><select name="balance" bind:value={balance} required
              >{#each (stock.data?.stock ?? []).filter((s) => s.mayShip) as s (s.id)}<option value={s.id}
                  >{s.item}, {s.bin}, {number(s.quantity)} {s.unit}{s.batch ? `, ${s.batch}` : ''}</option
                >{/each}</select
            ></Field
          >
        </div>
        <div class="row">
          <Field label="How many"
            ><input class="c" name="send-quantity" bind:value={out.quantity} inputmode="decimal" required /></Field
          >
          <Field label="To"
            ><select name="send-vendor" bind:value={out.vendor} required
              >{#each site.data?.vendors ?? [] as v (v.code)}<option value={v.code}>{v.name}</option>{/each}</select
            ></Field
          >
          <Field label="Order"
            ><input class="c" name="send-order" bind:value={out.order} maxlength="40" required /></Field
          >
          <Field label="What is done to it" class="grow"
            ><input name="send-treatment" bind:value={out.treatment} maxlength="100" required /></Field
          >
          <button class="button go">Write the note</button>
        </div>
      </form>
    {/if}
  {/snippet}
</Frame>

<style>
  :global(.field.only) {
    max-width: 320px;
  }
  .row {
    align-items: flex-end;
    margin-top: 8px;
  }
  .choice {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    min-height: 36px;
  }
  .send {
    border-top: 2px solid var(--stone-2);
    margin-top: 12px;
  }
</style>
