<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import PicturesOf from '$lib/door/PicturesOf.svelte';
  import { page } from '$app/state';
  import { act, ask, Problem, type Schemas } from '$lib/api/client';
  import BenchFrame from '$lib/bench/BenchFrame.svelte';
  import SeverityLine from '$lib/bench/SeverityLine.svelte';
  import VerdictBar from '$lib/bench/VerdictBar.svelte';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import LimitRule from '$lib/ui/LimitRule.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { counted, number, when } from '$lib/ui/format';
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { tick } from 'svelte';
  const which = $derived(page.params['number'] ?? '');
  const sheet = createQuery(() => ({
    queryKey: ['sheet', `inspection:${which}`, session.site],
    queryFn: () => ask('/api/{site}/bench/sheet/{number}', { number: which }),
  }));
  const s = $derived(sheet.data);
  /** What the vendor's past lots say of this one, before it fails. */
  const coming = createQuery(() => ({
    queryKey: ['bench', 'coming', session.site, s?.card.itemId, s?.card.vendorId],
    queryFn: () => ask('/api/{site}/bench/coming', { item: s!.card.itemId, vendor: s!.card.vendorId }),
    enabled: s !== undefined,
  }));
  const warned = $derived((coming.data ?? []).filter((c) => c.state === 'PassesLimit' || c.state === 'RuleBroken'));
  let error = $state<unknown>();
  let name = $state(session.state?.name ?? '');
  let password = $state('');
  let comment = $state('');
  let meaning = $state<Schemas['SignatureMeaning']>('Checked');
  let signed = $state<Schemas['SignAnswer']>();
  const pieces = $derived(Array.from({ length: s?.sampleSize ?? 0 }, (_, i) => i + 1));
  const byPlace = $derived(new Map((s?.findings ?? []).map((f) => [`${f.piece} ${f.characteristic}`, f])));
  const badPieces = $derived(new Set((s?.findings ?? []).filter((f) => !f.conforms).map((f) => f.piece)));
  const finding = (piece: number, characteristic: number) => byPlace.get(`${piece} ${characteristic}`);
  const bad = (piece: number) => badPieces.has(piece);
  const done = (piece: number) =>
    s?.characteristics.every((c) => piece > c.sampleSize || finding(piece, c.id)) ?? false;
  const next = $derived(pieces.find((p) => !done(p)) ?? 0);
  let chosen = $state(0);
  /** Height of what stays in sight above the table. */
  let fixed = $state(0);
  const inHand = $derived(chosen || next);
  /** Every piece of a usual sample; of a large one those about the piece in hand. */
  const seen = $derived(
    pieces.length <= 60 ? pieces : pieces.slice(Math.max(0, Math.max(1, inHand) - 25), Math.max(1, inHand) + 25),
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
        const answer = await run(
          () =>
            act('/api/{site}/bench/gauge', {
              inspection: which,
              piece: inHand,
              text,
              characteristic: cursor ? Number(cursor) : null,
              isSure: false,
            }),
          { piece: inHand, characteristic: cursor ? Number(cursor) : 0, value: text, pass: null },
        );
        if (!answer && error instanceof Problem) return { words: error.sentence, next: error.next, tone: 'refused' };
        return {
          words: answer?.sentence ?? '',
          next: answer?.conforms ? 'the next value' : 'outside its limits',
          tone: answer?.conforms ? 'taken' : 'look',
        };
      }
      const reading = await ask('/api/{site}/scan', { text });
      return { words: reading.words, next: 'a value of the gauge', tone: 'look' };
    }),
  );

  const gaugeValue = /^(?:\p{L}[\p{L} ]*?[ :=]+)?-?\d+(?:\.\d+)?\s*[%\p{L}°µ/]*$/u;
  type Entry = { piece: number; characteristic: number; value: string | null; pass: boolean | null };
  /** What was refused and may be recorded all the same: with a reason, or because it was looked at again. */
  let asked = $state<Entry>();
  let reason = $state('');
  let lotSize = $state('');
  const code = $derived(error instanceof Problem ? error.code : '');
  async function run<T>(work: () => Promise<T>, entry?: Entry): Promise<T | undefined> {
    error = undefined;
    asked = entry;
    try {
      const result = await work();
      asked = undefined;
      reason = '';
      if (entry) await placed(result as Schemas['FindAnswer']);
      else await sheet.refetch();
      return result;
    } catch (problem) {
      error = problem;
      return undefined;
    }
  }
  const queries = useQueryClient();
  /** The finding is on the sheet as the server has it, without asking for the whole sheet again. */
  async function placed(answer: Schemas['FindAnswer']) {
    const { finding, parts, missing, verdict, sampleSize } = answer;
    const wider = sampleSize !== s?.sampleSize;
    queries.setQueryData<Schemas['SheetAnswer']>(
      ['sheet', `inspection:${which}`, session.site],
      (old) =>
        old && {
          ...old,
          parts,
          missing,
          verdict,
          findings: [
            ...old.findings.filter((f) => f.piece !== finding.piece || f.characteristic !== finding.characteristic),
            finding,
          ],
        },
    );
    // A second sample, or a verdict, changes more than the value.
    if (wider || verdict !== null) await sheet.refetch();
    await onward();
  }
  /** The cursor goes to the next open value: a value, Enter, the next. */
  async function onward() {
    if (chosen && done(chosen)) chosen = 0;
    await tick();
    document.querySelector<HTMLElement>('tr.hand [data-open]')?.focus();
  }
  const draw = () => run(() => act('/api/{site}/bench/draw', { inspection: which, lotSize: lotSize || null }));
  const unsign = () => run(() => act('/api/{site}/bench/unsign', { inspection: which }));
  const putBack = () => run(() => act('/api/{site}/bench/put-back', { inspection: which }));
  const find = (piece: number, characteristic: number, value: string | null, pass: boolean | null, isSure = false) =>
    run(
      () =>
        act('/api/{site}/bench/find', {
          inspection: which,
          piece,
          characteristic,
          value,
          pass,
          reason: reason || null,
          isSure,
        }),
      { piece, characteristic, value, pass },
    );
  /** Once more what was asked about: with the reason that was typed, and surely. */
  const again = () => {
    if (!asked) return;
    const { piece, characteristic, value, pass } = asked;
    if (characteristic) void find(piece, characteristic, value, pass, true);
    else
      void run(() =>
        act('/api/{site}/bench/gauge', { inspection: which, piece, text: value!, characteristic: null, isSure: true }),
      );
  };
  async function sign(event: SubmitEvent) {
    event.preventDefault();
    if (!s?.verdict) return;
    const verdict = s.verdict;
    signed = await run(() =>
      act('/api/{site}/bench/sign', { inspection: which, name, password, verdict, comment: comment || null, meaning }),
    );
    password = '';
  }
  function limits(c: Schemas['CharacteristicView']): string {
    if (!c.unit) return `${c.passWord} or ${c.failWord}`;
    if (c.lower !== null && c.upper !== null) return `${number(c.lower)} to ${number(c.upper)} ${c.unit}`;
    return c.upper !== null ? `at most ${number(c.upper)} ${c.unit}` : `at least ${number(c.lower ?? 0)} ${c.unit}`;
  }
</script>

<svelte:head><title>{which} · Bench · Mud Room</title></svelte:head>
<BenchFrame current={which} workTitle={s?.card.item ?? which}>
  {#if sheet.error}<div class="pad"><ProblemNote error={sheet.error} /></div>{/if}
  {#if s}
    <div class="head">
      <h1>{s.card.item}</h1>
      <p><a class="link" href="/book?text={s.card.number}">All that happened to {s.card.number}</a></p>
      <p class="quiet">
        {s.card.vendor} · {s.card.arrival}{s.card.batch ? ` · batch ${s.card.batch}` : ''} · {s.card.inPacks} · in {s
          .card.place ?? 'no place'}
      </p>
      {#if s.sampleSize > 0}
        <p>
          Lot of <b>{number(s.lotSize)}</b>
          {s.samplingUnit}{#if s.letter}, gives code letter <b>{s.letter}</b>{/if}: look at <b>{s.sampleSize}</b> by
          <a class="link" href="/bench/plans/{s.planId}">{s.plan}, version {s.planVersion}</a>.
          {#each [...new Set(s.parts.map((p) => p.severity))].filter((x) => x !== 'Normal') as x (x)}Severity <b
              >{x.toLowerCase()}</b
            >.{/each} The whole lot waits.
        </p>
      {/if}
    </div>
    {#if s.card.state === 'Waiting'}
      <div class="pad draw">
        <p>
          The lot grows while the tally goes on. Drawing the sample fixes it at {s.card.inPacks}; what comes later is a
          lot of its own.
        </p>
        {#if code === 'lot-size-wanted' || code === 'lot-size-absurd'}<Field
            label={`How many ${s.samplingUnit} the lot has`}
            ><input class="c" name="lot-size" inputmode="numeric" bind:value={lotSize} /></Field
          >{/if}
        {#if session.may('Inspect')}<button class="button go" onclick={draw} id="draw">Draw the sample</button>{/if}
        <ProblemNote {error} />
      </div>
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
          {#if code === 'value-doubtful'}<button class="button" id="sure" onclick={again}>It is right, it counts</button
            >
          {:else if code === 'reason-missing'}
            <Field label="Why it is changed"><input name="reason" bind:value={reason} maxlength="200" /></Field><button
              class="button"
              id="with-reason"
              onclick={again}>Change it</button
            >{/if}
        </div>
      {/if}
      <table class="list sheet" class:one={inHand > 0} data-scans="line" style:--fixed="{fixed}px">
        <thead>
          <tr
            ><th>Piece</th>{#each s.characteristics as c (c.id)}<th
                >{c.name}<br /><span class="quiet">{c.class.toLowerCase()} · {limits(c)}</span></th
              >{/each}</tr
          >
        </thead>
        <tbody>
          {#each seen as p (p)}
            <tr class:hand={p === inHand && s.card.state !== 'Signed'} class:chosen={p === chosen} data-piece={p}>
              <td class="c"><b>{p}</b></td>
              {#each s.characteristics as c (c.id)}
                {@const f = finding(p, c.id)}
                <td class:out={f && !f.conforms} data-label="{c.name}, {limits(c)}">
                  {#if p > c.sampleSize}<span class="quiet">not asked</span>
                  {:else if c.unit}
                    <span class="value">
                      {#if s.card.state === 'Drawn' && session.may('Inspect') && p === inHand}
                        <input
                          class="plain c"
                          inputmode="decimal"
                          aria-label="{c.name}, piece {p}, {c.unit}"
                          data-characteristic={c.id}
                          data-open={f ? undefined : ''}
                          value={f?.value ?? ''}
                          onchange={(e) => find(p, c.id, e.currentTarget.value, null)}
                        />
                      {:else}<b class="c">{f ? f.value : ''}</b>{/if}
                      {#if f?.before.length}<span class="quiet">was {f.before.join('; ')}</span>{/if}
                      <LimitRule value={f?.value ?? null} lower={c.lower} upper={c.upper} />
                    </span>
                  {:else if f && !(s.card.state === 'Drawn' && p === inHand)}
                    <Mark kind={f.conforms ? 'done' : 'disc'} word={f.conforms ? c.passWord : c.failWord} />
                  {:else if s.card.state === 'Drawn' && session.may('Inspect')}
                    <span class="looks">
                      <button
                        class="button"
                        data-open={f ? undefined : ''}
                        aria-pressed={f?.conforms === true}
                        onclick={() => find(p, c.id, null, true)}>{f?.conforms === true ? '✓ ' : ''}{c.passWord}</button
                      >
                      <button
                        class="button"
                        aria-pressed={f?.conforms === false}
                        onclick={() => find(p, c.id, null, false)}
                        >{f?.conforms === false ? '✕ ' : ''}{c.failWord}</button
                      >
                    </span>
                  {/if}
                </td>
              {/each}
            </tr>
          {/each}
        </tbody>
      </table>
    {/if}
  {/if}
  {#snippet foot()}
    {#if s?.card.state === 'Signed'}
      <p>
        <Mark kind={s.verdict === 'Accepted' ? 'usable' : 'rejected'} word={s.verdict?.toLowerCase() ?? ''} /> signed by
        <b>{s.signedBy}</b>, {when(s.signedAt)}{s.comment ? `: ${s.comment}` : ''}.
        {signed?.sentence ?? ''}
        <span class="quiet">Sheet <span class="c">{s.sheetHash?.slice(0, 16)}</span>; it cannot be changed.</span>
      </p>
    {:else if s?.card.state === 'Drawn'}
      <ProblemNote {error} />
      {#if s.signatures.length}
        <p>
          {s.signatures[0]!.meaning} by <b>{s.signatures[0]!.by}</b>, {when(s.signatures[0]!.at)}; another person signs
          it too.
          {#if s.signatures[0]!.by === session.state?.name}<button class="button" id="unsign" onclick={unsign}
              >Take the signature back</button
            >{/if}
        </p>
      {/if}
      {#if s.verdict && session.may('SignVerdict') && s.signatures[0]?.by !== session.state?.name}
        <form class="sign" onsubmit={sign}>
          <Field label="Name"><input name="signer" bind:value={name} autocomplete="off" /></Field>
          <Field label="Password"
            ><input name="signature" type="password" bind:value={password} autocomplete="off" /></Field
          >
          <Field label="Meaning"
            ><select name="meaning" bind:value={meaning}
              ><option value="Checked">checked</option><option value="Approved">approved</option><option
                value="Witnessed">witnessed</option
              ></select
            ></Field
          >
          <Field label="Comment" class="wide"><input name="comment" bind:value={comment} maxlength="1000" /></Field>
          <button class="button go"
            >Sign: {s.verdict.toLowerCase()}{s.wantsSecond ? `, ${s.signatures.length + 1} of 2` : ''}</button
          >
        </form>
      {:else}
        <p class="quiet">
          {s.missing} findings are still to be made.
          {#if s.findings.length === 0 && session.may('Inspect')}<button class="button" id="put-back" onclick={putBack}
              >Put the sample back</button
            >{/if}
        </p>
      {/if}
    {/if}
  {/snippet}
  {#snippet trail()}
    {#if s}
      <PicturesOf arrival={s.card.arrival} item={s.card.item} />
      <section class="trail-part">
        <h2>How to look</h2>
        {#each s.characteristics as c (c.id)}<p>
            <b>{c.name}</b>
            {c.instruction} <span class="quiet">{limits(c)}</span>
          </p>{/each}
      </section>
      {#if s.chanceAtAql !== null}
        <section class="trail-part">
          <h2>What this plan does</h2>
          <p>A lot with majors exactly at the AQL passes <b>{Math.round(s.chanceAtAql * 100)}</b> times of 100.</p>
        </section>
      {/if}
      {#each warned as w (w.characteristic)}
        <section class="trail-part">
          <h2>{w.name}, lot after lot</h2>
          <p>
            <Mark
              kind="disc"
              word={w.state === 'PassesLimit' ? `in ${counted(w.passesIn ?? 0, 'lot')}` : 'rule broken'}
            />
            {w.why}
            <a class="link" href="/bench/coming/{w.itemId}/{w.vendorId}/{w.characteristic}">See the lots</a>
          </p>
        </section>
      {/each}
      {#if s.severities.length}
        <SeverityLine severities={s.severities} inspection={which} changed={() => sheet.refetch()} />
      {/if}
      <section class="trail-part">
        <h2>Nonconforming</h2>
        {#each s.findings.filter((f) => !f.conforms) as f (`${f.piece}-${f.characteristic}`)}
          <p>
            <Mark kind="disc" word="piece {f.piece}" />
            {s.characteristics.find((c) => c.id === f.characteristic)?.name}{f.value !== null ? ` ${f.value}` : ''}, {f.by}
          </p>
        {:else}
          <p class="quiet">None found.</p>
        {/each}
      </section>
    {/if}
  {/snippet}
</BenchFrame>

<style>
  .draw,
  .sign {
    display: flex;
    flex-direction: column;
    gap: 12px;
    align-items: flex-start;
  }
  .sign {
    display: grid;
    grid-template-columns: 1fr 1fr auto 2fr auto;
    gap: 10px;
    align-items: end;
  }
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
  }
  .pieces button {
    width: 32px;
    height: 32px;
    border: 1.5px dashed var(--stone-3);
    font-family: var(--code);
    font-weight: 600;
    font-size: 13px;
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
  .sheet tr {
    scroll-margin: calc(var(--fixed) + 80px) 0 20px;
  }
  .chosen td:first-child {
    box-shadow: inset 4px 0 var(--peat);
  }
  .sheet .hand {
    background: var(--lit-faint);
  }
  .value {
    display: flex;
    gap: 8px;
    align-items: center;
  }
  .value input {
    width: 62px;
    padding: 0 5px;
  }
  .sheet :global(td),
  .sheet :global(th) {
    padding: 6px 6px;
  }
  .sheet th {
    position: sticky;
    top: var(--fixed);
    background: var(--stone-1);
    white-space: normal;
  }
  .out {
    background: var(--disc-w);
  }
  .looks {
    display: flex;
    gap: 6px;
    flex-wrap: wrap;
  }
  .looks .button[aria-pressed='true'] {
    border-color: var(--peat);
    border-width: 2px;
  }
  /* On a phone one piece at a time, its values below each other: nothing runs sideways. */
  @media (max-width: 700px) {
    .fixed {
      position: static;
    }
    .sheet,
    .sheet :global(tbody),
    .sheet tr,
    .sheet td {
      display: block;
    }
    .sheet :global(thead),
    .sheet.one tr:not(.hand):not(.chosen) {
      display: none;
    }
    .sheet td[data-label]::before {
      content: attr(data-label);
      display: block;
      font-size: 14px;
      color: var(--peat-2);
    }
    .sheet td {
      padding: 8px 18px;
    }
    .value input {
      width: 120px;
    }
    .sign {
      grid-template-columns: 1fr;
    }
  }
</style>
