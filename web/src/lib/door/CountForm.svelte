<script lang="ts">
  /** The count in hand: quantity first, then only what this item asks for. */
  import Field from '$lib/ui/Field.svelte';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import { Problem, type Schemas } from '$lib/api/client';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { day, exact, exactly, number, plural } from '$lib/ui/format';
  import { ask } from '$lib/api/client';
  import { createQuery } from '@tanstack/svelte-query';
  import Attributes from './Attributes.svelte';
  import type { Draft } from './draft.svelte';
  import GoodsDateField from './GoodsDateField.svelte';
  import GoodsMarks from './GoodsMarks.svelte';
  import GoodsPicture from './GoodsPicture.svelte';
  import PrintedText from '$lib/printed/PrintedText.svelte';
  import Photographs from './Photographs.svelte';
  import Weight from './Weight.svelte';
  let {
    draft,
    settings,
    ontakeback,
    onrefused,
  }: {
    draft: Draft;
    settings?: Schemas['CountSettings'] | undefined;
    ontakeback?: (act: string) => void;
    onrefused?: () => void;
  } = $props();
  const site = createQuery(() => ({
    queryKey: ['site', session.site],
    queryFn: () => ask('/api/{site}/site'),
    enabled: draft.aside === 'NotOnOrder' || draft.aside === 'WrongItem' || draft.aside === 'OtherSite',
  }));
  const item = $derived(draft.reading?.item);
  const code = $derived(draft.error instanceof Problem ? draft.error.code : '');
  const dates = $derived(
    code === 'dates-swapped' || code.startsWith('production') || code.startsWith('date') || code === 'short-life',
  );
  // A refusal stands beside the quantity: it is brought into sight, wherever the form was scrolled to.
  $effect(() => {
    if (draft.error) document.getElementById('count')?.scrollIntoView({ block: 'start' });
  });
  function step(by: number) {
    const packs = exact(draft.packs).plus(by);
    draft.packs = packs.lt(1) ? '1' : exactly(packs);
    draft.proposed = false;
    draft.changed();
  }
  /** Taken by the button or by Enter: the scan line says so, as it does for a scan. */
  async function takeByHand() {
    await draft.take();
    if (draft.error instanceof Problem)
      scanLine.say({ words: draft.error.sentence, next: draft.error.next, tone: 'refused' });
    else if (draft.taken) scanLine.say({ words: draft.taken.sentence, next: 'scan the next label', tone: 'taken' });
  }
  /** "cartons of 36": the unit is said where it is not the piece. */
  const packWords = (i: Schemas['ItemView'], p: Schemas['PackView']) =>
    plural(p.name, 2) + (p.content === 1 ? '' : ` of ${number(p.content)}${i.unit === 'each' ? '' : ` ${i.unit}`}`);
  const baseOf = (i: Schemas['ItemView']) => i.packs.find((p) => p.content === 1)?.name ?? i.packs[0]!.name;
  const reasons = $derived((settings?.reasons ?? []).filter((r) => !settings?.blind || r.kind !== 'Over'));
  function choose(name: string) {
    const reason = reasons.find((r) => r.name === name);
    draft.reason = reason?.name ?? '';
    draft.aside = reason?.kind ?? '';
    // Only good goods have a choice of places.
    if (draft.aside) draft.place = '';
    draft.changed();
  }
  const chosen = $derived(reasons.find((r) => r.name === draft.reason) ?? reasons.find((r) => r.kind === draft.aside));
  const left = $derived(item?.asks.includes('serial') && draft.reading?.line ? draft.reading.line.open : 0);
  function swap() {
    const ends = item?.rulingDate === 'Expiry' ? 'expiry' : 'bestBefore';
    [draft.production, draft[ends]] = [draft[ends], draft.production];
    draft.changed();
  }
</script>

{#snippet way(words: string, change: () => void)}
  <button
    type="button"
    class="button"
    onclick={() => {
      change();
      draft.changed();
    }}>{words}</button
  >
{/snippet}

{#if item}
  <form
    id="count"
    class="count"
    data-scans="line"
    onsubmit={(e) => {
      e.preventDefault();
      void takeByHand();
    }}
  >
    <div class="what">
      <GoodsPicture code={item.code} name={item.name} />
      <div class="grow">
        <h2 class="name">{item.name}</h2>
        <p class="quiet">
          <span class="c">{item.code}</span>
          {item.inspected ? '· is inspected' : ''}
          {item.storageClass === 'Ambient' ? '' : `· ${item.storageClass.toLowerCase()}`}
        </p>
        <GoodsMarks {item} />
      </div>
      {#if !draft.serials}<p class="quantity"><b class="c" id="quantity">{draft.words}</b> {draft.unit}</p>{/if}
    </div>
    <ProblemNote error={draft.error} />
    <div class="row ways">
      {#if code === 'dates-swapped'}<button type="button" class="button" onclick={swap}>Swap the two</button>{/if}
      {#if code === 'short-life' || code === 'past-date'}{@render way(
          'Count them aside',
          () => (draft.aside = 'ShortLife'),
        )}{/if}
      {#if code === 'over' || code === 'order-shut'}
        {#if session.may('SettleTally')}
          {@render way(
            code === 'over' ? 'Take all that is over' : 'Take it all the same',
            () => (draft.overAllowed = true),
          )}
        {:else}
          <button
            type="button"
            class="button"
            onclick={() =>
              void draft.askOver().then(
                (said) => scanLine.say(said),
                (problem) => (draft.error = problem),
              )}>Ask a supervisor, count on</button
          >
        {/if}
        {@render way('Set these aside', () => (draft.aside = code === 'over' ? 'Over' : 'NotOnOrder'))}
      {/if}
      {#if code === 'batch-swallows' && draft.reading?.instead}
        {@render way(`It is ${draft.reading.instead.sourceBatch}`, () => draft.splitBatch())}
        {@render way(`The batch really is ${draft.sourceBatch}`, () => undefined)}
      {/if}
      {#if code.startsWith('batch-') && code !== 'batch-swallows'}
        {@render way('Count them aside, the label is wrong', () => (draft.aside = 'LabelWrong'))}
      {/if}
      {#if code === 'early'}{@render way('Take it early', () => (draft.earlyAllowed = true))}{/if}
    </div>
    {#if draft.reading?.waitingFor}
      <p class="waiting">
        <Mark
          kind="today"
          word={settings?.blind ? 'waited for:' : `${number(draft.reading.waiting)} ${item.unit} waited for`}
        />
        {draft.reading.waitingFor}
      </p>
    {/if}
    {#if draft.reading?.history?.length}
      <p class="waiting">
        <Mark kind="open" word="here before" />
        {draft.reading.history.join(' ')}
      </p>
    {/if}
    <div class="amount">
      <button type="button" class="button step" onclick={() => step(-1)} aria-label="One less">−</button>
      <Field label="How many"
        ><input
          name="packs"
          bind:value={draft.packs}
          onfocus={(e) => e.currentTarget.select()}
          oninput={() => {
            draft.proposed = false;
            draft.changed();
          }}
          inputmode="decimal"
          class="c"
          required
        /></Field
      >
      <button type="button" class="button step" onclick={() => step(1)} aria-label="One more">+</button>
      <Field label="Pack" class="grow">
        <select name="pack" bind:value={draft.pack} onchange={() => draft.changed()}>
          {#each item.packs as p (p.name)}<option value={p.name}>{packWords(item, p)}</option>{/each}
          {#if item.measures.length}<optgroup label="measured in"
              >{#each item.measures as m (m)}<option value={m}>{m}</option>{/each}</optgroup
            >{/if}
        </select></Field
      >
    </div>
    {#if draft.proposed}<p class="proposed">
        <Mark kind="open" word="what is still open" /> Look whether that is what stands there.
      </p>{/if}
    {#each draft.more as m, i (i)}
      <div class="amount">
        <Field label="and how many"
          ><input
            name="more-packs"
            bind:value={m.packs}
            oninput={() => draft.changed()}
            inputmode="decimal"
            class="c"
          /></Field
        >
        <Field label="Pack" class="grow"
          ><select name="more-pack" bind:value={m.pack} onchange={() => draft.changed()}
            >{#each item.packs as p (p.name)}<option value={p.name}>{packWords(item, p)}</option>{/each}</select
          ></Field
        >
        <button
          type="button"
          class="button"
          onclick={() => {
            draft.more = draft.more.filter((x) => x !== m);
            draft.changed();
          }}>Away</button
        >
      </div>
    {/each}
    {#if item.packs.length > 1 && !item.asks.includes('serial') && !item.catchWeight && draft.more.length < item.packs.length - 1}
      <p>
        <button
          type="button"
          class="link"
          onclick={() => {
            draft.more = [...draft.more, { pack: baseOf(item), packs: '' }];
            draft.changed();
          }}>and another pack level: loose cases, pieces</button
        >
      </p>
    {/if}
    {#if left > 0 && !settings?.blind}<p class="countdown">
        <b class="c">{number(left)}</b> to go of these, with this one.
      </p>{/if}
    {#if settings}
      <PrintedText
        item={item.code}
        asks={item.asks}
        values={draft as unknown as Record<string, string>}
        {settings}
        ontake={(field, value) => {
          draft[field] = value;
          draft.changed();
        }}
      />
    {/if}
    <div class="asked">
      {#if item.asks.includes('sourceBatch')}
        <Field label="Source batch"
          ><input
            name="sourceBatch"
            bind:value={draft.sourceBatch}
            oninput={() => draft.changed()}
            class="c"
            autocomplete="off"
          /></Field
        >
      {/if}
      {#if item.needsBatch}
        <Field label="Our batch, by rule"
          ><input
            name="batch"
            bind:value={draft.batch}
            oninput={() => draft.changed()}
            class="c"
            autocomplete="off"
          /></Field
        >
      {/if}
      {#if item.asks.includes('production')}
        <GoodsDateField
          label="Production"
          name="production"
          bind:value={draft.production}
          bad={dates}
          {settings}
          placeholder="2026-03-10"
          oninput={() => draft.changed()}
        />
        {#if item.rulingDate === 'Expiry'}
          <GoodsDateField
            label="Expiry"
            name="expiry"
            bind:value={draft.expiry}
            bad={dates}
            {settings}
            placeholder={item.shelfLifeDays ? 'worked out' : ''}
            oninput={() => draft.changed()}
          />
        {:else}
          <GoodsDateField
            label="Best before"
            name="bestBefore"
            bind:value={draft.bestBefore}
            bad={dates}
            {settings}
            placeholder={item.shelfLifeDays ? 'worked out' : ''}
            oninput={() => draft.changed()}
          />
        {/if}
      {/if}
      {#if item.asks.includes('origin')}
        <Field label="Country of origin"
          ><input name="origin" bind:value={draft.origin} oninput={() => draft.changed()} autocomplete="off" /></Field
        >
      {/if}
      {#if item.asks.includes('serial')}
        <Field label="Serial number"
          ><input
            name="serial"
            bind:value={draft.serial}
            oninput={() => draft.changed()}
            class="c"
            autocomplete="off"
          /></Field
        >
        <Field label="Or several, as 0101 to 0150"
          ><input
            name="serials"
            bind:value={draft.serials}
            oninput={() => draft.changed()}
            class="c"
            autocomplete="off"
          /></Field
        >
      {/if}
      {#if item.catchWeight}<Weight {draft} />{/if}
      {#if settings?.places.length && !draft.aside && !item.inspected}
        <Field label="Where they are set down"
          ><select name="place" bind:value={draft.place} onchange={() => draft.changed()}
            ><option value="">the first place</option>{#each settings.places as p (p)}<option>{p}</option
              >{/each}</select
          ></Field
        >
      {/if}
      {#if draft.onto}
        <Field label="On unit"
          ><input name="onto" class="c" bind:value={draft.onto} oninput={() => draft.changed()} /></Field
        >
      {/if}
      <Attributes
        definitions={item.attributes}
        values={draft.attributes}
        onset={(name, value) => {
          draft.attributes[name] = value;
          draft.changed();
        }}
      />
    </div>
    {#if draft.reading?.line}
      <p class="line">
        For <b class="c">{draft.reading.line.order}</b>, line {draft.reading.line.line}. {draft.reading.lineReason}
        {#if (draft.reading.lines?.length ?? 0) > 1}
          <Field label="Another order line" class="inline">
            <select bind:value={draft.part} onchange={() => draft.changed()}>
              <option value={null}>as proposed</option>
              {#each draft.reading.lines ?? [] as l (l.part)}<option value={l.part}
                  >{l.order} line {l.line}, due {day(l.due)}, {number(l.open)} open</option
                >{/each}
            </select></Field
          >
        {/if}
      </p>
    {/if}
    <details open={draft.aside !== '' || draft.pictures.length > 0}>
      <summary>Something is wrong with these goods</summary>
      <div class="asked">
        <Field label="Count aside, as held">
          <select name="aside" value={chosen?.name ?? ''} onchange={(e) => choose(e.currentTarget.value)}>
            <option value="">no, they are good</option>
            {#each reasons as r (r.name)}<option value={r.name}>{r.name}</option>{/each}
          </select></Field
        >
        {#if draft.aside === 'NotOnOrder' || draft.aside === 'WrongItem' || draft.aside === 'OtherSite'}
          <Field label="Whose goods they are"
            ><select name="vendor" bind:value={draft.vendor} onchange={() => draft.changed()}
              ><option value="">the only vendor aboard</option>{#each site.data?.vendors ?? [] as v (v.code)}<option
                  value={v.code}>{v.name}</option
                >{/each}</select
            ></Field
          >
        {/if}
        <Field label={`What is wrong, in a sentence${chosen?.wantsSentence ? ' (wanted)' : ''}`}
          ><input name="note" bind:value={draft.note} oninput={() => draft.changed()} maxlength="500" /></Field
        >
        <Photographs
          arrival={draft.arrival}
          bind:pictures={draft.pictures}
          word={chosen?.wantsPicture ? 'Take a picture (wanted)' : 'Take a picture'}
        />
        <button
          type="button"
          class="button"
          onclick={() =>
            void draft.refuse().then(
              (said) => {
                scanLine.say(said);
                onrefused?.();
              },
              (problem) => (draft.error = problem),
            )}>Refuse them, back with the vehicle</button
        >
      </div>
    </details>
  </form>
{:else if draft.taken}
  <p class="good taken" id="taken">
    <b>{draft.taken.sentence}</b>
    {draft.taken.reason}
    {#if draft.taken.warning}
      <span class="warning">
        <Mark kind="disc" word="look" />
        {draft.taken.warning}
        {#if ontakeback && draft.lastAct}<button class="button" onclick={() => ontakeback(draft.lastAct)}
            >Take mine back</button
          >{/if}
      </span>
    {/if}
    {#each draft.taken.units as u (u)}
      <a class="link c" href="/api/{session.site}/door/label/{u}" target="_blank" rel="noopener">label {u.slice(-6)}</a>
      <a class="link" href="/api/{session.site}/door/label/{u}?size=a6" target="_blank" rel="noopener">A6</a>
      <a class="link" href="/api/{session.site}/door/label/{u}?size=4x6" target="_blank" rel="noopener">4 × 6 in</a
      >&nbsp;
    {/each}
  </p>
{/if}

<style>
  .count {
    background: var(--lit-faint);
    border-bottom: 2px solid var(--wall);
    border-top: 2px solid var(--wall);
    padding: 10px 18px 12px;
    display: flex;
    flex-direction: column;
    gap: 8px;
  }
  .what {
    display: flex;
    justify-content: space-between;
    gap: 14px;
    align-items: flex-start;
    flex-wrap: wrap;
  }
  .name {
    font-size: 20px;
  }
  .quantity {
    font-size: 22px;
    font-weight: 600;
    line-height: 1;
  }
  .quantity b {
    font-size: 48px;
    line-height: 1;
  }
  .amount {
    display: flex;
    gap: 8px;
    align-items: flex-end;
  }
  .amount :global(.field:first-of-type) {
    width: 110px;
  }
  .amount input {
    font-size: 20px;
    font-weight: 600;
  }
  .step {
    width: 52px;
    font-size: 22px;
    min-height: 36px;
    padding: 0;
  }
  .ways:not(:has(*)) {
    display: none;
  }
  .asked {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(124px, 1fr));
    gap: 10px;
    align-items: end;
  }
  :global(.field.inline) {
    display: inline-flex;
    min-width: 240px;
  }
  summary {
    cursor: pointer;
    min-height: 24px;
    text-decoration: underline;
    text-underline-offset: 3px;
  }
  .waiting {
    background: var(--lit);
    padding: 6px 10px;
    border-radius: 2px;
  }
  .taken {
    margin: 12px 18px;
  }
  .warning {
    display: block;
    margin-top: 6px;
  }
  .proposed,
  .countdown {
    font-size: 14px;
  }
  .countdown b {
    font-size: 26px;
  }
  @media (max-width: 700px) {
    .count {
      padding: 10px 14px 12px;
      border-top: 0;
    }
    .quantity b {
      font-size: 72px;
    }
    .asked {
      grid-template-columns: 1fr 1fr;
    }
    .step {
      width: 48px;
      min-height: 48px;
    }
    .amount {
      gap: 6px;
    }
    .amount :global(.field:first-of-type) {
      width: 84px;
    }
    .taken {
      margin: 10px 14px;
    }
  }
</style>
