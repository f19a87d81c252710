<script lang="ts">
  import { page } from '$app/state';
  import { act, ask, type Schemas } from '$lib/api/client';
  import CloseDialog from '$lib/door/CloseDialog.svelte';
  import CountForm from '$lib/door/CountForm.svelte';
  import KeptScan from '$lib/door/KeptScan.svelte';
  import NotAtDoor from '$lib/door/NotAtDoor.svelte';
  import DoorQueue from '$lib/door/DoorQueue.svelte';
  import Photographs from '$lib/door/Photographs.svelte';
  import Questions from '$lib/door/Questions.svelte';
  import SecondCounts from '$lib/door/SecondCounts.svelte';
  import Unknown from '$lib/door/Unknown.svelte';
  import { waiting } from '$lib/door/waiting.svelte';
  import { Draft } from '$lib/door/draft.svelte';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import LoadBar from '$lib/ui/LoadBar.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { day, number, time } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';

  const which = $derived(page.params['arrival'] ?? '');
  const draft = $derived(new Draft(which));
  const tally = createQuery(() => ({
    queryKey: ['tally', `arrival:${which}`, session.site],
    queryFn: () => ask('/api/{site}/door/tally/{number}', { number: which }),
  }));
  // In a dead spot: the tally as it was last seen on this device.
  let kept = $state<Schemas['TallyAnswer']>();
  $effect(() => {
    const arrival = which;
    void waiting.keptArrival(arrival).then((k) => (kept = k?.tally));
  });
  let keptAt = '';
  $effect(() => {
    const seen = tally.data;
    if (!seen || keptAt === `${which} ${seen.countsInAll}` || seen.card.state !== 'AtDoor') return;
    keptAt = `${which} ${seen.countsInAll}`;
    void waiting.keepArrival(which, seen).catch(() => undefined);
  });
  const t = $derived(tally.data ?? kept);
  const keptScan = $derived(
    waiting.reachable ? undefined : waiting.onTheirWay.findLast((w) => w.arrival === which && w.text && w.code?.asks),
  );
  const closed = $derived(t?.card.state !== 'AtDoor');
  const blind = $derived(t?.settings.blind ?? false);
  // Who counts an item a second time is not shown what the first count came to.
  const again = $derived(t?.secondCounts.filter((s) => s.state === 'Waiting' && !s.mine).map((s) => s.item) ?? []);
  let printer = $state('');
  const orders = $derived([...new Set(t?.manifest.map((m) => m.order) ?? [])]);
  const unsettled = $derived(t?.manifest.filter((m) => m.counted < m.expected).length ?? 0);
  let part = $state<Part>('work');
  let closing = $state(false);
  let nameless = $state(false);
  let reason = $state('');
  let said = $state('');
  const openQuestions = $derived(t?.questions.filter((q) => q.open).length ?? 0);
  let error = $state<unknown>();

  $effect(() => {
    const here = draft;
    return scanLine.use(async (text) => {
      part = 'work';
      said = '';
      const heard = await here.scan(text);
      // Not waited for: the next scan must not stand behind the list.
      if (heard.tone === 'taken' && waiting.reachable) void tally.refetch();
      return heard;
    });
  });
  $effect(() => {
    if (draft.taken) void tally.refetch();
  });

  let notOpened = $state<unknown>();
  async function reopen() {
    notOpened = undefined;
    try {
      said = (await act('/api/{site}/door/reopen', { arrival: which, reason })).sentence;
      reason = '';
      await tally.refetch();
    } catch (problem) {
      notOpened = problem;
    }
  }

  /** Prints the label of a count's unit, or one for each of its packs. */
  async function print(count: Schemas['CountRow']) {
    error = undefined;
    try {
      const on = { printer: printer || t!.settings.printers[0]!, size: 'a6' };
      said = (
        count.sscc
          ? await act('/api/{site}/door/prints/unit', { sscc: count.sscc, ...on })
          : await act('/api/{site}/door/prints/packs', { count: count.act, pack: count.pack!, ...on })
      ).sentence;
    } catch (problem) {
      error = problem;
    }
  }

  /** What a hand on the keyboard does most often at a tally. */
  function onkeydown(event: KeyboardEvent) {
    if (!event.altKey || event.ctrlKey || event.metaKey) return;
    const key = event.key.toLowerCase();
    if (key === 't') (document.getElementById('count') as HTMLFormElement | null)?.requestSubmit();
    else if (key === 'z') void takeLastBack();
    else return;
    event.preventDefault();
  }

  async function takeLastBack() {
    const last = t?.counts.find((c) => c.canTakeBack && c.person === session.state?.name);
    if (!last) scanLine.say({ words: 'You have no count here that can be taken back.', tone: 'refused' });
    else if (await takeBack(last.act))
      scanLine.say({ words: `Taken back: ${last.item}, ${last.inPacks || number(last.quantity)}.`, tone: 'taken' });
    else scanLine.say({ words: 'It could not be taken back.', next: 'look at the trail', tone: 'refused' });
  }

  /** False when it was refused. */
  async function takeBack(count: string) {
    error = undefined;
    try {
      await act('/api/{site}/door/take-back', { arrival: which, count, reason: null });
      if (draft.lastAct === count) draft.taken = null;
      await tally.refetch();
      return true;
    } catch (problem) {
      error = problem;
      return false;
    }
  }
</script>

<svelte:window {onkeydown} />
<svelte:head><title>{which} · Door · Mud Room</title></svelte:head>
<Frame
  queueTitle="At the doors"
  workTitle={draft.reading?.item?.name ?? which}
  trailCount={blind ? '' : (t?.countsInAll ?? '')}
  bind:part
>
  {#snippet queue()}<DoorQueue current={which} />{/snippet}
  {#snippet work()}
    {#if tally.error && !t}<div class="pad"><ProblemNote error={tally.error} /></div>{/if}
    {#if t}
      <div class="head">
        <div class="row">
          <h1 class="grow"><span class="c">{t.card.number}</span> {t.card.vendors.join(', ')}</h1>
          {#if !blind}<span class="c percent">{Math.round(t.card.share * 100)} %</span>{/if}
        </div>
        <p class="quiet">
          {t.card.door && (!closed || t.card.state === 'CountedIn') ? `Door ${t.card.door} ·` : ''}
          {t.card.vehicle}{t.card.container ? ` ${t.card.container}` : ''}
          {t.seal ? `· seal ${t.seal}` : ''}
          {blind ? '· counted blind' : `· ${t.card.settled} of ${t.card.lines} lines complete`}
          {#if !closed}<button class="link nameless" onclick={() => (nameless = true)}>Goods without a name</button
            >{/if}
        </p>
        {#if !blind}<LoadBar
            share={t.card.share}
            notches={t.card.notches}
            open={!closed}
            ribbed={t.card.vehicle === 'container'}
            label="{Math.round(t.card.share * 100)} % counted"
            height={18}
          />{/if}
        {#if t.receipts.length > 0}<p>
            <Mark kind="done" word={closed ? 'counted in' : 'posted in part'} /> receipts
            {#each t.receipts as r (r)}<a class="link c" href="/door/receipts/{r}">{r}</a>&nbsp;{/each}
          </p>{/if}
      </div>
      {#if said}<p class="good note" role="status">{said}</p>{/if}
      {#if draft.unknown || nameless}
        <Unknown
          arrival={which}
          code={draft.unknown}
          onclose={(words) => {
            draft.unknown = '';
            nameless = false;
            draft.taken = null;
            if (words) scanLine.say({ words, next: 'scan the next label', tone: 'taken' });
            void tally.refetch();
          }}
        />
      {/if}
      {#if draft.several}
        <div class="waits row">
          <b class="grow">Which is it?</b>
          {#each draft.several.items as code (code)}<button class="button" onclick={() => void scanLine.scan(code)}
              >{code}</button
            >{/each}
        </div>
      {/if}
      {#if keptScan}{#key keptScan.seq}<KeptScan entry={keptScan} reasons={t.settings.reasons} />{/key}{/if}
      <CountForm
        {draft}
        settings={t.settings}
        ontakeback={(act) => void takeBack(act)}
        onrefused={() => void tally.refetch()}
      />
      {#if blind}
        <ul class="lines">
          {#each t.manifest as m (m.id)}
            <li class="unseen" class:hand={draft.reading?.item?.code === m.itemCode}>
              <span class="item"
                ><b>{m.itemName}</b>{#if m.waitingFor}<br /><span class="quiet">waited for: {m.waitingFor}</span
                  >{/if}</span
              >
              {#if again.includes(m.itemCode)}<span class="sum">to be counted again</span>
              {:else}<span class="c sum"><b>{number(m.counted)}</b> {m.unit} counted</span>{/if}
            </li>
          {/each}
        </ul>
      {:else}
        {#each orders as order (order)}
          {@const rows = t.manifest.filter((m) => m.order === order)}
          <h2 class="order">
            <span><span class="c">{order}</span> {rows[0]?.vendor}</span><span class="quiet"
              >due {day(rows[0]?.due)}</span
            >
          </h2>
          <ul class="lines">
            {#each rows as m (m.id)}
              {@const off = t.discrepancies.filter((d) => d.part === m.partId)}
              {@const by = t.lastBy[String(m.partId)]}
              <li class:hand={draft.reading?.line?.part === m.partId}>
                <span class="c no">{m.line}</span>
                <span class="item"
                  ><b>{m.itemName}</b>{#if m.waiting > 0}<br /><span class="quiet"
                      >{number(m.waiting)} {m.unit} waited for: {m.waitingFor}</span
                    >{/if}</span
                >
                <span class="c sum"><b>{number(m.counted)}</b> / {number(m.expected)} {m.unit}</span>
                <span class="bar"
                  ><LoadBar
                    share={m.expected ? m.counted / m.expected : 1}
                    open={m.counted < m.expected && !closed}
                    notches={off.map((d) => ({
                      kind: d.kind === 'Over' ? 'over' : d.kind === 'Short' ? 'short' : 'damaged',
                      at: d.kind === 'Over' || d.kind === 'Short' ? 0.9 : 0.75,
                    }))}
                    label="{number(m.counted)} of {number(m.expected)}"
                    height={11}
                  /></span
                >
                <span class="state">
                  {#if off.length > 0}<Mark kind="disc" word="{number(off[0]!.quantity)} {off[0]!.word}" />
                  {:else if m.counted > m.expected}<Mark kind="disc" word="{number(m.counted - m.expected)} over" />
                  {:else if m.counted === m.expected}<Mark kind="done" word="complete" />
                  {:else if m.counted === 0}<Mark kind="open" word="not looked at" />
                  {:else if by}<span class="quiet">{by.split(' ')[0]} counts</span>{/if}
                </span>
              </li>
            {/each}
          </ul>
        {/each}
      {/if}
    {/if}
  {/snippet}
  {#snippet foot()}
    {#if draft.reading?.item}
      <div class="take">
        <button class="button go big" id="take" form="count" disabled={draft.busy || closed}>
          Take {draft.words}
          {draft.serials ? '' : draft.reading.item.unit}{draft.aside ? ', aside' : ''}
        </button>
        <button
          class="button"
          onclick={() => {
            draft.clear();
            scanLine.say({ words: 'Left, nothing was counted.' });
          }}>Leave it</button
        >
      </div>
    {:else if t && !closed && blind}
      <p class="quiet">A supervisor closes this tally.</p>
    {:else if t && !closed && session.may('CloseTally')}
      <div class="row">
        <span class="grow"
          >{#if unsettled > 0}<b>{unsettled} of {t.card.lines} lines are not complete.</b>{:else}<Mark
              kind="done"
              word="every line is complete"
            />{/if}</span
        >
        <button
          class="button"
          class:go={unsettled === 0 && !draft.reading}
          onclick={() => (closing = true)}
          id="close-tally">Close the tally</button
        >
      </div>
    {:else if t && closed && t.card.state === 'CountedIn'}
      <ProblemNote error={notOpened} />
      <form
        class="row"
        onsubmit={(e) => {
          e.preventDefault();
          void reopen();
        }}
      >
        <span class="grow quiet">This tally is closed.</span>
        {#if session.may('SettleTally')}
          <label class="field"
            ><span class="sr-only">Why it is opened again</span><input
              name="reopen"
              bind:value={reason}
              placeholder="why it is opened again"
              maxlength="200"
              required
            /></label
          >
          <button class="button">Open it again</button>
        {/if}
      </form>
    {:else if t && closed}
      <NotAtDoor
        card={t.card}
        ondone={(words) => {
          said = words;
          void tally.refetch();
        }}
      />
    {/if}
  {/snippet}
  {#snippet trail()}
    {#if draft.reading?.lineReason}
      <section class="trail-part">
        <h2>Why {draft.reading.line?.order}</h2>
        <p>{draft.reading.lineReason}</p>
      </section>
    {/if}
    {#if t && t.questions.length > 0}
      <section class="trail-part">
        <h2>Questions <span>{openQuestions > 0 ? `${openQuestions} open` : ''}</span></h2>
        <Questions
          questions={t.questions}
          aboard={t.manifest.map((m) => m.itemCode)}
          ondone={() => void tally.refetch()}
        />
      </section>
    {/if}
    {#if t && t.secondCounts.length > 0}
      <section class="trail-part">
        <h2>Second counts <span>{t.secondCounts.length}</span></h2>
        <SecondCounts rows={t.secondCounts} ondone={() => void tally.refetch()} />
      </section>
    {/if}
    {#if t && t.advisedLeft.length > 0 && !closed}
      <section class="trail-part">
        <h2>Announced units not scanned yet <span>{t.advisedLeft.length}</span></h2>
        {#each t.advisedLeft as u (u.sscc)}<p>
            <span class="c">{u.sscc}</span><br /><span class="quiet">{u.holds}</span>
          </p>{/each}
      </section>
    {/if}
    {#if t && t.discrepancies.length > 0}
      <section class="trail-part">
        <h2>Over, short, damaged <span>{t.discrepancies.length}</span></h2>
        {#each t.discrepancies as d, i (i)}<p>
            <Mark kind="disc" word="{number(d.quantity)} {d.unit}" />
            {d.item}: {d.sentence}
          </p>{/each}
      </section>
    {/if}
    {#if t && (t.pictures.length > 0 || (!closed && session.may('Attach')))}
      <section class="trail-part">
        <h2>Pictures <span>{t.pictures.length || ''}</span></h2>
        {#if session.may('Attach') && !closed}<Photographs
            arrival={which}
            pictures={blind ? [] : t.pictures.map((p) => ({ id: p.id, name: `${p.name}, ${p.item ?? 'the arrival'}` }))}
            word="Picture of the arrival"
          />
        {:else}<Photographs arrival={which} pictures={t.pictures} word="One more picture" />{/if}
      </section>
    {/if}
    {#if t}
      <section class="trail-part">
        <h2>To print</h2>
        <p class="row">
          <a class="link" href="/api/{session.site}/door/tally-sheet/{which}" target="_blank" rel="noopener"
            >tally sheet</a
          >
          {#if !closed && session.may('Tally')}<a class="link" href="/door/{which}/paper">type a sheet in</a>{/if}
          <a class="link" href="/door/prints">labels</a>
          <a class="link" href="/api/{session.site}/door/claim/{which}" target="_blank" rel="noopener">claim</a>
          <a class="link" href="/api/{session.site}/door/claim/{which}/csv" download>claim as CSV</a>
          {#each t.receipts as r (r)}<a
              class="link c"
              href="/api/{session.site}/door/receipt/{r}"
              target="_blank"
              rel="noopener">{r}</a
            >{/each}
        </p>
      </section>
    {/if}
    <section class="trail-part">
      <h2>
        What happened <span class="quiet">{blind ? '' : `${t?.countsInAll ?? 0} counts`}</span>
      </h2>
      {#if t && t.settings.printers.length > 1}
        <label class="field printer"
          ><span>Labels come from</span><select
            value={printer || t.settings.printers[0]}
            onchange={(e) => (printer = e.currentTarget.value)}
            >{#each t.settings.printers as p (p)}<option>{p}</option>{/each}</select
          ></label
        >
      {/if}
      <ProblemNote {error} />
      <ul class="history">
        {#each t?.counts ?? [] as c, i (c.act + i)}
          <li class:back={c.takenBack}>
            <time>{time(c.at)}</time>
            <span>
              {c.person.split(' ')[0]}: {c.item}, {c.inPacks || `${number(c.quantity)} ${c.unit}`}{c.batch
                ? `, batch ${c.batch}`
                : ''}{c.aside ? ', aside' : ''}
              {#if c.takenBack || !(c.sscc || c.pack)}{:else if t?.settings.printers.length}<button
                  class="link"
                  onclick={() => print(c)}>{c.sscc ? 'Print its label' : 'Print labels'}</button
                >{:else}<a
                  class="link"
                  href={c.sscc
                    ? `/api/${session.site}/door/label/${c.sscc}?size=a6`
                    : `/api/${session.site}/door/count-label/${c.act}?pack=${encodeURIComponent(c.pack!)}&size=a6`}
                  target="_blank"
                  rel="noopener">{c.sscc ? 'Label' : 'Labels'}</a
                >{/if}
              {#if c.takenBack}(taken back)
              {:else if c.canTakeBack && session.may('Tally')}<button class="link" onclick={() => takeBack(c.act)}
                  >Take back</button
                >{/if}
            </span>
          </li>
        {:else}
          <li><span></span><span>Nothing is counted yet.{closed ? '' : ' Scan a label.'}</span></li>
        {/each}
      </ul>
    </section>
  {/snippet}
</Frame>
{#if t}<CloseDialog bind:open={closing} tally={t} />{/if}

<style>
  .take {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 10px;
  }
  .note {
    margin: 10px 18px;
  }
  .nameless {
    margin-left: 6px;
  }
  .printer {
    margin-bottom: 8px;
  }
  .percent {
    font-size: 20px;
    font-weight: 600;
  }
  .order {
    display: flex;
    justify-content: space-between;
    background: var(--stone-1);
    padding: 6px 18px;
    border-top: 1px solid var(--stone-2);
  }
  .lines li {
    display: grid;
    grid-template-columns: 22px minmax(0, 1.2fr) 178px minmax(70px, 1fr) 128px;
    gap: 10px;
    align-items: center;
    padding: 5px 18px;
    border-top: 1px solid var(--stone-2);
    min-height: 38px;
  }
  .lines .hand {
    background: var(--lit-faint);
  }
  .lines .unseen {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .sum {
    text-align: right;
    white-space: nowrap;
  }
  .back {
    text-decoration: line-through;
    color: var(--peat-3);
  }
  @media (max-width: 1000px) {
    .lines li {
      grid-template-columns: 18px minmax(0, 1fr) auto;
    }
    .bar,
    .state {
      grid-column: 2/-1;
    }
    .bar {
      display: none;
    }
  }
</style>
