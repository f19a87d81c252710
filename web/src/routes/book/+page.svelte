<script lang="ts">
  import AskInspection from '$lib/bench/AskInspection.svelte';
  import ConditionFields from '$lib/cage/ConditionFields.svelte';
  import HoldReason from '$lib/cage/HoldReason.svelte';
  import Field from '$lib/ui/Field.svelte';
  import { page } from '$app/state';
  import { act, ask, type Schemas } from '$lib/api/client';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import SourceBatch from '$lib/book/SourceBatch.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import StandingMark from '$lib/ui/StandingMark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { number, sscc, when } from '$lib/ui/format';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import List from '$lib/list/List.svelte';
  type Stock = Schemas['StockRow'];
  type Coming = NonNullable<typeof found.data>['inTransit'][number];
  let text = $state(page.url.searchParams.get('text') ?? '');
  // A link from elsewhere says what is looked for, and so does one that is followed while the page is open.
  $effect(() => void (text = page.url.searchParams.get('text') ?? ''));
  let before = $state<number | null>(null);
  let part = $state<Part>('work');
  let correcting = $state<number | null>(null);
  let picked = $state<Schemas['StockRow'] | null>(null);
  let doing = $state<'issue' | 'hold' | 'undo' | 'free'>('issue');
  let days = $state<number | null>(null);
  let wants = $state<Schemas['Wanted'][]>([]);
  let undoing = $state<Schemas['EntryRow'] | null>(null);
  let why = $state('');
  let because = $state('');
  let as = $state('');
  let quantity = $state('');
  let reference = $state('');
  let to = $state<'Customer' | 'Job'>('Customer');
  let error = $state<unknown>();
  let done = $state('');
  const found = createQuery(() => ({
    queryKey: ['book', 'shelf', 'find', session.site, text],
    queryFn: () => ask('/api/{site}/book/find', { text }),
    enabled: text.trim().length > 0,
    placeholderData: keepPreviousData,
  }));
  const standings = createQuery(() => ({
    queryKey: ['site', 'standings', session.site],
    queryFn: () => ask('/api/{site}/site/standings'),
    enabled: session.may('LayHold'),
  }));
  /** The standings that the site added: a hold may ask for one of them. */
  const chosen = $derived((standings.data?.rows ?? []).filter((s) => !s.isBuiltIn && !s.retired));
  const ledger = createQuery(() => ({
    queryKey: ['book', 'house', 'ledger', session.site, text, before],
    queryFn: () => ask('/api/{site}/book/ledger', { text, before }),
    placeholderData: keepPreviousData,
  }));
  $effect(() =>
    scanLine.use(async (scan) => {
      before = null;
      const reading = await ask('/api/{site}/scan', { text: scan });
      text = reading.code;
      return { words: reading.words, next: 'look at what was found', tone: reading.problem ? 'refused' : 'look' };
    }),
  );
  const kindWord = (kind: string) => kind.replace(/(?<=.)([A-Z])/g, ' $1').toLowerCase();
  /** Papers have a page of their own; goods and places are looked for here. */
  function pageOf(thing: Schemas['EntryLink']): string | undefined {
    switch (thing.kind) {
      case 'Order':
        return `/road/orders/${thing.text}`;
      case 'Arrival':
        return `/road/arrivals/${thing.text}`;
      case 'Receipt':
        return `/door/receipts/${thing.text}`;
      case 'Hold':
        return `/cage?hold=${thing.text}`;
      case 'Inspection':
        return `/bench/${thing.text}`;
      case 'Recall':
        return `/cage/recalls/${thing.text}`;
      default:
        return undefined;
    }
  }
  function find(what: string) {
    [text, before, picked, error, done, part] = [what, null, null, undefined, '', 'work'];
  }
  function pick(stock: Stock, what: typeof doing) {
    [picked, undoing, doing, part, error, done] = [stock, null, what, 'trail', undefined, ''];
    quantity = reference = why = as = because = '';
    // Who waits for them is whom they are most often for.
    if (what === 'issue' && stock.kept.length === 1) reference = stock.kept[0]!.reference;
  }
  function askUndo(entry: Schemas['EntryRow']) {
    [undoing, picked, doing, part, error, done, why] = [entry, null, 'undo', 'trail', undefined, '', ''];
  }
  async function undo(event: SubmitEvent) {
    event.preventDefault();
    if (!undoing) return;
    error = undefined;
    try {
      done = (await act('/api/{site}/book/undo', { entry: undoing.seq, reason: why })).sentence;
      [undoing, doing, why] = [null, 'issue', ''];
      await Promise.all([found.refetch(), ledger.refetch()]);
    } catch (problem) {
      error = problem;
    }
  }
  async function saidOf(sentence: string) {
    done = sentence;
    await Promise.all([found.refetch(), ledger.refetch()]);
  }
  async function run(event: SubmitEvent) {
    event.preventDefault();
    if (!picked) return;
    error = undefined;
    try {
      const answer =
        doing === 'issue'
          ? await act('/api/{site}/book/issue', { balance: picked.id, quantity, to, reference })
          : doing === 'free'
            ? await act('/api/{site}/book/keep-no-more', { balance: picked.id, reason: why })
            : await act('/api/{site}/cage/hold', {
                balance: picked.id,
                quantity: quantity || null,
                why,
                because: because || null,
                as: as || null,
                days,
                wants,
              });
      done = answer.sentence;
      picked = null;
      quantity = reference = why = because = '';
      [days, wants] = [null, []];
      await Promise.all([found.refetch(), ledger.refetch()]);
    } catch (problem) {
      error = problem;
    }
  }
</script>

{#snippet binCell(s: Stock)}<button class="link c nowrap bin" onclick={() => find(s.bin)}>{s.bin}</button>{/snippet}
{#snippet itemCell(s: Stock)}{s.item}{#if s.sscc}<br /><span class="c quiet">{sscc(s.sscc)}</span>{/if}{#if s.serial}<br
    /><span class="c quiet">{s.serial}</span>{/if}{/snippet}
{#snippet batchCell(s: Stock)}{#if s.batch}<button class="link c" onclick={() => find(s.batch!)}>{s.batch}</button
    >{/if}{#if s.sourceBatch}<br /><span class="quiet">from <span class="c">{s.sourceBatch}</span></span
    >{#if s.sourceBatchId && session.may('SettleTally')}
      <button
        class="link correct"
        onclick={() => {
          correcting = s.sourceBatchId!;
          part = 'trail';
        }}>Correct</button
      >{/if}{/if}{#if s.goodUntil}<br /><span class="quiet">until {s.goodUntil}</span>{/if}{/snippet}
{#snippet quantityCell(s: Stock)}{number(s.quantity)}
  {s.unit}{#if s.lots > 1}<br /><span class="quiet">{s.lots} lots</span>{/if}{/snippet}
{#snippet standingCell(s: Stock)}<StandingMark standing={s.standing} />
  {#each s.said as number (number)}
    <a class="link c by" href={number.startsWith('I') ? `/bench/${number}` : `/cage?hold=${number}`}>{number}</a>
  {/each}{#each s.kept as k (k.words)}<br /><span class="quiet">{number(k.quantity)} kept for {k.words}</span
    >{/each}{/snippet}
{#snippet actCell(s: Stock)}<span class="acts"
    >{#if s.mayIssue && session.may('Issue')}<button class="link" onclick={() => pick(s, 'issue')}>Issue</button
      >{/if}{#if session.may('LayHold')}<button class="link" onclick={() => pick(s, 'hold')}>Hold</button
      >{/if}{#if s.kept.length > 0 && session.may('KeepOrders')}<button class="link" onclick={() => pick(s, 'free')}
        >Keep no more</button
      >{/if}
    <AskInspection balance={s.id} word="Inspect" ondone={(sentence) => void saidOf(sentence)} /></span
  >{/snippet}
{#snippet comingCell(t: Coming)}<a class="link c" href="/road/arrivals/{t.arrival}">{t.arrival}</a>{#if t.container}<br
    /><span class="c quiet">{t.container}</span>{/if}{/snippet}
{#snippet comingItem(t: Coming)}{t.item}{/snippet}
{#snippet comingOrder(t: Coming)}<span class="c">{t.order} · {t.line}</span>{/snippet}
{#snippet comingQuantity(t: Coming)}{number(t.quantity)} {t.unit}{/snippet}
{#snippet comingWhen(t: Coming)}{when(t.expected)}{/snippet}

<svelte:head><title>Book · Mud Room</title></svelte:head>
<Frame
  queueTitle="Find"
  workTitle="Ledger"
  bind:part
  trailTitle={correcting ? 'Correct' : { undo: 'Undo', hold: 'Hold', free: 'Kept', issue: 'Issue' }[doing]}
>
  {#snippet queue()}
    <div class="pad find">
      <Field label="Item, batch, serial, unit, bin, or number of a paper"
        ><input name="find" bind:value={text} oninput={() => (before = null)} autocomplete="off" /></Field
      >
      {#if text.trim()}
        {#each found.data?.sums ?? [] as s (s.item)}
          <p class="sum">
            <b>{s.item}</b>, {number(s.available)}
            {s.unit} free to use{#if s.kept > 0}, {number(s.kept)} kept for who waits{/if}<br />
            {#each s.stands as at (at.standing.word)}<span class="stands"
                >{number(at.quantity)} <StandingMark standing={at.standing} /></span
              >{/each}{#if s.inTransit}<span class="stands">{number(s.inTransit)} in transit</span>{/if}
          </p>
        {/each}
        {#each found.data?.things ?? [] as thing (thing.kind + thing.code)}
          <p>
            <span class="quiet">{thing.kind}</span>
            {#if thing.link}<a class="link c" href={thing.link}>{thing.code}</a>{:else}<b class="c">{thing.code}</b
              >{/if}<br />{thing.words}
          </p>
        {/each}
        {#if found.data && found.data.stockTotal === 0 && found.data.things.length === 0}<p class="quiet">
            No stock fits {text}.
          </p>{/if}
      {:else}
        <p class="quiet">Scan anything, or type a part of a name.</p>
        <p><a class="link" href="/book/out">Messages out</a></p>
      {/if}
    </div>
  {/snippet}
  {#snippet work()}
    {#if done}<p class="good note">{done}</p>{/if}
    {#if text.trim() && found.data && found.data.stock.length > 0}
      <div class="head">
        <h1>Stock</h1>
      </div>
      <List
        name="stock"
        label="Stock"
        counted={['place', 'places']}
        rows={found.data.stock}
        key={(r) => r.id}
        isOn={(r) => picked?.id === r.id}
        file="stock.csv"
        empty="Nothing stands anywhere."
        columns={[
          { key: 'bin', word: 'Bin', cell: binCell, fixed: true, value: (r) => r.bin },
          { key: 'item', word: 'Item', cell: itemCell, fixed: true, value: (r) => r.item },
          { key: 'batch', word: 'Batch', cell: batchCell, value: (r) => r.batch },
          { key: 'quantity', word: 'Quantity', cell: quantityCell, number: true, value: (r) => r.quantity },
          { key: 'standing', word: 'Standing', cell: standingCell, value: (r) => r.standing.word },
          ...(session.may('Issue') || session.may('LayHold') || session.may('AskInspection')
            ? [{ key: 'act', word: 'Do', cell: actCell, fixed: true }]
            : []),
        ]}
      />
    {/if}
    {#if text.trim() && found.data && found.data.inTransit.length > 0}
      <div class="head"><h1>In transit <span class="quiet">ours, on the way, not to be used yet</span></h1></div>
      <List
        name="transit"
        label="In transit"
        counted={['line', 'lines']}
        rows={found.data.inTransit}
        key={(t) => t.arrival + t.order + t.line}
        empty="Nothing of ours is on the way."
        columns={[
          { key: 'arrival', word: 'Arrival', cell: comingCell, fixed: true, value: (t) => t.arrival },
          { key: 'item', word: 'Item', cell: comingItem, value: (t) => t.item },
          { key: 'order', word: 'Order', cell: comingOrder, value: (t) => `${t.order} · ${t.line}` },
          { key: 'quantity', word: 'Quantity', cell: comingQuantity, number: true, value: (t) => t.quantity },
          { key: 'expected', word: 'Expected', cell: comingWhen, value: (t) => t.expected },
        ]}
      />
    {/if}
    <div class="head"><h1>What happened{text.trim() ? ` with ${text}` : ''}</h1></div>
    <ul class="entries">
      {#each ledger.data?.rows ?? [] as e (e.seq)}
        <li>
          <span class="c quiet">{when(e.at)}</span>
          <span
            >{e.sentence}{#if e.from && e.to}<br /><span class="quiet"
                >{number(e.quantity ?? 0)}
                {e.unit}: {e.from} → {e.to}{e.undoes ? `, undoes entry ${e.undoes}` : ''}</span
              >{/if}{#if e.about.length > 0}<br /><span class="about">
                {#each e.about as thing (thing.kind + thing.text)}
                  {@const href = pageOf(thing)}
                  {#if href}<a class="link c" {href}>{thing.text}</a>{:else}<button
                      class="link c"
                      title={`What happened with ${kindWord(thing.kind)} ${thing.text}`}
                      onclick={() => find(thing.text)}>{thing.kind === 'Unit' ? sscc(thing.text) : thing.text}</button
                    >{/if}
                {/each}</span
              >{/if}</span
          >
          <span class="quiet"
            >{e.person}<br /><span class="c">{e.device}</span>{#if e.canUndo}<br /><button
                class="link"
                aria-label="Undo entry {e.seq}"
                onclick={() => askUndo(e)}>Undo</button
              >{/if}</span
          >
          <span class="c quiet" title="hash of the entry">{e.seq}<br />{e.hash}</span>
        </li>
      {:else}
        <li class="empty">{ledger.isPending ? 'One moment.' : 'Nothing happened yet that fits.'}</li>
      {/each}
    </ul>
    {#if ledger.data?.more}<div class="pad row">
        <button class="button" onclick={() => (before = ledger.data?.rows.at(-1)?.seq ?? null)}>Earlier</button
        >{#if before}<button class="button" onclick={() => (before = null)}>Newest</button>{/if}
      </div>{/if}
  {/snippet}
  {#snippet trail()}
    {#if correcting}
      {#key correcting}
        <SourceBatch
          id={correcting}
          onclose={(words) => {
            correcting = null;
            if (words) done = words;
            void Promise.all([found.refetch(), ledger.refetch()]);
          }}
        />
      {/key}
    {/if}
    {#if undoing}
      <section class="trail-part">
        <h2>Undo</h2>
        <form onsubmit={undo} class="issue">
          <p>{undoing.sentence}</p>
          <p class="quiet">
            Everything that was done with it is turned round by entries of their own; the book keeps both. It is refused
            where the goods have gone further since.
          </p>
          <Field label="Why"><input name="undo-why" bind:value={why} maxlength="200" required /></Field>
          <ProblemNote {error} />
          <div class="row">
            <button class="button go">Undo</button><button
              type="button"
              class="button"
              onclick={() => ([undoing, doing] = [null, 'issue'])}>Leave it</button
            >
          </div>
        </form>
      </section>
    {/if}
    <section class="trail-part" hidden={undoing !== null}>
      <h2>{doing === 'hold' ? 'Hold goods' : doing === 'free' ? 'Kept for nobody' : 'Issue out of a bin'}</h2>
      {#if picked}
        <form onsubmit={run} class="issue">
          <p>
            <b>{picked.item}</b>
            {doing === 'issue' ? 'out of' : 'in'} <b class="c">{picked.bin}</b>, {number(picked.quantity)}
            {picked.unit} there
          </p>
          {#each picked.kept as k (k.words)}<p>
              {number(k.quantity)} kept for {k.words}{#if doing === 'issue'}
                <button type="button" class="link correct" onclick={() => (reference = k.reference)}>For them</button
                >{/if}
            </p>{/each}
          {#if doing !== 'free'}
            <Field label={`How many ${picked.unit}`}
              ><input
                name="issue-quantity"
                bind:value={quantity}
                inputmode="decimal"
                class="c"
                placeholder={doing === 'hold' ? String(picked.quantity) : undefined}
              /></Field
            >
          {/if}
          {#if doing === 'issue'}
            <Field label="For"
              ><select bind:value={to}
                ><option value="Customer">a customer's order</option><option value="Job">a job</option></select
              ></Field
            >
            <Field label="Its number"><input name="reference" bind:value={reference} maxlength="40" class="c" /></Field>
          {:else if doing === 'free'}
            <p class="quiet">Anybody gets them then. Do this where nobody waits any more; the order stays as it is.</p>
            <Field label="Why"><input name="free-why" bind:value={why} maxlength="200" required /></Field>
          {:else}
            <HoldReason
              bind:because
              bind:why
              hint={picked.said.length > 0 ? `Besides ${picked.said.join(', ')}.` : undefined}
            />
            <Field label="Not free before so many days"
              ><input name="hold-days" class="c" type="number" min="1" max="3650" bind:value={days} /></Field
            >
            <ConditionFields bind:wants />
            {#if chosen.length > 0}<Field label="They are then"
                ><select name="hold-as" bind:value={as}
                  ><option value="">held</option>{#each chosen as s (s.id)}<option value={s.word}>{s.word}</option
                    >{/each}</select
                ></Field
              >{/if}
          {/if}
          <ProblemNote {error} />
          <div class="row">
            <button class="button go">{{ hold: 'Hold', free: 'Keep no more', issue: 'Issue', undo: '' }[doing]}</button
            ><button type="button" class="button" onclick={() => (picked = null)}>Leave it</button>
          </div>
        </form>
      {:else}
        <p class="quiet">
          Find stock, then press Issue beside it. Only usable goods leave. Hold keeps goods that look wrong where nobody
          takes them.
        </p>
      {/if}
    </section>
  {/snippet}
</Frame>

<style>
  .find,
  .issue {
    display: flex;
    flex-direction: column;
    gap: 10px;
  }
  .correct {
    margin-left: 8px;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 12px;
  }
  .by {
    margin-right: 6px;
    font-size: 13px;
  }
  .about {
    display: inline-flex;
    flex-wrap: wrap;
    gap: 0 10px;
    font-size: 13px;
  }
  .bin {
    font-weight: 650;
  }
  .stands {
    display: inline-flex;
    gap: 5px;
    margin-right: 12px;
  }
  .sum {
    border-left: 3px solid var(--usable);
    padding-left: 8px;
  }
  .entries li {
    display: grid;
    grid-template-columns: 96px minmax(0, 1fr) 130px 116px;
    gap: 12px;
    padding: 6px 18px;
    border-bottom: 1px solid var(--stone-2);
    font-size: 14px;
  }
  .note {
    margin: 10px 18px;
  }
  @media (max-width: 1000px) {
    .entries li {
      grid-template-columns: 84px minmax(0, 1fr);
    }
    .entries li > :nth-child(n + 3) {
      grid-column: 2;
    }
  }
</style>
