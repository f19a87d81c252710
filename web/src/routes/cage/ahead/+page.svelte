<script lang="ts">
  /** What is held as it comes: an item, an order line, or all that a vendor sends, until somebody ends it. */
  import { page } from '$app/state';
  import { act, ask, type Schemas } from '$lib/api/client';
  import ConditionFields from '$lib/cage/ConditionFields.svelte';
  import HoldReason from '$lib/cage/HoldReason.svelte';
  import { session } from '$lib/session.svelte';
  import Field from '$lib/ui/Field.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import { when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const query = createQuery(() => ({
    queryKey: ['cage', 'ahead', session.site],
    queryFn: () => ask('/api/{site}/cage/ahead'),
  }));
  const ahead = $derived(query.data);
  let part = $state<Part>('work');
  /** The one that is looked at; 0 for a new one. */
  let chosen = $state(0);
  const current = $derived(ahead?.holds.find((h) => h.id === chosen));
  const kinds = { item: 'an item', vendor: 'all that a vendor sends', line: 'an order line' } as const;
  let by = $state<keyof typeof kinds>(page.url.searchParams.has('order') ? 'line' : 'item');
  let item = $state('');
  let vendor = $state('');
  let order = $state(page.url.searchParams.get('order') ?? '');
  let line = $state<number | null>(null);
  let because = $state('');
  let why = $state('');
  let wants = $state<Schemas['Wanted'][]>([]);
  let alsoHere = $state(true);
  let ending = $state('');
  let busy = $state(false);
  let error = $state<unknown>();
  let done = $state('');
  function choose(id: number) {
    chosen = id;
    part = 'work';
    [error, done, ending] = [undefined, '', ''];
  }
  async function run(work: () => Promise<{ sentence: string }>): Promise<boolean> {
    [error, done, busy] = [undefined, '', true];
    try {
      done = (await work()).sentence;
      await query.refetch();
      return true;
    } catch (problem) {
      error = problem;
      return false;
    } finally {
      busy = false;
    }
  }
  async function lay(event: SubmitEvent) {
    event.preventDefault();
    const laid = await run(() =>
      act('/api/{site}/cage/ahead/lay', {
        item: by === 'line' ? null : item || null,
        vendor: by === 'line' ? null : vendor || null,
        order: by === 'line' ? order || null : null,
        line: by === 'line' ? line : null,
        because: because || null,
        why: why || null,
        wants,
        alsoHere,
      }),
    );
    if (laid) {
      item = vendor = order = because = why = '';
      [line, wants] = [null, []];
    }
  }
  async function end(event: SubmitEvent) {
    event.preventDefault();
    if (await run(() => act('/api/{site}/cage/ahead/end', { id: chosen, why: ending }))) {
      chosen = 0;
      ending = '';
    }
  }
</script>

<svelte:head><title>Held as it comes · Cage · Mud Room</title></svelte:head>
<Frame
  queueTitle="Held as it comes"
  queueCount={String(ahead?.holds.length ?? 0)}
  workTitle="Held as it comes"
  bind:part
>
  {#snippet queue()}
    <p class="pad row">
      <a class="link" href="/cage">Back to the holds</a>
      {#if ahead?.mayLay && chosen !== 0}<button class="button" id="new-ahead" onclick={() => choose(0)}
          >Hold something else</button
        >{/if}
    </p>
    {#each ahead?.holds ?? [] as h, i (h.id)}
      <QueueCard
        onpress={() => choose(h.id)}
        current={h.id === chosen}
        code={when(h.since)}
        title={h.goods}
        why={h.why}
        order={i}
      >
        {#snippet mark()}<Mark kind="held" word="held" />{/snippet}
      </QueueCard>
    {:else}
      <p class="empty">Nothing is held as it comes, besides what the rules of holds say.</p>
    {/each}
  {/snippet}
  {#snippet work()}
    {#if current}
      <div class="head">
        <h1>{current.goods}</h1>
        <p>{current.why}</p>
        <p class="quiet">
          Held as it is counted, at every site, by {current.by} since {when(current.since)}. Ending it lets what comes
          go by; what is held stays held until it is lifted.
        </p>
        <p>
          <a class="link" href="/book?text={encodeURIComponent(current.why)}">All that happened with it</a>
        </p>
      </div>
      {#if done}<p class="good note" id="done" role="status">{done}</p>{/if}
      <div class="pad acts">
        {#if ahead?.mayLay}<p>
            <button
              class="button"
              id="hold-here"
              disabled={busy}
              onclick={() => void run(() => act('/api/{site}/cage/ahead/hold-here', { id: chosen }))}
              >Hold what stands here too</button
            >
          </p>{/if}
        {#if ahead?.mayEnd}
          <form class="row" onsubmit={end}>
            <Field label="Why it ends" class="grow"
              ><input name="end-why" bind:value={ending} maxlength="200" autocomplete="off" /></Field
            >
            <button class="button go" disabled={busy}>End it</button>
          </form>
        {:else}<p class="quiet">A supervisor ends it.</p>{/if}
        <ProblemNote {error} />
      </div>
    {:else}
      <div class="head">
        <h1>{ahead?.mayLay ? 'Hold what comes' : 'Held as it comes'}</h1>
        <p class="quiet">
          Each count of it is held from now on, at every site, until a supervisor ends this here. For goods that are
          known to be bad, begin a <a class="link" href="/cage/recalls">recall</a>: that finds what is gone, too.
        </p>
      </div>
      {#if done}<p class="good note" id="done" role="status">{done}</p>{/if}
      {#if ahead?.mayLay}
        <datalist id="vendors"
          >{#each ahead.vendors as v (v)}<option value={v}></option>{/each}</datalist
        >
        <form class="pad lay" onsubmit={lay}>
          <div class="fields">
            <Field label="What"
              ><select name="ahead-by" bind:value={by}
                >{#each Object.entries(kinds) as [kind, word] (kind)}<option value={kind}>{word}</option>{/each}</select
              ></Field
            >
            {#if by === 'line'}
              <Field label="Order"
                ><input name="ahead-order" class="c" bind:value={order} autocomplete="off" required /></Field
              >
              <Field label="Line, where it has several"
                ><input name="ahead-line" class="c" type="number" min="1" bind:value={line} /></Field
              >
            {:else}
              <Field label={by === 'item' ? 'Item, by code or name' : 'Only this item (or any)'}
                ><input name="ahead-item" bind:value={item} autocomplete="off" required={by === 'item'} /></Field
              >
              <Field label={by === 'vendor' ? 'Vendor, by code or name' : 'Only of this vendor (or any)'}
                ><input
                  name="ahead-vendor"
                  bind:value={vendor}
                  list="vendors"
                  autocomplete="off"
                  required={by === 'vendor'}
                /></Field
              >
            {/if}
          </div>
          <div class="fields"><HoldReason bind:because bind:why most={160} /></div>
          <h2>What its holds want before they are lifted; without anything, a supervisor's signature</h2>
          <ConditionFields bind:wants />
          <p>
            <label class="check"
              ><input type="checkbox" name="also-here" bind:checked={alsoHere} /> Hold what stands at this site too</label
            >
          </p>
          <ProblemNote {error} />
          <p><button class="button go" disabled={busy}>Hold it as it comes</button></p>
        </form>
      {/if}
    {/if}
  {/snippet}
</Frame>

<style>
  .acts,
  .lay {
    display: flex;
    flex-direction: column;
    gap: 12px;
    max-width: 860px;
  }
  form.row {
    align-items: flex-end;
  }
  .fields {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(180px, 1fr));
    gap: 12px;
  }
  h2 {
    margin: 6px 0 0;
    font-size: 14px;
  }
</style>
