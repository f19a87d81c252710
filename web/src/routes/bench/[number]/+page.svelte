<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import { page } from '$app/state';
  import { act, ask, newActId, Problem, type Schemas } from '$lib/api/client';
  import { place } from '$lib/api/place';
  import { isAsked } from '$lib/bench/limits';
  import BenchFrame from '$lib/bench/BenchFrame.svelte';
  import DrawSample from '$lib/bench/DrawSample.svelte';
  import SheetFoot from '$lib/bench/SheetFoot.svelte';
  import SheetGrid from '$lib/bench/SheetGrid.svelte';
  import SheetHead from '$lib/bench/SheetHead.svelte';
  import SheetTrail from '$lib/bench/SheetTrail.svelte';
  import VerdictBar from '$lib/bench/VerdictBar.svelte';
  import { waiting, type Step } from '$lib/door/waiting.svelte';
  import { inPlace } from '$lib/live';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { tick, untrack } from 'svelte';
  const which = $derived(page.params['number'] ?? '');
  const sheet = createQuery(() => ({
    queryKey: ['sheet', `inspection:${which}`, session.site],
    queryFn: () => ask('/api/{site}/bench/sheet/{number}', { number: which }),
  }));
  const s = $derived(sheet.data);
  let error = $state<unknown>();
  const pieces = $derived(
    (s?.wanted ?? []).flatMap((run) => Array.from({ length: run.last - run.first + 1 }, (_, i) => run.first + i)),
  );
  const byPlace = $derived(new Map((s?.findings ?? []).map((f) => [`${f.piece} ${f.characteristic}`, f])));
  const badPieces = $derived(new Set((s?.findings ?? []).filter((f) => !f.conforms).map((f) => f.piece)));
  const bad = (piece: number) => badPieces.has(piece);
  type Entry = {
    piece: number;
    characteristic: number;
    value: string | null;
    pass: boolean | null;
    clears?: boolean;
  };
  const cellOf = (e: { piece: number; characteristic: number }) => `${e.piece} ${e.characteristic}`;
  /** What was found and is on its way: its cell takes no more keys, and the next is open. */
  let underway = $state<(Entry & { id: string; of: string })[]>([]);
  const sent = $derived(new Map(underway.filter((e) => e.of === which).map((e) => [cellOf(e), e])));
  /** What was found and is not acknowledged yet: it is kept on this device and sent when the network is back. */
  const kept = $derived(
    new Map(
      waiting
        .findingsOf(which)
        .filter((w) => !w.back && !underway.some((e) => e.id === w.id))
        .flatMap((w) =>
          // A gauge's value stands where the cursor stood; where it stood nowhere, only the server knows what it is of.
          w.step && 'piece' in w.step.body && w.step.body.characteristic !== null
            ? [[`${w.step.body.piece} ${w.step.body.characteristic}`, w]]
            : [],
        ),
    ),
  );
  let unsent = 0;
  $effect(() => {
    // What was sent late stands on the sheet as the server has it.
    if (kept.size < unsent) void sheet.refetch();
    unsent = kept.size;
  });
  const isThere = (cell: string) => byPlace.has(cell) || kept.has(cell) || sent.has(cell);
  const done = (piece: number) =>
    s?.characteristics.every((c) => !isAsked(c, piece) || isThere(`${piece} ${c.id}`)) ?? false;
  const next = $derived(pieces.find((p) => !done(p)) ?? 0);
  let chosen = $state(0);
  /** Height of what stays in sight above the table. */
  let fixed = $state(0);
  const inHand = $derived(chosen || next);
  /** Every piece of a usual sample; of a large one those about the piece in hand. */
  const seen = $derived(
    pieces.length <= 60 ? pieces : pieces.slice(Math.max(0, pieces.indexOf(inHand) - 24), pieces.indexOf(inHand) + 26),
  );
  $effect(() => {
    if (inHand) document.querySelector(`tr[data-piece="${inHand}"]`)?.scrollIntoView({ block: 'nearest' });
  });

  $effect(() =>
    scanLine.use(async (text) => {
      // A gauge types its value like a keyboard: it goes to the next open measured value of the piece in hand.
      // The server knows what each gauge measures; the field the cursor stands in says it too.
      if (s && inHand && s.card.state === 'Drawn' && gaugeValue.test(text.trim())) {
        const cursor = document.activeElement?.getAttribute('data-characteristic');
        const characteristic = cursor ? Number(cursor) : null;
        const answer = await record(
          {
            path: '/api/{site}/bench/gauge',
            body: { inspection: which, piece: inHand, text, characteristic, isSure: false },
          },
          { piece: inHand, characteristic: characteristic ?? 0, value: text, pass: null },
        );
        if (!answer && error instanceof Problem) return { words: error.sentence, next: error.next, tone: 'refused' };
        if (answer === 'waits')
          return { words: `${text} is kept on this device`, next: 'the next value; it is sent later', tone: 'look' };
        return {
          words: answer?.sentence ?? '',
          next: answer?.conforms ? 'the next value' : 'outside its limits',
          tone: answer?.conforms ? 'taken' : 'look',
        };
      }
      // Any other scan names the piece in hand, where it says which one it is.
      if (s && inHand && s.card.state === 'Drawn') {
        try {
          const named = await act('/api/{site}/bench/name-piece', { inspection: which, piece: inHand, text });
          await sheet.refetch();
          return { words: named.sentence, next: 'a value of the gauge', tone: 'taken' };
        } catch (problem) {
          if (!(problem instanceof Problem)) throw problem;
          if (problem.code !== 'names-no-piece')
            return { words: problem.sentence, next: problem.next, tone: 'refused' };
        }
      }
      const reading = await ask('/api/{site}/scan', { text });
      return { words: reading.words, next: 'a value of the gauge', tone: 'look' };
    }),
  );

  const gaugeValue = /^(?:\p{L}[\p{L} ]*?[ :=]+)?-?\d+(?:\.\d+)?\s*[%\p{L}°µ/]*$/u;
  /** What was refused and may be recorded all the same: with a reason, or because it was looked at again. */
  let asked = $state<Entry>();
  let reason = $state('');
  const code = $derived(error instanceof Problem ? error.code : '');
  // Another sheet begins anew: what was chosen, typed or refused is of the one before.
  $effect(() => {
    void which;
    untrack(() => {
      [chosen, left, error, asked] = [0, undefined, undefined, undefined];
      [reason, takingOver] = ['', false];
    });
  });
  async function run<T>(work: () => Promise<T>, entry?: Entry): Promise<T | undefined> {
    error = undefined;
    asked = entry;
    try {
      const result = await work();
      asked = undefined;
      reason = '';
      await sheet.refetch();
      return result;
    } catch (problem) {
      error = problem;
      return undefined;
    }
  }
  /** A finding is laid into the device's own database before it is sent: no dead spot loses it. The cursor goes on at once. */
  async function record(step: Step, entry: Entry): Promise<Schemas['FindAnswer'] | 'waits' | undefined> {
    error = undefined;
    asked = undefined;
    const name = s?.characteristics.find((c) => c.id === entry.characteristic)?.name ?? 'a value of the gauge';
    const words = `${which}, piece ${entry.piece}, ${name}${entry.value === null ? '' : ` ${entry.value}`}`;
    const id = newActId();
    const of = which;
    underway = [...underway, { ...entry, id, of }];
    if (entry.characteristic) left = cellOf(entry);
    inPlace.add(id);
    try {
      const answer = await waiting.keepAndSend<Schemas['FindAnswer']>(step, words, id);
      // The reason that is asked for belongs to what was refused meanwhile.
      if (!asked) reason = '';
      if (answer !== 'waits') {
        await placed(of, answer);
        // What a gauge has measured, where the cursor stood in no value.
        if (!entry.characteristic && of === which) left = cellOf(answer.finding);
      }
      return answer;
    } catch (problem) {
      if (of === which) {
        [error, asked] = [problem, entry];
        await backTo(entry, id);
      } else {
        // Who has gone on to another sheet is told of what it was.
        error =
          problem instanceof Problem
            ? new Problem(problem.code, `${words}: ${problem.sentence}`, problem.next, problem.status)
            : problem;
      }
      return undefined;
    } finally {
      underway = underway.filter((e) => e.id !== id);
    }
  }
  /** What was refused is open again, and the cursor in it; who has half typed another value stays in that. */
  async function backTo(entry: Entry, id: string) {
    const here = document.activeElement;
    const isTyping =
      here instanceof HTMLInputElement && here.value !== '' && !here.closest(`[data-cell="${cellOf(entry)}"]`);
    if (isTyping) chosen = inHand;
    underway = underway.filter((e) => e.id !== id);
    left = undefined;
    if (isTyping) return;
    await tick();
    document.querySelector<HTMLElement>(`[data-cell="${cellOf(entry)}"] :is(input, button)`)?.focus();
  }
  const queries = useQueryClient();
  /** The finding is on the sheet as the server has it; the whole sheet is asked for again only where more has changed. */
  async function placed(of: string, answer: Schemas['FindAnswer']) {
    const { finding, parts, missing, verdict, sampleSize } = answer;
    const wider = of === which && sampleSize !== s?.sampleSize;
    await place<Schemas['SheetAnswer']>(queries, ['sheet', `inspection:${of}`, session.site], (old) => ({
      ...old,
      parts,
      missing,
      verdict,
      findings: [
        ...old.findings.filter((f) => f.piece !== finding.piece || f.characteristic !== finding.characteristic),
        finding,
      ],
    }));
    if (wider || (of === which && verdict !== null)) await sheet.refetch();
  }
  /** What was done last, the drawing or an entry in a cell, where the cursor has not gone on from it yet. */
  let left = $state<string>();
  // A value, Enter, the next: as soon as what was done is on its way, however long that takes.
  $effect(() => {
    if (left === 'drawing' ? s?.card.state === 'Drawn' : left && isThere(left)) void goOn();
  });
  /** The cursor goes to the next open value; where nothing is open any more, what is left is to sign. */
  async function goOn() {
    if (chosen && done(chosen)) chosen = 0;
    await tick();
    const there = document.querySelector<HTMLElement>('tr.hand [data-open], input[name=signature]');
    // More pieces, or the signature, may still be on their way.
    if (!left || !there) return;
    // Who has gone on by themselves stays there: what they have half typed is not taken for a value.
    const here = document.activeElement;
    if (!here?.matches('input, textarea, select') || here.closest(`[data-cell="${left}"]`)) there.focus();
    left = undefined;
  }
  const putBack = () => run(() => act('/api/{site}/bench/put-back', { inspection: which }));
  const find = (piece: number, characteristic: number, value: string | null, pass: boolean | null, isSure = false) =>
    record(
      {
        path: '/api/{site}/bench/find',
        body: { inspection: which, piece, characteristic, value, pass, reason: reason || null, isSure },
      },
      { piece, characteristic, value, pass },
    );
  const clear = (piece: number, characteristic: number) =>
    run(() => act('/api/{site}/bench/clear', { inspection: which, piece, characteristic, reason: reason || null }), {
      piece,
      characteristic,
      value: null,
      pass: null,
      clears: true,
    });
  let takingOver = $state(false);
  async function take(over: boolean) {
    takingOver = false;
    await run(() => act('/api/{site}/bench/take', { inspection: which, over }));
    takingOver = code === 'taken-by-other';
  }
  const layDown = () => run(() => act('/api/{site}/bench/lay-down', { inspection: which }));
  /** Once more what was asked about: with the reason that was typed, and surely. */
  const again = () => {
    if (!asked) return;
    const { piece, characteristic, value, pass } = asked;
    if (asked.clears) void clear(piece, characteristic);
    else if (characteristic) void find(piece, characteristic, value, pass, true);
    else
      void record(
        {
          path: '/api/{site}/bench/gauge',
          body: { inspection: which, piece, text: value!, characteristic: null, isSure: true },
        },
        asked,
      );
  };
</script>

<svelte:head><title>{which} · Bench · Mud Room</title></svelte:head>
<BenchFrame current={which} workTitle={s?.card.item ?? which}>
  {#if sheet.error}<div class="pad"><ProblemNote error={sheet.error} /></div>{/if}
  {#if s}
    <SheetHead sheet={s} />
    {#if s.card.state === 'Waiting' || s.card.state === 'Drawn'}
      <p class="pad hands">
        {#if s.card.isMine}You have it in hand. <button class="button" id="lay-down" onclick={layDown}
            >Lay it down</button
          >
        {:else}
          {s.card.takenBy ? `${s.card.takenBy} has it in hand.` : 'Nobody has it in hand.'}
          {#if session.may('Inspect')}<button class="button" id="take" onclick={() => take(takingOver)}
              >{takingOver ? 'Take it over' : 'Take it in hand'}</button
            >{/if}
        {/if}
      </p>
    {/if}
    {#if s.supersededBy}<p class="pad">
        It is superseded by <a class="link c" href="/bench/{s.supersededBy}">{s.supersededBy}</a>.
      </p>{/if}
    {#if s.card.state === 'Waiting'}
      {#key which}<DrawSample sheet={s} drawn={() => (left = 'drawing')} changed={() => sheet.refetch()} />{/key}
      {#if error}<div class="pad"><ProblemNote {error} /></div>{/if}
    {:else if s.card.state === 'Withdrawn'}
      <p class="pad">{s.withdrawn}</p>
    {:else if s.card.state === 'Skipped'}
      <p class="pad">{s.skipWhy} Its goods are usable; nobody looks at them.</p>
    {:else}
      <div class="fixed" bind:clientHeight={fixed}>
        <VerdictBar
          parts={s.parts}
          verdict={s.verdict ?? null}
          missing={s.missing}
          signed={s.card.state === 'Signed'}
        />
        <div class="pieces" role="group" aria-label="Pieces of the sample">
          {#each pieces as p (p)}
            <button
              class:bad={bad(p)}
              class:done={done(p)}
              aria-pressed={p === inHand}
              onclick={() => (chosen = p)}
              aria-label="Piece {p}{bad(p) ? ', nonconforming' : done(p) ? ', good' : ''}">{p}</button
            >
          {/each}
        </div>
      </div>
      {#if error && s.card.state === 'Drawn'}
        <div class="pad row" role="group" aria-label="What is asked">
          <ProblemNote {error} />
          {#if asked && code === 'value-doubtful'}<button class="button" id="sure" onclick={again}
              >It is right, it counts</button
            >
          {:else if asked && code === 'reason-missing'}
            <Field label="Why it is changed"><input name="reason" bind:value={reason} maxlength="200" /></Field><button
              class="button"
              id="with-reason"
              onclick={again}>{asked?.clears ? 'Clear it' : 'Change it'}</button
            >{/if}
        </div>
      {/if}
      <SheetGrid
        sheet={s}
        {seen}
        {inHand}
        {chosen}
        {fixed}
        {kept}
        {sent}
        refused={asked}
        find={(piece, characteristic, value, pass) => void find(piece, characteristic, value, pass)}
        clear={(piece, characteristic) => void clear(piece, characteristic)}
      />
    {/if}
  {/if}
  {#snippet foot()}
    {#if s}<SheetFoot sheet={s} putBack={() => void putBack()} changed={() => sheet.refetch()} />{/if}
  {/snippet}
  {#snippet trail()}
    {#if s}<SheetTrail sheet={s} {inHand} changed={() => sheet.refetch()} />{/if}
  {/snippet}
</BenchFrame>

<style>
  .fixed {
    position: sticky;
    top: 0;
    background: var(--paper);
    z-index: 1;
  }
  .pieces {
    display: flex;
    flex-wrap: wrap;
    gap: 3px;
    padding: 10px 18px;
    max-height: 172px;
    overflow-y: auto;
  }
  .pieces button {
    width: 32px;
    height: 32px;
    border: 1.5px dashed var(--stone-3);
    font-family: var(--code);
    font-weight: 600;
    font-size: 13px;
  }
  .hands {
    display: flex;
    gap: 12px;
    align-items: center;
  }
  .pieces .done {
    border: 1.5px solid var(--load-line);
    background: var(--load);
  }
  .pieces .bad {
    background: var(--disc);
    color: var(--paper);
    clip-path: polygon(0 0, 100% 0, 85% 50%, 100% 100%, 0 100%);
  }
  .pieces [aria-pressed='true'] {
    outline: 3px solid var(--lamp);
  }
  /* On a phone one piece at a time, its values below each other: nothing runs sideways. */
  @media (max-width: 700px) {
    .fixed {
      position: static;
    }
  }
</style>
