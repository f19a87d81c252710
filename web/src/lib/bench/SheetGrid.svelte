<script lang="ts">
  /** Values and looks, piece by piece: what is found goes into the row in hand; on a phone one piece at a time. */
  import type { Schemas } from '$lib/api/client';
  import type { Waiting } from '$lib/door/waiting.svelte';
  import { session } from '$lib/session.svelte';
  import LimitRule from '$lib/ui/LimitRule.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { hadBy, isAsked, limitsOf } from './limits';
  let {
    sheet,
    seen,
    inHand,
    chosen,
    fixed,
    kept,
    sent,
    refused,
    find,
    clear,
  }: {
    sheet: Schemas['SheetAnswer'];
    /** The pieces that are shown. */
    seen: number[];
    inHand: number;
    chosen: number;
    /** Height of what stays in sight above. */
    fixed: number;
    /** Findings that are kept on this device and not sent yet, by piece and characteristic. */
    kept: Map<string, Waiting>;
    /** Findings that are on their way, by piece and characteristic. */
    sent: Map<string, { value: string | null; pass: boolean | null }>;
    /** What was refused last, to be put right where it was typed. */
    refused: { piece: number; characteristic: number; value: string | null } | undefined;
    find: (piece: number, characteristic: number, value: string | null, pass: boolean | null) => void;
    clear: (piece: number, characteristic: number) => void;
  } = $props();
  const key = (piece: number, characteristic: number) => `${piece} ${characteristic}`;
  const findings = $derived(new Map(sheet.findings.map((f) => [key(f.piece, f.characteristic), f])));
  const cleared = $derived(new Map(sheet.cleared.map((c) => [key(c.piece, c.characteristic), c])));
  const said = (w: Waiting, c: Schemas['CharacteristicView']) => {
    const body = w.step?.body;
    if (body && 'text' in body) return body.text;
    if (!body || !('pass' in body)) return '';
    return c.unit ? body.value : body.pass ? c.passWord : c.failWord;
  };
  /** A field that is emptied clears what stood there; one that was empty says nothing. */
  function typed(piece: number, characteristic: number, text: string, isThere: boolean) {
    if (text.trim()) find(piece, characteristic, text, null);
    else if (isThere) clear(piece, characteristic);
  }
  const isOpen = $derived(sheet.card.state === 'Drawn' && session.may('Inspect'));
  const noted = $derived(new Set([...sheet.notes, ...sheet.pictures].map((n) => n.piece)));
  const names = $derived(new Map(sheet.pieces.map((n) => [n.piece, n.name])));
</script>

<table class="list sheet" class:one={inHand > 0} data-scans="line" style:--fixed="{fixed}px">
  <thead>
    <tr
      ><th>Piece</th>{#each sheet.characteristics as c (c.id)}<th
          >{c.name}<br /><span class="quiet">{c.class.toLowerCase()} · {limitsOf(c)}{hadBy(c)}</span></th
        >{/each}</tr
    >
  </thead>
  <tbody>
    {#each seen as p (p)}
      <tr class:hand={p === inHand && sheet.card.state !== 'Signed'} class:chosen={p === chosen} data-piece={p}>
        <td class="c"
          ><b>{p}</b>{#if names.has(p)}<span class="noted">{names.get(p)}</span>{/if}{#if noted.has(p)}<span
              class="noted">noted</span
            >{/if}</td
        >
        {#each sheet.characteristics as c (c.id)}
          {@const f = findings.get(key(p, c.id))}
          {@const waits = kept.get(key(p, c.id))}
          {@const goes = sent.get(key(p, c.id))}
          {@const was = f?.before ?? cleared.get(key(p, c.id))?.was ?? []}
          <td
            class:out={f && !f.conforms}
            class:spare={!isAsked(c, p)}
            data-label="{c.name}, {limitsOf(c)}{hadBy(c)}"
            data-cell="{p} {c.id}"
          >
            {#if !isAsked(c, p)}<span class="quiet">not asked</span>
            {:else if waits}<b class="c">{said(waits, c)}</b> <span class="quiet">kept here, not sent yet</span>
            {:else if goes}<b class="c">{c.unit ? goes.value : goes.pass ? c.passWord : c.failWord}</b>
            {:else if c.unit}
              <span class="value">
                {#if isOpen && p === inHand}
                  <input
                    class="plain c"
                    inputmode="decimal"
                    aria-label="{c.name}, piece {p}, {c.unit}"
                    data-characteristic={c.id}
                    data-open={f ? undefined : ''}
                    value={f?.value ?? (refused?.piece === p && refused.characteristic === c.id ? refused.value : '')}
                    onchange={(e) => typed(p, c.id, e.currentTarget.value, f !== undefined)}
                  />
                {:else}<b class="c">{f ? f.value : ''}</b>{/if}
                {#if was.length}<span class="quiet">was {was.join('; ')}</span>{/if}
                <LimitRule value={f?.value ?? null} lower={c.lower} upper={c.upper} />
              </span>
            {:else if f && !(isOpen && p === inHand)}
              <Mark kind={f.conforms ? 'done' : 'disc'} word={f.conforms ? c.passWord : c.failWord} />
            {:else if isOpen}
              <span class="looks">
                <button
                  class="button"
                  data-open={f ? undefined : ''}
                  aria-pressed={f?.conforms === true}
                  onclick={() => find(p, c.id, null, true)}>{f?.conforms === true ? '✓ ' : ''}{c.passWord}</button
                >
                <button class="button" aria-pressed={f?.conforms === false} onclick={() => find(p, c.id, null, false)}
                  >{f?.conforms === false ? '✕ ' : ''}{c.failWord}</button
                >
              </span>
            {/if}
            {#if f && isOpen && p === inHand}<button
                class="link clear"
                aria-label="Clear {c.name}, piece {p}"
                onclick={() => clear(p, c.id)}>Clear</button
              >{/if}
          </td>
        {/each}
      </tr>
    {/each}
  </tbody>
</table>

<style>
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
  .noted {
    display: block;
    font-size: 12px;
    color: var(--peat-2);
  }
  .clear {
    font-size: 13px;
  }
  /* On a phone one piece at a time, its values below each other: nothing runs sideways. */
  @media (max-width: 700px) {
    .sheet,
    .sheet :global(tbody),
    .sheet tr,
    .sheet td {
      display: block;
    }
    .sheet :global(thead),
    .sheet.one tr:not(.hand):not(.chosen),
    .sheet .spare {
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
    .sheet td:first-child b::before {
      content: 'Piece ';
    }
    .value input {
      width: 120px;
    }
  }
</style>
