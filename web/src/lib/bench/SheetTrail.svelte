<script lang="ts">
  /** What stands beside a sheet: why it is here, how to look, what the vendor's lots say, severity, what was found, notes. */
  import { ask, type Schemas } from '$lib/api/client';
  import PicturesOf from '$lib/door/PicturesOf.svelte';
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { counted } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  import SeverityLine from './SeverityLine.svelte';
  import MarkedPicture from './MarkedPicture.svelte';
  import SheetGauges from './SheetGauges.svelte';
  import SheetNotes from './SheetNotes.svelte';
  import SheetSample from './SheetSample.svelte';
  import { limitsOf } from './limits';
  let { sheet, inHand, changed }: { sheet: Schemas['SheetAnswer']; inHand: number; changed: () => Promise<unknown> } =
    $props();
  /** What the vendor's past lots say of this one, before it fails. */
  const coming = createQuery(() => ({
    queryKey: ['bench', 'coming', session.site, sheet.card.itemId, sheet.card.vendorId],
    queryFn: () => ask('/api/{site}/bench/coming', { item: sheet.card.itemId, vendor: sheet.card.vendorId! }),
    enabled: sheet.card.vendorId !== null,
  }));
  const warned = $derived(
    (coming.data ?? []).filter(
      (c) => c.planId === sheet.planId && (c.state === 'PassesLimit' || c.state === 'RuleBroken'),
    ),
  );
</script>

{#if sheet.card.arrival}<PicturesOf arrival={sheet.card.arrival} item={sheet.card.item} />{/if}
<section class="trail-part">
  <h2>Why it is here</h2>
  <p>{sheet.whyHere}</p>
  {#if sheet.skipWhy}<p>{sheet.skipWhy}</p>{/if}
  {#if sheet.supersedes}<p>
      It stands in the place of <a class="link c" href="/bench/{sheet.supersedes}">{sheet.supersedes}</a>.
    </p>{/if}
</section>
<section class="trail-part">
  <h2>How to look</h2>
  {#each sheet.characteristics as c (c.id)}<p>
      <b>{c.name}</b>
      {c.instruction} <span class="quiet">{limitsOf(c)}{c.usesUp ? ', the piece is used up' : ''}</span>
    </p>
    {#if c.picture}<MarkedPicture id={c.picture.id} of={c.name} marks={c.picture.marks} />{/if}{/each}
</section>
{#if sheet.card.state === 'Drawn' && session.may('Inspect')}<SheetGauges {sheet} />{/if}
{#if sheet.chanceAtAql !== null}
  <section class="trail-part">
    <h2>What this plan does</h2>
    <p>A lot with majors exactly at the AQL passes <b>{Math.round(sheet.chanceAtAql * 100)}</b> times of 100.</p>
  </section>
{/if}
{#each warned as w (w.characteristic)}
  <section class="trail-part">
    <h2>{w.name}, lot after lot</h2>
    <p>
      <Mark kind="disc" word={w.state === 'PassesLimit' ? `in ${counted(w.passesIn ?? 0, 'lot')}` : 'rule broken'} />
      {w.why}
      <a class="link" href="/bench/coming/{w.planId}/{w.itemId}/{w.vendorId}/{w.characteristic}">See the lots</a>
    </p>
  </section>
{/each}
{#if sheet.severities.length}
  <SeverityLine severities={sheet.severities} inspection={sheet.card.number} {changed} />
{/if}
<section class="trail-part">
  <h2>Nonconforming</h2>
  {#each sheet.findings.filter((f) => !f.conforms) as f (`${f.piece}-${f.characteristic}`)}
    <p>
      <Mark kind="disc" word="piece {f.piece}" />
      {sheet.characteristics.find((c) => c.id === f.characteristic)?.name}{f.value !== null ? ` ${f.value}` : ''}, {f.by}
    </p>
  {:else}
    <p class="quiet">None found.</p>
  {/each}
</section>
<SheetNotes {sheet} {inHand} {changed} />
<SheetSample {sheet} {changed} />
