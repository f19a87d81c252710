<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import { untrack } from 'svelte';
  import { page } from '$app/state';
  import { act, ask, Problem, type Schemas } from '$lib/api/client';
  import CloseDialog from '$lib/door/CloseDialog.svelte';
  import CountForm from '$lib/door/CountForm.svelte';
  import CountTrail from '$lib/door/CountTrail.svelte';
  import DeliveryNotes from '$lib/door/DeliveryNotes.svelte';
  import KeptScan from '$lib/door/KeptScan.svelte';
  import NotAtDoor from '$lib/door/NotAtDoor.svelte';
  import DoorQueue from '$lib/door/DoorQueue.svelte';
  import Photographs from '$lib/door/Photographs.svelte';
  import Questions from '$lib/door/Questions.svelte';
  import SecondCounts from '$lib/door/SecondCounts.svelte';
  import TallyLines from '$lib/door/TallyLines.svelte';
  import UnannouncedReturn from '$lib/door/UnannouncedReturn.svelte';
  import Unknown from '$lib/door/Unknown.svelte';
  import WhoCounted from '$lib/door/WhoCounted.svelte';
  import { waiting, type Waiting } from '$lib/door/waiting.svelte';
  import { Draft } from '$lib/door/draft.svelte';
  import { journal } from '$lib/journal.svelte';
  import { scanLine, type Said, type Scan } from '$lib/scan.svelte';
  import { scanner } from '$lib/scanner.svelte';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import LoadBar from '$lib/ui/LoadBar.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { number, useDecimalComma } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';

  const which = $derived(page.params['arrival'] ?? '');
  // What is in hand belongs to who scanned it: another person begins with an empty hand, and finds their own again.
  // The same person goes on with the same hand, however often the session is looked up.
  const person = $derived(session.state?.personId);
  const draft = $derived.by(() => {
    void person;
    const arrival = which;
    return untrack(() => new Draft(arrival, () => settings));
  });
  const tally = createQuery(() => ({
    queryKey: ['tally', `arrival:${which}`, session.site],
    queryFn: () => ask('/api/{site}/door/tally/{number}', { number: which }),
  }));
  // In a dead spot: the tally as it was last seen on this device.
  let kept = $state<Schemas['TallyAnswer']>();
  $effect(() => {
    const arrival = which;
    void person;
    void waiting.keptArrival(arrival).then((k) => (kept = k?.tally));
  });
  let keptAt = '';
  $effect(() => {
    const seen = tally.data;
    const at = `${which} ${person} ${seen?.countsInAll}`;
    if (!seen || keptAt === at || seen.card.state !== 'AtDoor') return;
    keptAt = at;
    void waiting.keepArrival(which, seen).catch(() => undefined);
  });
  const t = $derived(tally.data ?? kept);
  let settings = $state<Schemas['CountSettings']>();
  $effect(() => {
    settings = t?.settings;
    if (!settings) return;
    scanner.learn(settings.scanner);
    useDecimalComma(settings.decimalComma);
  });
  const keptScan = $derived(
    waiting.reachable ? undefined : waiting.onTheirWay.findLast((w) => w.arrival === which && w.text && w.code?.asks),
  );
  const closed = $derived(t?.card.state !== 'AtDoor');
  const blind = $derived(t?.settings.blind ?? false);
  const unsettled = $derived(t?.manifest.filter((m) => m.counted < m.expected).length ?? 0);
  let part = $state<Part>('work');
  let closing = $state(false);
  let nameless = $state(false);
  let reason = $state('');
  let said = $state('');
  const openQuestions = $derived(t?.questions.filter((q) => q.open).length ?? 0);

  $effect(() => {
    const here = draft;
    const restore = async () => {
      if (await here.restore())
        scanLine.say({ words: 'Still in hand from before.', next: 'take it, leave it, or scan on' });
      const entry = waiting.cameBack.find((w) => String(w.seq) === page.url.searchParams.get('settle'));
      if (entry) await settle(here, entry);
    };
    const take = async (text: string, scan: Scan) => {
      part = 'work';
      said = '';
      const heard = await here.scan(text, scan);
      // Not waited for: the next scan must not stand behind the list.
      if (heard.tone === 'taken' && waiting.reachable) void tally.refetch();
      void journal.load();
      return heard;
    };
    return scanLine.use(take, here.scans, restore);
  });
  $effect(() => () => void journal.load());
  /** A count that came back is taken in hand again. */
  async function settle(here: Draft, entry: Waiting) {
    try {
      scanLine.say(await here.takeUp(entry));
    } catch (problem) {
      if (problem instanceof Problem) scanLine.say({ words: problem.sentence, next: problem.next, tone: 'refused' });
    }
  }
  const heard = (work: Promise<Said>) =>
    void work.then(
      (words) => scanLine.say(words),
      (problem) => {
        if (problem instanceof Problem) scanLine.say({ words: problem.sentence, next: problem.next, tone: 'refused' });
      },
    );
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
    else await takeBack(last.act);
  }

  async function takeBack(count: string) {
    try {
      const done = await act('/api/{site}/door/take-back', {
        arrival: which,
        count,
        part: null,
        reason: null,
        serial: null,
      });
      scanLine.say({ words: done.sentence, next: 'scan the next label', tone: 'taken' });
      await taken();
    } catch (problem) {
      scanLine.say({
        words: problem instanceof Problem ? problem.sentence : 'It could not be taken back.',
        next: 'look at the trail',
        tone: 'refused',
      });
    }
  }

  /** A count was taken back: what the form says of the last one may not be true any more. */
  async function taken() {
    await tally.refetch();
    if (t?.counts.some((c) => c.act === draft.lastAct && c.takenBack)) draft.taken = null;
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
          vendors={t.vendors}
          onclose={(words) => {
            draft.unknown = '';
            nameless = false;
            draft.taken = null;
            if (words) scanLine.say({ words, next: 'scan the next label', tone: 'taken' });
            void tally.refetch();
          }}
        />
      {/if}
      {#if draft.repeated}
        <div class="waits row which" role="group" aria-label="One or two?">
          <b class="grow"
            >The same label twice within a moment{draft.repeated.times > 1 ? `, ${draft.repeated.times} times` : ''}. It
            is counted once.</b
          >
          <button class="button" onclick={() => heard(draft.itWasTwo())}>It was two</button>
          <button class="button" onclick={() => (draft.repeated = null)}>One is right</button>
        </div>
      {/if}
      {#if draft.offered}
        <div class="waits row which" role="group" aria-label="What is it?">
          <b class="grow">{draft.offered.words}</b>
          <button class="button" id="offered" onclick={() => heard(draft.accept())}
            >It is the {draft.offered.offers === 'serial' ? 'serial number' : 'source batch'}</button
          >
          <button
            class="button"
            onclick={() => {
              draft.unknown = draft.offered!.code;
              draft.offered = null;
            }}>Something else</button
          >
          <button class="button" onclick={() => (draft.offered = null)}>Leave it</button>
        </div>
      {/if}
      {#if draft.instead}
        <div class="waits row which" role="group" aria-label="Which is right?">
          <b class="grow">{draft.instead.words} Something else stands there already.</b>
          <button class="button" onclick={() => heard(draft.settleInstead(true))}>It is of the goods in hand</button>
          <button class="button" onclick={() => heard(draft.settleInstead(false))}
            >Others: take those in hand first</button
          >
          <button class="button" onclick={() => (draft.instead = null)}>Leave it</button>
        </div>
      {/if}
      {#if draft.several}
        <div class="waits row which" role="group" aria-label="Which is it?">
          <b class="grow">Which is it?</b>
          {#each draft.several.items as { code, name, aboard } (code)}<button
              class="button"
              class:go={aboard}
              onclick={() => void scanLine.scan(code)}
              >{name} <span class="c">{code}</span>{aboard ? '' : ', on no order here'}</button
            >{/each}
          <button class="button" onclick={() => (draft.several = null)}>Leave it</button>
        </div>
      {/if}
      {#if keptScan}{#key keptScan.seq}<KeptScan entry={keptScan} settings={t.settings} />{/key}{/if}
      <CountForm
        {draft}
        settings={t.settings}
        ontakeback={(act) => void takeBack(act)}
        onrefused={() => void tally.refetch()}
      />
      <TallyLines
        tally={t}
        {closed}
        item={draft.reading?.item?.code}
        part={draft.reading?.line?.part}
        onchanged={() => void tally.refetch()}
      />
    {/if}
  {/snippet}
  {#snippet foot()}
    {#if draft.reading?.item}
      <div class="take">
        <button class="button go big" id="take" form="count" disabled={draft.busy || closed}>
          Take {draft.words}
          {draft.unit}{draft.aside ? ', aside' : ''}
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
          <Field label="Why it is opened again" hidden
            ><input
              name="reopen"
              bind:value={reason}
              placeholder="why it is opened again"
              maxlength="200"
              required
            /></Field
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
    {#if t && !closed && session.may('Tally')}
      <section class="trail-part">
        <h2>Back from a customer</h2>
        <UnannouncedReturn
          arrival={which}
          ondone={(words) => {
            said = words;
            void tally.refetch();
          }}
        />
      </section>
      <section class="trail-part">
        <h2>Delivery notes</h2>
        <DeliveryNotes arrival={which} vendors={t.vendors} ondone={() => void tally.refetch()} />
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
          <a class="link" href="/api/{session.site}/door/claim/{which}/zip" download>with its pictures</a>
          {#each t.receipts as r (r)}<a
              class="link c"
              href="/api/{session.site}/door/receipt/{r}"
              target="_blank"
              rel="noopener">{r}</a
            >{/each}
        </p>
      </section>
    {/if}
    {#if t}<CountTrail tally={t} {closed} onchanged={() => void taken()} />{/if}
    {#if t && !blind && t.counts.length > 0}
      <section class="trail-part">
        <h2>Who counted</h2>
        <WhoCounted arrival={which} changed="{t.countsInAll} {t.counts.filter((c) => c.takenBack).length}" />
      </section>
    {/if}
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
  .which {
    flex-wrap: wrap;
  }
  .percent {
    font-size: 20px;
    font-weight: 600;
  }
</style>
