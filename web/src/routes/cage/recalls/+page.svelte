<script lang="ts">
  /** The recalls of the house, and how a new one begins. */
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { act, ask, type Schemas } from '$lib/api/client';
  import ConditionFields from '$lib/cage/ConditionFields.svelte';
  import { session } from '$lib/session.svelte';
  import Field from '$lib/ui/Field.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import { counted, when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const query = createQuery(() => ({
    queryKey: ['cage', 'recalls', session.site],
    queryFn: () => ask('/api/{site}/cage/recalls'),
  }));
  const recalls = $derived(query.data);
  let part = $state<Part>('work');
  const kinds: Record<Schemas['RecallBy'], { word: string; label: string }> = {
    SourceBatch: { word: 'source batches', label: 'Source batches, as on the labels' },
    Batch: { word: 'own batches', label: 'Batches' },
    Serial: { word: 'serial numbers', label: 'Serial numbers: IC-0101 to IC-0150' },
    Produced: { word: 'days of production', label: '' },
    Advice: { word: 'a despatch advice', label: 'Number of the despatch advice' },
  };
  let by = $state<Schemas['RecallBy']>('SourceBatch');
  let item = $state('');
  let vendor = $state('');
  let numbers = $state(page.url.searchParams.get('batch') ?? '');
  let from = $state('');
  let to = $state('');
  let why = $state('');
  let wants = $state<Schemas['Wanted'][]>([]);
  let mayCome = $state(false);
  let error = $state<unknown>();
  let busy = $state(false);
  async function begin(isDrill: boolean) {
    [error, busy] = [undefined, true];
    try {
      const begun = await act('/api/{site}/cage/recalls/begin', {
        by,
        item: item || null,
        vendor: vendor || null,
        numbers: numbers || null,
        from: from || null,
        to: to || null,
        why,
        isDrill,
        wants: isDrill ? [] : wants,
        mayCome,
      });
      await goto(`/cage/recalls/${begun.number}`);
    } catch (problem) {
      error = problem;
    } finally {
      busy = false;
    }
  }
</script>

<svelte:head><title>Recalls · Cage · Mud Room</title></svelte:head>
<Frame queueTitle="Recalls" queueCount="{recalls?.open.length ?? 0} open" workTitle="A recall" bind:part>
  {#snippet queue()}
    <p class="pad"><a class="link" href="/cage">Back to the holds</a></p>
    {#each recalls?.open ?? [] as r, i (r.number)}
      <QueueCard href="/cage/recalls/{r.number}" code={r.number} title={r.says} why={r.finding} order={i}>
        {#snippet mark()}
          {#if r.missing}<Mark kind="disc" word="missing" />{:else if r.isDrill}<Mark
              kind="open"
              word="drill"
            />{:else}<Mark kind="held" word="open" />{/if}
        {/snippet}
      </QueueCard>
    {:else}
      <p class="empty">No recall is open. When a vendor calls goods back, one is begun here.</p>
    {/each}
    {#if recalls?.ended.length}
      <details class="pad">
        <summary>Ended ({recalls.ended.length})</summary>
        {#each recalls.ended as r (r.number)}
          <p>
            <a class="link c" href="/cage/recalls/{r.number}">{r.number}</a>
            {r.says}<br /><span class="quiet">{when(r.endedAt)}: {r.finding}</span>
          </p>
        {/each}
      </details>
    {/if}
  {/snippet}
  {#snippet work()}
    <div class="head">
      <h1>{recalls?.mayBegin ? 'Call goods back' : counted(recalls?.open.length ?? 0, 'open recall')}</h1>
      <p class="quiet">
        All of it is held at once, wherever it stands at this site, and what still comes is held as it is counted. A
        drill finds everything and holds nothing.
      </p>
    </div>
    {#if recalls?.mayBegin}
      <datalist id="vendors"
        >{#each recalls.vendors as v (v)}<option value={v}></option>{/each}</datalist
      >
      <form
        class="pad"
        onsubmit={(e) => {
          e.preventDefault();
          void begin(false);
        }}
      >
        <div class="fields">
          <Field label="By"
            ><select name="by" bind:value={by}
              >{#each Object.entries(kinds) as [kind, k] (kind)}<option value={kind}>{k.word}</option>{/each}</select
            ></Field
          >
          <Field label="Item, code or name{by === 'Serial' ? '' : ' (or any)'}"
            ><input name="item" bind:value={item} autocomplete="off" /></Field
          >
          <Field label="Vendor{by === 'Produced' ? '' : ' (or any)'}"
            ><input name="vendor" bind:value={vendor} list="vendors" autocomplete="off" /></Field
          >
        </div>
        {#if by === 'Produced'}
          <div class="fields">
            <Field label="Made from"><input name="from" type="date" bind:value={from} /></Field>
            <Field label="to"><input name="to" type="date" bind:value={to} /></Field>
          </div>
        {:else}
          <Field label={kinds[by].label}
            ><textarea name="numbers" class="c" rows="2" bind:value={numbers} spellcheck="false"></textarea></Field
          >
        {/if}
        <Field label="Why"><input name="why" bind:value={why} maxlength="500" autocomplete="off" /></Field>
        <h2>What its holds want before they are lifted, besides a supervisor's signature</h2>
        <ConditionFields bind:wants />
        <p>
          <label class="check"
            ><input type="checkbox" name="may-come" bind:checked={mayCome} /> Begin it even if nobody here knows the goods
            yet</label
          >
        </p>
        <ProblemNote {error} />
        <p class="row">
          <button class="button go" disabled={busy}>Begin the recall</button>
          <button class="button" type="button" id="drill" disabled={busy} onclick={() => void begin(true)}
            >Begin a drill</button
          >
        </p>
      </form>
    {/if}
  {/snippet}
</Frame>

<style>
  form {
    display: flex;
    flex-direction: column;
    gap: 12px;
    max-width: 860px;
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
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 12px;
  }
</style>
