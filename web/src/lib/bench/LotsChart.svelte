<script lang="ts">
  /** A characteristic from lot to lot: its usual range, its limits, the run that breaks a rule, and what is to come if it goes on so. */
  import type { Schemas } from '$lib/api/client';
  import { Area, Axis, Chart, Points, Rule, Spline, Svg } from 'layerchart';
  let { coming, onpick }: { coming: Schemas['ComingAnswer']; onpick: (number: string) => void } = $props();
  const lots = $derived(coming.lots.map((l, i) => ({ ...l, i })));
  const last = $derived(lots.length - 1);
  const next = $derived(coming.next.map((value, i) => ({ i: last + 1 + i, value })));
  const run = $derived(lots.filter((l) => l.inRun));
  const values = $derived([
    ...lots.flatMap((l) => [l.value, l.low, l.high]),
    ...next.map((n) => n.value),
    ...[coming.lower, coming.upper].filter((v) => v !== null),
  ]);
  /** A limit far from everything is left out of the picture rather than flattening it. */
  const inside = $derived.by(() => {
    const own = [...lots.flatMap((l) => [l.value, l.low, l.high]), ...next.map((n) => n.value)];
    const [low, high] = [Math.min(...own), Math.max(...own)];
    const room = (high - low || 1) * 1.2;
    const seen = values.filter((v) => v >= low - room && v <= high + room);
    const [least, most] = [Math.min(...seen), Math.max(...seen)];
    const edge = (most - least || 1) * 0.08;
    return [least - edge, most + edge] as [number, number];
  });
  const seen = (v: number | null) => v !== null && v >= inside[0] && v <= inside[1];
  const until = $derived(last + Math.max(1, next.length) + 0.5);
  const short = (v: number) => String(Number(v.toPrecision(3)));
  let chosen = $state<number>();
  const at = $derived(Math.min(chosen ?? last, last));
  function move(event: KeyboardEvent) {
    const by = { ArrowLeft: -1, ArrowRight: 1, Home: -last, End: last }[event.key];
    if (by === undefined && event.key !== 'Enter') return;
    event.preventDefault();
    if (event.key === 'Enter') return onpick(lots[at]!.number);
    chosen = Math.max(0, Math.min(last, event.key === 'Home' ? 0 : event.key === 'End' ? last : at + by!));
  }
  const said = $derived(lots[at]);
  const words = (l: Schemas['ComingLot']) =>
    short(l.value) +
    (coming.unit === 'per piece'
      ? ` per piece, ${l.nonconforming} on ${l.looked}`
      : coming.unit
        ? ` ${coming.unit}, mean of ${l.looked}`
        : ` %, ${l.nonconforming} of ${l.looked}`) +
    (l.low > l.value || l.high < l.value ? ', outside the usual range' : '');
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<div
  class="chart"
  role="application"
  tabindex="0"
  aria-label="{coming.headline} Arrows go from lot to lot, Enter opens its sheet."
  onkeydown={move}
>
  <Chart
    data={lots}
    x="i"
    y="value"
    xDomain={[-0.5, until]}
    yDomain={inside}
    padding={{ left: 54, right: 84, top: 10, bottom: 8 }}
  >
    <Svg>
      <Area data={lots} x="i" y0="low" y1="high" fill="var(--stone-1)" />
      <Axis placement="left" ticks={5} tickMarks={false} format={short} />
      {#if coming.center !== null}<Rule y={coming.center} stroke="var(--peat-2)" />{/if}
      <Spline data={lots} x="i" y="high" class="dashed" stroke="var(--peat-2)" />
      <Spline data={lots} x="i" y="low" class="dashed" stroke="var(--peat-2)" />
      {#if seen(coming.upper)}<Rule y={coming.upper!} stroke="var(--disc)" strokeWidth={3} />{/if}
      {#if seen(coming.lower)}<Rule y={coming.lower!} stroke="var(--disc)" strokeWidth={3} />{/if}
      <Rule x={last + 0.5} stroke="var(--peat)" strokeWidth={2} />
      <Spline data={lots} x="i" y="value" stroke="var(--peat)" strokeWidth={1.5} />
      <Points data={lots} x="i" y="value" r={4.5} fill="var(--peat)" />
      {#if run.length > 1}
        <Spline data={run} x="i" y="value" stroke="var(--disc)" strokeWidth={3.5} />
        <Points data={run} x="i" y="value" r={6} fill="var(--disc)" />
      {/if}
      {#if next.length}
        <Spline data={[lots[last]!, ...next]} x="i" y="value" class="to-come" stroke="var(--disc)" strokeWidth={2} />
        <Points data={next} x="i" y="value" r={6} fill="var(--paper)" stroke="var(--disc)" strokeWidth={2} />
      {/if}
      {#if said}<Points data={[said]} x="i" y="value" r={9} fill="none" stroke="var(--lamp)" strokeWidth={3} />{/if}
    </Svg>
  </Chart>
</div>
<p class="point" aria-live="polite">
  {#if said}<b>{said.number}</b>, {said.on}: {words(said)}{/if}
</p>

<style>
  .chart {
    height: 290px;
    margin: 0 18px;
  }
  .chart:focus-visible {
    outline: 3px solid var(--lamp);
  }
  .chart :global(text) {
    font: 500 13px var(--code);
    fill: var(--peat-2);
    stroke: none;
  }
  .chart :global(.dashed) {
    stroke-dasharray: 7 5;
  }
  .chart :global(.to-come) {
    stroke-dasharray: 2 4;
  }
  .point {
    padding: 0 18px;
    min-height: 24px;
  }
</style>
