<script lang="ts">
  /** The gauges that a sheet measures with, and those that do not type: by a serial line, or by the reader program. */
  import { ask, type Schemas } from '$lib/api/client';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  import { onDestroy } from 'svelte';
  import ReadScale from '$lib/door/ReadScale.svelte';
  import { GaugeLine } from './gaugeLine.svelte';
  let { sheet }: { sheet: Schemas['SheetAnswer'] } = $props();
  const kept = createQuery(() => ({
    queryKey: ['bench', 'gauges', session.site],
    queryFn: () => ask('/api/{site}/bench/gauges'),
  }));
  const overdue = $derived((kept.data ?? []).filter((g) => g.why && g.plans.includes(sheet.plan)));
  const line = new GaugeLine((text) => scanLine.scan(text));
  onDestroy(() => line.letGo());
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
    </span>
  {/if}
  {#if sheet.characteristics.some((c) => c.isWeighed)}<ReadScale
      id="gauge-scale"
      path={'/api/{site}/bench/scales'}
      take={(scale) => scanLine.scan(`${scale.kilograms} kg`)}
    />{/if}
  {#if line.trouble}<p class="quiet" role="status">{line.trouble}</p>{/if}
</section>

<style>
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
</style>
