<script lang="ts">
  /** Which goods go by which plan: the rules, the nearest first, and what would happen to any goods. */
  import { act, ask, type Schemas } from '$lib/api/client';
  import PlansFrame from '$lib/bench/PlansFrame.svelte';
  import { session } from '$lib/session.svelte';
  import Field from '$lib/ui/Field.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { counted, when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const query = createQuery(() => ({
    queryKey: ['bench', 'rules', session.site],
    queryFn: () => ask('/api/{site}/bench/rules'),
  }));
  const rules = $derived(query.data);
  const ways: [Schemas['InspectionTrigger'], string][] = [
    ['Receipt', 'received on an order'],
    ['Return', 'returned by a customer'],
    ['Transfer', 'transferred from another site'],
    ['Outwork', 'back from outwork'],
    ['OrderLine', 'received on an order line that asks for it'],
    ['Age', 'long in store'],
    ['ByHand', 'asked for by hand'],
  ];
  const empty = { plan: -1, trigger: '', item: '', category: '', vendor: '', origin: '', reason: '', days: '' };
  let draft = $state({ ...empty });
  let error = $state<unknown>();
  let done = $state('');
  async function run(work: () => Promise<{ sentence: string }>): Promise<boolean> {
    [error, done] = [undefined, ''];
    try {
      done = (await work()).sentence;
      await Promise.all([query.refetch(), asked.item ? would.refetch() : undefined]);
      return true;
    } catch (problem) {
      error = problem;
      return false;
    }
  }
  async function make(event: SubmitEvent) {
    event.preventDefault();
    const { plan, trigger, days, ...rest } = draft;
    const made = await run(() =>
      act('/api/{site}/bench/rules/new', {
        ...rest,
        plan: plan > 0 ? plan : null,
        trigger: trigger === '' ? null : (trigger as Schemas['InspectionTrigger']),
        afterDays: trigger === 'Age' ? Number(days) : null,
      }),
    );
    if (made) draft = { ...empty };
  }
  let typed = $state({ item: '', vendor: '', origin: '' });
  let asked = $state({ item: '', vendor: '', origin: '' });
  const would = createQuery(() => ({
    queryKey: ['bench', 'rules', 'would', session.site, asked.item, asked.vendor, asked.origin],
    queryFn: () => ask('/api/{site}/bench/rules/would', asked),
    enabled: asked.item !== '',
    retry: false,
  }));
</script>

<svelte:head><title>Which goods, which plan · Bench · Mud Room</title></svelte:head>
<PlansFrame workTitle="Which goods">
  <div class="head">
    <h1>Which goods go by which plan</h1>
    <p class="quiet">
      The nearest rule decides: item before group before vendor before origin before how they come. Equally near ones
      each bring their own sheet. The plans that the set-up names with {counted(rules?.items ?? 0, 'item')} count as rules
      of those items.
    </p>
  </div>
  {#if done}<p class="good note" id="done" role="status">{done}</p>{/if}
  {#if session.may('KeepPlans') && rules?.rules.some((r) => r.days !== null)}
    <p class="pad">
      What is long in store is looked for every hour.
      <button
        class="button"
        id="look-in-store"
        onclick={() => void run(() => act('/api/{site}/bench/rules/look-in-store', {}))}>Look now</button
      >
    </p>
  {/if}
  <table class="list">
    <thead><tr><th>Goods</th><th>Plan</th><th>Why</th><th>Since</th><th></th></tr></thead>
    <tbody>
      {#each rules?.rules ?? [] as r (r.id)}
        <tr>
          <td>{r.goods}</td>
          <td
            >{#if r.planId}<a class="link" href="/bench/plans/{r.planId}">{r.plan}</a>{:else}none is wanted{/if}</td
          >
          <td>{r.reason}</td>
          <td class="quiet">{when(r.since)}, {r.by}</td>
          <td
            >{#if session.may('KeepPlans')}<button
                class="link"
                aria-label="End the rule: {r.goods}"
                onclick={() => void run(() => act('/api/{site}/bench/rules/end', { rule: r.id }))}>End it</button
              >{/if}</td
          >
        </tr>
      {:else}
        <tr><td colspan="5" class="quiet">No rule yet: only what the set-up names with an item is inspected.</td></tr>
      {/each}
    </tbody>
  </table>
  <datalist id="vendors"
    >{#each rules?.vendors ?? [] as v (v)}<option value={v}></option>{/each}</datalist
  >
  {#if session.may('KeepPlans')}
    <form class="pad rule" onsubmit={make}>
      <h2>A new rule</h2>
      <div class="fields">
        <Field label="Item, by code or name"
          ><input name="rule-item" bind:value={draft.item} autocomplete="off" /></Field
        >
        <Field label="Item group"
          ><select name="rule-category" bind:value={draft.category}
            ><option value="">any</option>{#each rules?.categories ?? [] as c (c)}<option value={c}>{c}</option
              >{/each}</select
          ></Field
        >
        <Field label="Vendor"
          ><input name="rule-vendor" bind:value={draft.vendor} list="vendors" autocomplete="off" /></Field
        >
        <Field label="Origin, a country"
          ><input name="rule-origin" bind:value={draft.origin} autocomplete="off" /></Field
        >
        <Field label="How they come"
          ><select name="rule-trigger" bind:value={draft.trigger}
            ><option value="">however</option>{#each ways as [way, word] (way)}<option value={way}>{word}</option
              >{/each}</select
          ></Field
        >
        {#if draft.trigger === 'Age'}<Field label="After how many days"
            ><input
              name="rule-days"
              class="c"
              type="number"
              min="1"
              max="3650"
              bind:value={draft.days}
              required
            /></Field
          >{/if}
        <Field label="Plan"
          ><select name="rule-plan" bind:value={draft.plan} required
            ><option value={-1} disabled>choose</option><option value={0}>none is wanted</option
            >{#each rules?.plans ?? [] as p (p.id)}<option value={p.id}>{p.name}</option>{/each}</select
          ></Field
        >
        <Field label="Why"
          ><input name="rule-why" bind:value={draft.reason} maxlength="200" required autocomplete="off" /></Field
        >
      </div>
      <button class="button go" disabled={draft.plan < 0}>Put it in force</button>
      <ProblemNote {error} />
    </form>
  {/if}
  {#snippet trail()}
    <section class="trail-part">
      <h2>What would happen</h2>
      <form
        class="ask"
        onsubmit={(e) => {
          e.preventDefault();
          asked = { ...typed };
        }}
      >
        <Field label="Item, by code or name"
          ><input name="would-item" bind:value={typed.item} required autocomplete="off" /></Field
        >
        <Field label="Vendor"
          ><input name="would-vendor" bind:value={typed.vendor} list="vendors" autocomplete="off" /></Field
        >
        <Field label="Origin, a country"
          ><input name="would-origin" bind:value={typed.origin} autocomplete="off" /></Field
        >
        <button class="button">Show it</button>
      </form>
      {#if would.error}<ProblemNote error={would.error} />{/if}
      {#if would.data}
        <h3>{would.data.item}{would.data.vendor ? ` from ${would.data.vendor}` : ''}</h3>
        <dl id="would">
          {#each would.data.ways as w (w.trigger)}
            <dt>{w.comes}</dt>
            <dd>
              {#each w.plans as p (p.id)}<Mark kind="inspect" word={p.name} />{:else}<Mark
                  kind="usable"
                  word={w.trigger === 'ByHand' ? 'free choice' : 'not inspected'}
                />{/each}
              <span class="quiet">{w.why}</span>
            </dd>
          {/each}
        </dl>
      {/if}
    </section>
  {/snippet}
</PlansFrame>

<style>
  .rule,
  .ask {
    display: flex;
    flex-direction: column;
    gap: 10px;
    align-items: flex-start;
  }
  .fields {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
    gap: 10px;
    width: 100%;
  }
  dt {
    margin-top: 10px;
    font-weight: 600;
  }
  dd {
    margin: 2px 0 0;
    display: flex;
    flex-direction: column;
    gap: 2px;
    align-items: flex-start;
  }
</style>
