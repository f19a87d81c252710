<script lang="ts">
  import AskInspection from '$lib/bench/AskInspection.svelte';
  import Field from '$lib/ui/Field.svelte';
  import { act, ask, limits, newActId, Problem, type Schemas } from '$lib/api/client';
  import { waiting as unsent } from '$lib/door/waiting.svelte';
  import { forgetTask, keepTask, keptTask, scanInDeadSpot, type KeptTask } from '$lib/shelf/kept';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import BinPlan from '$lib/shelf/BinPlan.svelte';
  import Funnel from '$lib/shelf/Funnel.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import StandingMark from '$lib/ui/StandingMark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import { number, sscc } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const waiting = createQuery(() => ({
    queryKey: ['shelf', 'queue', session.site],
    queryFn: () => ask('/api/{site}/shelf/queue'),
  }));
  const plan = createQuery(() => ({
    queryKey: ['shelf', 'plan', session.site],
    queryFn: () => ask('/api/{site}/shelf/plan'),
  }));
  const tasks = $derived(waiting.data?.tasks ?? []);
  let chosen = $state(0);
  let scanned = $state(0);
  const own = $derived(tasks.filter((t) => t.mine));
  /** Of several tasks the one whose goods were scanned last, else the one that is looked at. */
  const mine = $derived(own.find((t) => t.task === scanned) ?? own.find((t) => t.task === chosen) ?? own[0]);
  const current = $derived(tasks.find((t) => t.task === chosen) ?? mine ?? tasks[0]);
  const proposal = createQuery(() => ({
    queryKey: ['shelf', 'trail', session.site, current?.task, current?.quantity, current?.to],
    queryFn: () => ask('/api/{site}/shelf/tasks/{task}', { task: current!.task }),
    enabled: !!current,
  }));
  const words = { PutAway: 'put away', ToBench: 'to the bench', ToCage: 'to the cage' } as const;
  let part = $state<Part>('work');
  let error = $state<unknown>();
  let done = $state('');
  let split = $state('');
  const goodsScanned = $derived(!!mine?.task && (scanned === mine.task || mine.loaded));
  const level = $derived(proposal.data?.level ?? 1);

  async function run<T extends { sentence: string }>(work: () => Promise<T>): Promise<T | undefined> {
    error = undefined;
    try {
      const result = await work();
      done = result.sentence;
      await Promise.all([waiting.refetch(), plan.refetch()]);
      return result;
    } catch (problem) {
      error = problem;
      return undefined;
    }
  }
  async function take(t: Schemas['TaskCard'], takeOver = false) {
    const taken = await run(() =>
      act('/api/{site}/shelf/take', { task: t.task, scan: null, quantity: split || null, takeOver }),
    );
    if (taken) {
      chosen = taken.task;
      split = '';
    }
  }
  async function giveBack() {
    if (!mine?.task) return;
    const task = mine.task;
    await run(() => act('/api/{site}/shelf/give-back', { task, reason: null }));
    chosen = 0;
  }

  const waysOut: [Schemas['BinTrouble'], string][] = [
    ['Full', 'full'],
    ['Blocked', 'blocked'],
    ['NotThere', 'not there'],
    ['OtherGoods', 'something else stands there'],
  ];
  async function refuseBin(trouble: Schemas['BinTrouble']) {
    if (!mine?.task) return;
    const task = mine.task;
    const next = await run(() => act('/api/{site}/shelf/bin-refused', { task, trouble }));
    if (next) await proposal.refetch();
  }

  // A task that was taken stays on the device, for dead spots.
  let kept = $state<KeptTask>();
  $effect(() => {
    const site = session.site;
    void keptTask(site).then((k) => (kept = k));
  });
  $effect(() => {
    const p = proposal.data;
    if (!waiting.data || !unsent.reachable) return;
    if (!mine?.task) void forgetTask(session.site).then(() => (kept = undefined));
    else if (p?.card.task === mine.task) {
      const task = { site: session.site, card: mine, bin: p.bin ?? '', codes: [...p.codes], goodsScanned };
      void keepTask(task).then(() => (kept = task));
    }
  });

  $effect(() =>
    scanLine.use(async (text) => {
      part = 'work';
      done = '';
      error = undefined;
      const away = async () => {
        const said = await scanInDeadSpot(session.site, text);
        kept = await keptTask(session.site);
        return said;
      };
      if (!unsent.reachable) return away();
      let reading: Schemas['Reading'];
      try {
        reading = await ask('/api/{site}/scan', { text }, limits.scan);
      } catch (problem) {
        if (!(problem instanceof Problem) || problem.status !== 0) throw problem;
        return away();
      }
      if (mine?.task) {
        const task = mine.task;
        if (reading.kind === 'Bin' || reading.problem?.code === 'other-site') {
          // Kept before it is sent: without an answer it is sent again under its own id, and done once.
          const entry = await unsent.keep({
            id: newActId(),
            arrival: '',
            words: `${mine.item} into ${text.trim()}`,
            step: {
              path: '/api/{site}/shelf/put-down',
              body: { task, bin: text.trim(), quantity: split || null, reason: null },
            },
          });
          const down = await unsent.sendNow<Schemas['PutDownAnswer']>(entry);
          split = '';
          if (down === 'waits')
            return {
              words: `${entry.words}. Kept on this device, waiting to be sent.`,
              next: 'scan on',
              tone: 'taken',
            };
          done = down.sentence;
          await Promise.all([waiting.refetch(), plan.refetch()]);
          return { words: down.sentence, next: down.nextBin ? `scan ${down.nextBin}` : 'the next task', tone: 'taken' };
        }
        const entry = await unsent.keep({
          id: newActId(),
          arrival: '',
          words: `Goods of ${mine.item}`,
          step: { path: '/api/{site}/shelf/scan-goods', body: { task, scan: text } },
        });
        const right = await unsent.sendNow<Schemas['ScanGoodsAnswer']>(entry);
        if (right === 'waits') {
          scanned = task;
          return { words: `${entry.words}. Kept on this device.`, next: `scan ${mine.to ?? 'the bin'}`, tone: 'taken' };
        }
        scanned = right.task;
        chosen = right.task;
        return { words: right.sentence, next: `scan ${right.bin ?? 'the bin'}`, tone: 'taken' };
      }
      if (reading.kind === 'Bin') return { words: reading.words, next: 'take goods first', tone: 'refused' };
      const taken = await act('/api/{site}/shelf/take', { task: null, scan: text, quantity: null, takeOver: false });
      chosen = taken.task;
      await waiting.refetch();
      return { words: taken.sentence, next: `scan ${taken.bin}`, tone: 'taken' };
    }),
  );
</script>

<svelte:head><title>Shelf · Mud Room</title></svelte:head>
<Frame
  queueTitle="Tasks"
  queueCount={tasks.length}
  workTitle={proposal.data?.bin ?? 'Shelf'}
  trailTitle="Why here?"
  bind:part
>
  {#snippet queue()}
    {#each tasks as t, i (t.task)}
      <QueueCard
        onpress={() => {
          chosen = t.task;
          part = 'work';
          error = undefined;
          done = '';
        }}
        current={t.task === current?.task}
        code="{t.from}{t.to ? ` → ${t.to}` : ''}"
        title="{t.item}, {t.inPacks}"
        why={t.why}
        order={i}
      >
        {#snippet mark()}<StandingMark standing={t.standing} />{/snippet}
      </QueueCard>
    {:else}
      <p class="empty">Nothing waits. What is counted at a door stands here until somebody brings it to a bin.</p>
    {/each}
  {/snippet}
  {#snippet work()}
    {#if done}<p class="good note" id="done">{done}</p>{/if}
    {#if error}<div class="pad"><ProblemNote {error} /></div>{/if}
    {#if !unsent.reachable && kept}
      <div class="head card">
        <p class="bin c" id="kept-bin">{kept.bin}</p>
        <div class="what">
          <h1>{kept.card.item}</h1>
          <p>
            <b class="c amount">{number(kept.card.quantity)}</b>
            {kept.card.unit} <span class="quiet">from <span class="c">{kept.card.from}</span></span>
          </p>
          <p>
            No network: {kept.goodsScanned ? `scan bin ${kept.bin}` : 'scan the goods'}. What you scan is kept and sent
            later.
          </p>
        </div>
      </div>
    {:else if current}
      <div class="head card">
        <p class="bin c" id="bin">{proposal.data?.bin ?? '—'}</p>
        <div class="what">
          <h1>{current.item}</h1>
          <p>
            <b class="c amount">{number(current.quantity)}</b>
            {current.unit} <span class="quiet">· {current.inPacks} · {number(Math.round(current.mass))} kg</span>
          </p>
          <p class="quiet">
            {words[current.kind]} · from <span class="c">{current.from}</span>{#if current.sscc}<span class="apart"
                >unit <span class="c">{sscc(current.sscc)}</span></span
              >{/if}{#if current.batch}<span class="apart">batch <span class="c">{current.batch}</span></span>{/if}
          </p>
          <p>
            <b>{proposal.data?.trail.reason ?? ''}</b>
            {#if proposal.data?.aisle && proposal.data.aisle.length === 1}Aisle {proposal.data.aisle}, bay {proposal
                .data.bay}, level {proposal.data.level}{/if}
          </p>
        </div>
      </div>
      {#if session.may('PutAway')}
        <div class="pad act" data-scans="line">
          {#if current.mine}
            <p class="step" class:ok={goodsScanned}>
              <b>1</b>
              {goodsScanned ? 'The right goods, on your truck.' : 'Scan the goods.'}
            </p>
            <p class="step"><b>2</b> Scan bin <b class="c">{proposal.data?.bin}</b>, or another one.</p>
            <div class="row">
              <Field label={`Only a part of it, ${current.unit}`} class="split"
                ><input
                  name="split"
                  bind:value={split}
                  inputmode="decimal"
                  class="c"
                  placeholder={String(current.quantity)}
                /></Field
              >
              <button class="button" onclick={() => giveBack()}>Give it back</button>
            </div>
            {#if proposal.data?.bin}
              <div class="row trouble" role="group" aria-label="{proposal.data.bin} cannot be used">
                <span>{proposal.data.bin} is no place for it:</span>
                {#each waysOut as [trouble, word] (trouble)}
                  <button class="button" onclick={() => refuseBin(trouble)}>{word}</button>
                {/each}
              </div>
            {/if}
          {:else if current.takenBy}
            <p>{current.why}{current.loaded ? ` It is on ${current.from}.` : ''}</p>
            <div class="row">
              <button class="button" id="take-over" onclick={() => take(current, true)}>Take it over</button>
            </div>
          {:else}
            <div class="row">
              <button class="button go big" id="take-task" disabled={!proposal.data?.bin} onclick={() => take(current)}
                >Take it to {proposal.data?.bin ?? 'nowhere'}</button
              >
            </div>
          {/if}
        </div>
      {/if}
      <div class="pad">
        <AskInspection
          task={current.task}
          asButton
          ondone={(sentence) => {
            done = sentence;
            void waiting.refetch();
          }}
        />
      </div>
      {#if plan.data}<div class="plan">
          <BinPlan plan={plan.data} best={proposal.data?.trail.best ?? []} {level} from={current.from} />
        </div>
        <p class="key">
          <svg viewBox="0 0 14 14" width="13" height="13" aria-hidden="true"
            ><rect x="1" y="1" width="12" height="12" fill="var(--load)" stroke="var(--stone-3)" /></svg
          >
          full
          <svg viewBox="0 0 14 14" width="13" height="13" aria-hidden="true"
            ><rect x="1" y="1" width="12" height="12" fill="var(--paper)" stroke="var(--stone-3)" /></svg
          >
          empty
          <svg viewBox="0 0 14 14" width="13" height="13" aria-hidden="true"
            ><path d="M1 1l12 12M13 1L1 13" stroke="var(--disc)" stroke-width="1.6" /></svg
          >
          blocked, or said to be unusable today · level {level} · 1 the proposed bin, 2 and on the next best
        </p>
      {/if}
    {:else}
      <p class="empty">Nothing waits to be put away.</p>
    {/if}
  {/snippet}
  {#snippet trail()}
    {#if proposal.data}
      <section class="trail-part"><Funnel trail={proposal.data.trail} /></section>
      <section class="trail-part">
        <h2>The best that were left <span class="quiet">{proposal.data.trail.left} in all</span></h2>
        <table class="best">
          <thead><tr><th>Bin</th><th>What speaks for it</th><th class="c">m</th><th class="c">cost</th></tr></thead>
          <tbody>
            {#each proposal.data.trail.best as b, i (b.address)}
              <tr class:first={i === 0}>
                <td class="c"><b>{b.address}</b></td>
                <td
                  >{{
                    SameBatch: 'same item and batch',
                    HomeZone: 'home zone',
                    NearestEmpty: 'empty',
                    SpillOver: 'has room',
                  }[b.tier]}</td
                >
                <td class="c">{number(Math.round(b.metres))}</td>
                <td class="c">{number(Math.round((b.travel + b.lift + b.roomLeft) * 10) / 10)}</td>
              </tr>
            {/each}
          </tbody>
        </table>
        <p class="quiet small">
          The better wish always wins; within it the least cost: travel × pick-rate weight + height × tonnes + room left
          unusable. For the first:
          {#if proposal.data.trail.best[0]}{@const b = proposal.data.trail.best[0]}{number(b.travel)} + {number(
              Math.round(b.lift * 100) / 100,
            )} + {number(b.roomLeft)}{/if}.
        </p>
      </section>
    {/if}
  {/snippet}
</Frame>

<style>
  .apart::before {
    content: ' · ';
  }
  .card {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 20px;
    align-items: center;
  }
  .bin {
    font-size: 54px;
    font-weight: 700;
    line-height: 1;
    letter-spacing: -0.02em;
  }
  .amount {
    font-size: 22px;
  }
  .act {
    display: flex;
    flex-direction: column;
    gap: 8px;
    border-bottom: 1px solid var(--stone-2);
  }
  .act .row {
    align-items: flex-end;
  }
  .act .trouble {
    align-items: center;
    margin-top: 8px;
  }
  .step {
    font-size: 16px;
  }
  .step > b:first-child {
    display: inline-grid;
    place-items: center;
    width: 24px;
    height: 24px;
    border: 2px solid var(--peat);
    border-radius: 50%;
    margin-right: 6px;
    font-size: 13px;
  }
  .step.ok > b:first-child {
    background: var(--usable);
    color: var(--paper);
  }
  :global(.field.split) {
    max-width: 180px;
  }
  .plan {
    padding: 8px 18px 0;
  }
  .key {
    padding: 4px 18px 10px;
    font-size: 13px;
    color: var(--peat-2);
  }
  .key svg {
    display: inline;
    vertical-align: -2px;
    margin-left: 6px;
  }
  .note {
    margin: 10px 18px 0;
  }
  .best {
    width: 100%;
    font-size: 13px;
    border-collapse: collapse;
  }
  .best th {
    text-align: left;
    font-weight: 600;
  }
  .best td,
  .best th {
    padding: 3px 4px;
    border-bottom: 1px solid var(--stone-2);
  }
  .best .first {
    background: var(--lit-faint);
  }
  .small {
    font-size: 13px;
    margin-top: 8px;
  }
  @media (max-width: 700px) {
    .card {
      grid-template-columns: 1fr;
      gap: 6px;
    }
    .bin {
      font-size: 76px;
    }
    .amount {
      font-size: 40px;
    }
    .step {
      font-size: 18px;
    }
  }
</style>
