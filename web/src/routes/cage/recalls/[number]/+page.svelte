<script lang="ts">
  /** One recall: where every part of it is, what is missing and where to look, who got it, and what it takes to end it. */
  import { page } from '$app/state';
  import { act, ask, type Schemas } from '$lib/api/client';
  import RecallHouse from '$lib/cage/RecallHouse.svelte';
  import RecallSearch from '$lib/cage/RecallSearch.svelte';
  import RecallTell from '$lib/cage/RecallTell.svelte';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import Field from '$lib/ui/Field.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import StandingMark from '$lib/ui/StandingMark.svelte';
  import { counted, number, time, when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const code = $derived(page.params.number!);
  const query = createQuery(() => ({
    queryKey: ['cage', 'recall', session.site, code],
    queryFn: () => ask('/api/{site}/cage/recalls/{recall}', { recall: code }),
  }));
  const list = createQuery(() => ({
    queryKey: ['cage', 'recalls', session.site],
    queryFn: () => ask('/api/{site}/cage/recalls'),
  }));
  const recall = $derived(query.data);
  let part = $state<Part>('work');
  let error = $state<unknown>();
  let done = $state('');
  let note = $state('');
  /** The place that was scanned last. */
  let at = $state('');
  const missing = $derived(recall?.missing ?? []);
  const toBring = $derived((recall?.places ?? []).filter((p) => p.room !== 'Cage' && !p.isReleased));
  const inCage = $derived((recall?.places ?? []).filter((p) => p.room === 'Cage' && !p.isReleased));
  const span = (minutes: number) =>
    minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`;
  const silent = $derived((recall?.devices ?? []).filter((d) => d.isSilent));
  const roomWords = {
    Door: 'at a door',
    Bench: 'at the bench',
    Cage: 'in the cage',
    Shelf: 'in a bin',
    Truck: 'on a truck',
  } as const;
  async function changed(sentence: string) {
    done = sentence;
    error = undefined;
    await Promise.all([query.refetch(), list.refetch()]);
  }
  async function run(work: () => Promise<{ sentence: string }>) {
    error = undefined;
    done = '';
    try {
      await changed((await work()).sentence);
    } catch (problem) {
      error = problem;
    }
  }
  /** The place whose goods somebody does not find, and how many of them. */
  let asked = $state(0);
  let lacking = $state('');
  function askLacking(p: Schemas['RecallPlace']) {
    asked = p.balance;
    lacking = String(p.quantity - p.missing);
  }
  function notThere(event: SubmitEvent, p: Schemas['RecallPlace']) {
    event.preventDefault();
    const all = lacking.trim() === String(p.quantity - p.missing) && p.missing === 0;
    void run(async () => {
      const said = await act('/api/{site}/cage/recalls/not-there', {
        recall: code,
        balance: p.balance,
        quantity: all ? null : lacking,
      });
      asked = 0;
      return said;
    });
  }
  const seen = (p: Schemas['RecallPlace']) =>
    void run(() => act('/api/{site}/cage/recalls/seen', { recall: code, balance: p.balance, quantity: null }));
  /** Held at another site: by who works there, from here. */
  const holdAt = (site: string) =>
    void run(() => act('/api/{site}/cage/recalls/hold-here', { recall: code }, undefined, undefined, site));
  $effect(() =>
    scanLine.use(async (text) => {
      part = 'work';
      const read = await ask('/api/{site}/cage/recalls/{recall}/scan', { recall: code, text });
      if (read.bin) {
        at = read.bin;
        return { read: text, words: read.sentence, next: 'scan the goods, or press Not here', tone: 'look' };
      }
      if (read.missing && at) {
        const found = await act('/api/{site}/cage/recalls/found', { recall: code, missing: read.missing, bin: at });
        await changed(found.sentence);
        return { read: text, words: found.sentence, next: 'bring it to the cage', tone: 'taken' };
      }
      if (read.missing) return { read: text, words: read.sentence, next: 'scan the place where you are', tone: 'look' };
      if (read.balance && recall?.isDrill) {
        const there = await act('/api/{site}/cage/recalls/seen', {
          recall: code,
          balance: read.balance,
          quantity: null,
        });
        await changed(there.sentence);
        return { read: text, words: there.sentence, next: 'scan the next one', tone: 'taken' };
      }
      return {
        read: text,
        words: read.sentence,
        next: read.balance ? 'bring it to the cage' : 'scan another',
        tone: 'look',
      };
    }),
  );
</script>

<svelte:head><title>{code} · Recall · Cage · Mud Room</title></svelte:head>
<Frame
  queueTitle="Recalls"
  queueCount="{list.data?.open.length ?? 0} open"
  workTitle={code}
  trailCount={recall?.toTell || ''}
  bind:part
>
  {#snippet queue()}
    <p class="pad row">
      <a class="link" href="/cage">Back to the holds</a> <a class="link" href="/cage/recalls">All recalls</a>
    </p>
    {#each list.data?.open ?? [] as r, i (r.number)}
      <QueueCard
        href="/cage/recalls/{r.number}"
        current={r.number === code}
        code={r.number}
        title={r.says}
        why={r.finding}
        order={i}
      >
        {#snippet mark()}
          {#if r.missing}<Mark kind="disc" word="missing" />{:else if r.isDrill}<Mark
              kind="open"
              word="drill"
            />{:else}<Mark kind="held" word="open" />{/if}
        {/snippet}
      </QueueCard>
    {/each}
  {/snippet}
  {#snippet work()}
    {#if recall}
      <div class="head top">
        <div>
          <h1>{recall.sentence}</h1>
          <p>
            {recall.isDrill ? 'Drill' : 'Recall'} <span class="c">{recall.number}</span>, {recall.says}: {recall.why}
            <span class="quiet">Begun by {recall.by}, {when(recall.since)}.</span>
          </p>
          {#if recall.endedAt}<p>Ended by {recall.endedBy}, {when(recall.endedAt)}.</p>{/if}
        </div>
        <div class="clock" class:over={recall.minutes > recall.limitMinutes}>
          <span
            ><b>{span(recall.minutes)}</b>
            {recall.endedAt ? 'it took' : 'since it began'}, of {span(recall.limitMinutes)}</span
          >
          <span class="run" aria-hidden="true"
            ><i style:width="{Math.min(100, (100 * recall.minutes) / recall.limitMinutes)}%"></i></span
          >
        </div>
      </div>
      {#if done}<p class="good note" role="status">{done}</p>{/if}
      {#if error}<div class="pad"><ProblemNote {error} /></div>{/if}
      {#if recall.notHeld > 0}
        <p class="pad warn">
          <Mark kind="disc" word="{number(recall.notHeld)} here are not held by it" />
          {#if recall.mayHold}<button class="button go" onclick={() => holdAt(session.site)}>Hold them now</button>{/if}
        </p>
      {/if}
      {#each recall.elsewhere.filter((e) => e.notHeld > 0) as e (e.site)}
        <p class="pad warn">
          <Mark kind="disc" word="{number(e.notHeld)} at {e.name} are not held by it" />
          {#if e.mayHold}<button class="button" onclick={() => holdAt(e.site)}>Hold them at {e.name}</button
            >{:else}<span class="quiet">Whoever works there holds them.</span>{/if}
        </p>
      {/each}
      <div class="body" class:search={missing.length > 0}>
        <div><RecallHouse {recall} /></div>
        <div class="two">
          <section aria-labelledby="look">
            <h2 id="look">Look for it <span class="quiet">in this order</span></h2>
            {#if missing.length > 0}<RecallSearch {recall} {at} {changed} />
            {:else}<p class="quiet">
                Nothing is missed. Who does not find it in its place says so beside the place.
              </p>{/if}
          </section>
          <section aria-labelledby="bring">
            <h2 id="bring">
              {recall.isDrill ? 'To be seen' : 'To the cage'}
              <span class="quiet">{counted(toBring.length, 'place')}</span>
            </h2>
            <ul>
              {#each toBring as p (p.balance)}
                <li data-balance={p.balance}>
                  <span
                    ><b>{number(p.quantity)}</b>
                    {p.unitWord} <b class="c">{p.address}</b><br /><span class="quiet"
                      >{p.item}, {roomWords[p.room]}{p.unit ? `, on ${p.unit}` : ''}{p.serial
                        ? `, ${p.serial}`
                        : ''}</span
                    ></span
                  >
                  <span>
                    {#if p.missing > 0}<Mark kind="disc" word="{number(p.missing)} not found" />
                    {:else if recall.isDrill}{#if p.isSeen}<Mark kind="done" word="seen" />{:else}<button
                          class="button"
                          onclick={() => seen(p)}>Seen</button
                        >{/if}
                    {:else}<StandingMark standing={p.standing} /><br /><span class="quiet">{p.task ?? 'no task'}</span
                      >{/if}
                  </span>
                  {#if p.missing < p.quantity && !recall.endedAt}<button class="button" onclick={() => askLacking(p)}
                      >Not there<span class="sr-only">, {p.address}</span></button
                    >{:else}<span></span>{/if}
                  {#if asked === p.balance}
                    <form class="lacking" onsubmit={(e) => notThere(e, p)}>
                      <Field label="How many are not there, {p.unitWord}"
                        ><input
                          name="lacking"
                          class="c"
                          inputmode="decimal"
                          bind:value={lacking}
                          autocomplete="off"
                        /></Field
                      >
                      <button class="button">They are missing</button>
                      <button class="button" type="button" onclick={() => (asked = 0)}>Leave it</button>
                    </form>
                  {/if}
                </li>
              {:else}<li class="quiet">All that is here is in the cage.</li>{/each}
            </ul>
            {#if recall.placesNotShown > 0}<p class="quiet">
                and {counted(recall.placesNotShown, 'place')} more behind these.
              </p>{/if}
            {#if inCage.length > 0}<p class="quiet">
                In the cage: {#each inCage as p, i (p.balance)}{i > 0 ? ', ' : ''}<span class="c">{p.address}</span>
                  {number(p.quantity)}{/each}.
              </p>{/if}
          </section>
        </div>
      </div>
    {:else if query.error}<div class="pad"><ProblemNote error={query.error} /></div>{/if}
  {/snippet}
  {#snippet trail()}
    {#if recall}
      <section class="trail-part">
        <h2>What is not in hand</h2>
        {#each recall.coming as c (c.arrival + c.item)}
          <p>
            <a class="link c" href="/road/arrivals/{c.arrival}">{c.arrival}</a>, {when(c.at)}, brings {number(
              c.quantity,
            )}
            {c.unitWord} more{recall.isDrill ? '.' : ': held as they are counted.'}
          </p>
        {/each}
        {#each silent as d (d.device)}
          <p><b>{d.device}</b>, {d.person}: last heard {when(d.heard)}. What it has not sent is held as it comes.</p>
        {/each}
        {#if recall.coming.length === 0 && silent.length === 0}<p class="quiet">
            Nothing is announced, and every device that counted lately was heard since.
          </p>{/if}
        {#if recall.devices.length > silent.length}<p class="quiet">
            Heard since: {#each recall.devices.filter((d) => !d.isSilent) as d, i (d.device)}{i > 0
                ? ', '
                : ''}{d.device}
              {time(d.heard)}{/each}.
          </p>{/if}
      </section>
      {#if recall.suspects.length > 0}<section class="trail-part">
          <h2>May be of it <span class="quiet">{recall.suspects.length}</span></h2>
          <p class="quiet">What would tell was never recorded.</p>
          {#each recall.suspects as s (s.lot)}
            <p>
              {number(s.quantity)}
              {s.unitWord} of {s.item}{s.batch ? `, batch ${s.batch}` : ''}, {s.vendor ?? 'nobody knows from whom'}, {when(
                s.since,
              )}
              <a class="link" href="/book?text=lot%20{s.lot}">look</a>
            </p>
          {/each}
        </section>{/if}
      <section class="trail-part"><RecallTell {recall} {changed} /></section>
      {#if !recall.isDrill}<section class="trail-part">
          <h2>What lifts it</h2>
          {#each recall.holds as h (h.number)}
            <p>
              <a class="link c" href="/cage?hold={h.number}">{h.number}</a>
              {number(h.quantity)}
              {h.unitWord}{h.batch ? `, batch ${h.batch}` : ''}
              {#if h.isReady}<span class="quiet">ready to be lifted or decided over</span>{/if}
            </p>
          {:else}<p class="quiet">It holds nothing here.</p>{/each}
        </section>{/if}
      {#if recall.mayEnd}<section class="trail-part">
          <h2>End it</h2>
          {#if recall.isDrill || (recall.finding.cage + recall.finding.elsewhere === 0 && recall.finding.missing === 0)}
            <form
              onsubmit={(e) => {
                e.preventDefault();
                void run(() => act('/api/{site}/cage/recalls/end', { recall: code, note }));
              }}
            >
              <Field label="What came of it"
                ><input name="end-note" bind:value={note} maxlength="500" autocomplete="off" /></Field
              >
              <p><button class="button">End {recall.isDrill ? 'the drill' : 'the recall'}</button></p>
            </form>
          {:else}<p class="quiet">It ends when nothing of it is held or missing.</p>{/if}
        </section>{/if}
      <section class="trail-part">
        <h2>What happened</h2>
        <p><a class="link" href="/book?text={recall.number}">All that happened to {recall.number}</a></p>
      </section>
    {/if}
  {/snippet}
</Frame>

<style>
  .top {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 220px;
    gap: 18px;
    align-items: start;
  }
  .clock {
    font-size: 14px;
  }
  .run {
    display: block;
    height: 13px;
    margin-top: 4px;
    border: 1.5px solid var(--peat);
  }
  .run i {
    display: block;
    height: 100%;
    background: var(--peat);
  }
  .over .run i {
    background: var(--disc);
  }
  .body {
    display: flex;
    flex-direction: column;
    padding-top: 14px;
  }
  .clock.over {
    color: var(--disc);
  }
  .warn {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 14px;
    align-items: center;
    margin: 0 0 8px;
  }
  .two {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    border-top: 2px solid var(--peat);
  }
  .two section {
    padding: 12px 18px;
    min-width: 0;
  }
  .two section + section {
    border-left: 2px solid var(--peat);
  }
  h2 {
    margin: 0 0 8px;
    font-size: 16px;
  }
  h2 .quiet {
    font-weight: 400;
    font-size: 13px;
  }
  ul {
    list-style: none;
    margin: 0;
    padding: 0;
  }
  ul li {
    display: grid;
    grid-template-columns: minmax(0, 1.3fr) minmax(0, 1fr) auto;
    gap: 10px;
    align-items: center;
    padding: 6px 0;
    border-top: 1px solid var(--stone-2);
  }
  .lacking {
    grid-column: 1 / -1;
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: flex-end;
  }
  @media (max-width: 700px) {
    /* Who looks with a handheld sees where to look first. */
    .search {
      flex-direction: column-reverse;
      gap: 12px;
      padding-top: 0;
    }
    .top,
    .two {
      grid-template-columns: 1fr;
    }
    .two section {
      padding: 10px 12px;
    }
    .two section + section {
      border-left: 0;
      border-top: 2px solid var(--peat);
    }
  }
</style>
