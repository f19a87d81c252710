<script lang="ts">
  /** The gauges that a sheet measures with, and those that do not type: by a serial line, or by the reader program. */
  import { ask, type Schemas } from '$lib/api/client';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  import { onDestroy } from 'svelte';
  import { onScale } from '$lib/door/scale';
  import { GaugeLine } from './gaugeLine.svelte';
  /** Units of mass that a scale's kilograms are converted to. */
  const masses = new Set(['g', 'kg', 't', 'lb', 'oz']);
  let { sheet }: { sheet: Schemas['SheetAnswer'] } = $props();
  const kept = createQuery(() => ({
    queryKey: ['bench', 'gauges', session.site],
    queryFn: () => ask('/api/{site}/bench/gauges'),
  }));
  const overdue = $derived((kept.data ?? []).filter((g) => g.why && g.plans.includes(sheet.plan)));
  const line = new GaugeLine((text) => scanLine.scan(text));
  onDestroy(() => line.letGo());
  const hasMass = $derived(sheet.characteristics.some((c) => c.unit !== null && masses.has(c.unit)));
  let said = $state('');
  /** What is on the scale goes where a gauge's value goes: into the field in hand, else the only one that wants a weight. */
  async function weigh() {
    const last = await onScale('/api/{site}/bench/scales');
    said = typeof last === 'string' ? last : `${last.kilograms} kg from ${last.scale}.`;
    if (typeof last !== 'string') await scanLine.scan(`${last.kilograms} kg`);
  }
</script>

<section class="trail-part">
  <h2>Gauges</h2>
  {#each overdue as g (g.name)}<p><Mark kind="disc" word={g.name} /> {g.why}</p>{/each}
  {#if line.connected}
    <p>{line.connected} sends to this sheet.</p>
    <button class="button" id="gauge-let-go" onclick={() => line.letGo()}>Let it go</button>
  {:else}
    <span class="row">
      {#if line.hasSerial}<button class="button" id="gauge-serial" onclick={() => void line.connectSerial()}
          >Connect a gauge</button
        >{/if}
      <button class="button" id="gauge-reader" onclick={() => line.listen()}>Listen to the reader</button>
      {#if hasMass}<button class="button" id="gauge-scale" onclick={() => void weigh()}>Read the scale</button>{/if}
    </span>
  {/if}
  {#if said}<p class="quiet" role="status">{said}</p>{/if}
  {#if line.trouble}<p class="quiet" role="status">{line.trouble}</p>{/if}
</section>

<style>
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
</style>
