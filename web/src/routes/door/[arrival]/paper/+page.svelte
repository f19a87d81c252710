<script lang="ts">
  /** A tally sheet that was filled in on paper while the power was off, typed in: all its rows or none. */
  import Field from '$lib/ui/Field.svelte';
  import { page } from '$app/state';
  import { act, ask, type Schemas } from '$lib/api/client';
  import { plainCount } from '$lib/door/count';
  import { session } from '$lib/session.svelte';
  import Frame from '$lib/ui/Frame.svelte';
  import DoorQueue from '$lib/door/DoorQueue.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { number, plural } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const which = $derived(page.params['arrival'] ?? '');
  const tally = createQuery(() => ({
    queryKey: ['tally', `arrival:${which}`, session.site],
    queryFn: () => ask('/api/{site}/door/tally/{number}', { number: which }),
  }));
  const site = createQuery(() => ({
    queryKey: ['site', session.site],
    queryFn: () => ask('/api/{site}/site'),
    enabled: session.may('SettleTally'),
  }));
  const codes = createQuery(() => ({
    queryKey: ['codes', `arrival:${which}`, session.site],
    queryFn: () => ask('/api/{site}/door/codes/{number}', { number: which }),
  }));
  type Row = {
    packs: string;
    pack: string;
    sourceBatch: string;
    production: string;
    bestBefore: string;
    expiry: string;
    origin: string;
    serials: string;
    weight: string;
    damaged: string;
    note: string;
  };
  const blank = (pack: string): Row => ({
    packs: '',
    pack,
    sourceBatch: '',
    production: '',
    bestBefore: '',
    expiry: '',
    origin: '',
    serials: '',
    weight: '',
    damaged: '',
    note: '',
  });
  let rows = $state<Record<number, Row>>({});
  const counters = $derived(
    (site.data?.people ?? []).filter((p) => p.active && p.roles.some((r) => r === 'Receiver' || r === 'Supervisor')),
  );
  let by = $state('');
  let error = $state<unknown>();
  let done = $state<Schemas['PaperAnswer']>();
  const packsOf = (item: string) => [
    ...new Map((codes.data ?? []).filter((c) => c.item === item).map((c) => [c.pack, c])).values(),
  ];
  $effect(() => {
    for (const m of tally.data?.manifest ?? []) rows[m.id] ??= blank(packsOf(m.itemCode)[0]?.pack ?? m.unit);
  });
  const filled = $derived(
    (tally.data?.manifest ?? []).filter((m) => rows[m.id]?.packs.trim() || rows[m.id]?.damaged.trim()),
  );
  function countsOf(m: Schemas['ManifestRow']): Schemas['CountRequest'][] {
    const r = rows[m.id]!;
    const one = (packs: string, more: Partial<Schemas['CountRequest']>): Schemas['CountRequest'] => ({
      ...plainCount(which, m.itemCode, r.pack || m.unit, packs),
      sourceBatch: r.sourceBatch || null,
      production: r.production || null,
      bestBefore: r.bestBefore || null,
      expiry: r.expiry || null,
      weight: r.weight || null,
      origin: r.origin || null,
      serials: r.serials || null,
      part: m.partId || null,
      earlyAllowed: true,
      blankAllowed: true,
      fromPaper: true,
      ...more,
    });
    return [
      ...(r.packs.trim() ? [one(r.packs, {})] : []),
      ...(r.damaged.trim()
        ? [
            one(r.damaged, {
              aside: 'Damaged',
              note: r.note || 'damaged, as written on the sheet',
              serials: null,
              weight: r.packs.trim() ? null : r.weight || null,
            }),
          ]
        : []),
    ];
  }
  async function take(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    try {
      done = await act('/api/{site}/door/paper', {
        arrival: which,
        countedBy: by || null,
        rows: filled.flatMap(countsOf),
      });
      rows = {};
      await tally.refetch();
    } catch (problem) {
      error = problem;
    }
  }
  /** What an item asks for, by the field of the row that takes it. */
  const fields: Record<string, [keyof Row, string]> = {
    sourceBatch: ['sourceBatch', 'Source batch'],
    production: ['production', 'Produced'],
    bestBefore: ['bestBefore', 'Best before'],
    expiry: ['expiry', 'Expiry'],
    origin: ['origin', 'Origin'],
    serial: ['serials', 'Serials'],
    weight: ['weight', 'Weight, kg'],
  };
</script>

<svelte:head><title>Sheet of {which} · Door · Mud Room</title></svelte:head>
<Frame queueTitle="At the doors" workTitle="Sheet of {which}">
  {#snippet queue()}<DoorQueue current={which} />{/snippet}
  {#snippet work()}
    <div class="pad">
      <h1>Type in the tally sheet of <span class="c">{which}</span></h1>
      <p class="quiet">
        Only what was written down. All rows are taken, or none: what is wrong is said with its row. <a
          class="link"
          href="/door/{which}">Back to the tally</a
        >
      </p>
      {#if done}<p class="good" role="status">{done.sentence}</p>{/if}
      <ProblemNote error={error ?? tally.error} />
    </div>
    <form id="sheet" onsubmit={take}>
      {#if session.may('SettleTally')}
        <div class="pad">
          <Field label="Counted by" class="who"
            ><select name="counted-by" bind:value={by}
              ><option value="">{session.state?.name}</option>{#each counters as p (p.signInName)}<option
                  value={p.signInName}>{p.name}</option
                >{/each}</select
            ></Field
          >
        </div>
      {/if}
      {#each tally.data?.manifest ?? [] as m (m.id)}
        {@const r = rows[m.id]}
        {#if r}
          <fieldset>
            <legend
              ><b>{m.itemName}</b>
              <span class="quiet"
                >{#if m.order}<span class="c">{m.order}</span> line {m.line}{/if}{#if !tally.data?.settings.blind}: {number(
                    m.expected,
                  )}
                  {m.unit} expected, {number(m.counted)} counted so far{/if}</span
              ></legend
            >
            <div class="cells">
              <Field label="Counted"
                ><input class="c" name="packs-{m.itemCode}" bind:value={r.packs} inputmode="decimal" /></Field
              >
              <Field label="Pack"
                ><select bind:value={r.pack}
                  >{#each packsOf(m.itemCode) as p (p.pack)}<option value={p.pack}
                      >{plural(p.pack, 2)}{p.content === 1 ? '' : ` of ${number(p.content)}`}</option
                    >{/each}</select
                ></Field
              >
              {#each m.asks.flatMap((ask) => (fields[ask] ? [fields[ask]] : [])) as [key, word] (key)}
                <Field label={word}
                  ><input class="c" name="{key}-{m.itemCode}" bind:value={r[key]} autocomplete="off" /></Field
                >
              {/each}
              <Field label="Damaged"><input class="c" bind:value={r.damaged} inputmode="decimal" /></Field>
              {#if r.damaged}<Field label="How"><input bind:value={r.note} maxlength="300" /></Field>{/if}
            </div>
          </fieldset>
        {/if}
      {/each}
    </form>
  {/snippet}
  {#snippet foot()}
    <div class="row">
      <span class="grow">{filled.length} {filled.length === 1 ? 'row has' : 'rows have'} a count.</span>
      <button class="button go" form="sheet" disabled={filled.length === 0}>Take the sheet</button>
    </div>
  {/snippet}
</Frame>

<style>
  fieldset {
    border-top: 1px solid var(--stone-2);
    padding: 6px 18px 10px;
  }
  legend {
    padding-right: 8px;
  }
  .cells {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(96px, 1fr));
    gap: 8px;
  }
  :global(.field.who) {
    max-width: 320px;
  }
</style>
