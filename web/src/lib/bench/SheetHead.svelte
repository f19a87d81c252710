<script lang="ts">
  /** What a sheet is of, and how much of it is looked at. */
  import type { Schemas } from '$lib/api/client';
  import { number, plural } from '$lib/ui/format';
  let { sheet: s }: { sheet: Schemas['SheetAnswer'] } = $props();
</script>

<div class="head">
  <h1>{s.card.item}</h1>
  <p><a class="link" href="/book?text={s.card.number}">All that happened to {s.card.number}</a></p>
  <p class="quiet">
    {s.card.vendor}{s.card.arrival ? ` · ${s.card.arrival}` : ''}{s.card.batch ? ` · batch ${s.card.batch}` : ''} · {s
      .card.inPacks}{s.card.place ? ` · in ${s.card.place}` : ''}
  </p>
  {#if s.sampleSize > 0}
    <p>
      Lot of <b>{number(s.lotSize)}</b>
      {plural(s.samplingUnit, s.lotSize)}{#if s.letter}, gives code letter <b>{s.letter}</b>{/if}: look at
      <b>{s.sampleSize}</b>
      by
      <a class="link" href="/bench/plans/{s.planId}">{s.plan}, version {s.planVersion}</a>.
      {#each [...new Set(s.parts.map((p) => p.severity))].filter((x) => x !== 'Normal') as x (x)}Severity <b
          >{x.toLowerCase()}</b
        >.{/each}
      {s.card.state !== 'Drawn'
        ? ''
        : s.letsUse
          ? 'Only the sample waits; the rest may be used.'
          : 'The whole lot waits.'}
    </p>
  {/if}
</div>
