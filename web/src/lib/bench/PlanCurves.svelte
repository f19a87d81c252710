<script lang="ts" module>
  const round = (value: number) => Math.round(value * 100) / 100;
</script>

<script lang="ts">
  /** Lots passed of 100 by the quality that comes in: the version in force dashed, the draft drawn through, the vendor's hill on the same
   * axis with its 5-to-95 range. */
  import { number } from '$lib/ui/format';
  import type { Schemas } from '$lib/api/client';
  import { Area, Axis, Chart, Spline, Svg } from 'layerchart';
  let { does }: { does: Schemas['PlanDoesAnswer'] } = $props();
  type Point = { x: number; y: number };
  const line = (passes: number[] | undefined): Point[] =>
    (passes ?? []).map((y, i) => ({ x: does.qualities[i] ?? 0, y }));
  const old = $derived(line(does.inForce?.passes));
  const next = $derived(line(does.draft?.passes));
  const most = $derived(does.qualities.at(-1) ?? 10);
  const hill = $derived((does.vendor?.density ?? []).map((d, i) => ({ x: does.qualities[i] ?? 0, y: d * 42 })));
  const inRange = $derived(hill.filter((p) => does.vendor && p.x >= does.vendor.low && p.x <= does.vendor.high));
  const knows = $derived((does.vendor?.inspected ?? 0) > 0);
  const what = $derived(does.perHundred ? 'nonconformities per 100' : 'nonconforming pieces in the lot, of 100');
  const words = $derived(
    [does.inForce, does.draft]
      .filter((d) => d !== null && d !== undefined)
      .map((d) => `version ${d.version} passes ${number(Math.round(d.forVendor))} of 100 lots`)
      .join(', '),
  );
</script>

<figure>
  <figcaption>lots passed of 100, by {what}</figcaption>
  <div class="chart" role="img" aria-label="{words}, of the quality that is usual">
    <Chart
      data={old.length ? old : next}
      x="x"
      y="y"
      xDomain={[0, most]}
      yDomain={[0, 100]}
      padding={{ left: 36, bottom: 26, top: 8, right: 12 }}
    >
      <Svg>
        <Axis placement="left" grid={{ stroke: 'var(--stone-2)' }} ticks={[0, 25, 50, 75, 100]} tickMarks={false} />
        <Axis placement="bottom" rule ticks={8} />
        {#if knows}
          <Area data={hill} x="x" y0={() => 0} y1="y" fill="var(--stone-1)" line={{ stroke: 'var(--peat-2)' }} />
          <Area data={inRange} x="x" y0={() => 0} y1="y" fill="var(--load)" />
          <Spline
            data={[
              { x: does.vendor!.low, y: 0 },
              { x: does.vendor!.high, y: 0 },
            ]}
            x="x"
            y="y"
            stroke="var(--peat)"
            strokeWidth={4}
          />
        {/if}
        {#if old.length}<Spline data={old} x="x" y="y" stroke="var(--peat-2)" strokeWidth={2} class="dashed" />{/if}
        {#if next.length}<Spline data={next} x="x" y="y" stroke="var(--peat)" strokeWidth={3} />{/if}
      </Svg>
    </Chart>
  </div>
  <p class="key">
    {#if does.inForce}<span
        ><svg width="30" height="8" aria-hidden="true"
          ><path d="M0 4H30" stroke="var(--peat-2)" stroke-width="2" stroke-dasharray="7 4" /></svg
        >
        version {does.inForce.version}, in force</span
      >{/if}
    {#if does.draft}<span
        ><svg width="30" height="8" aria-hidden="true"><path d="M0 4H30" stroke="var(--peat)" stroke-width="3" /></svg>
        version {does.draft.version}, draft</span
      >{/if}
    {#if does.vendor}<span
        >{#if knows}<svg width="30" height="8" aria-hidden="true"
            ><path d="M0 6H30" stroke="var(--peat)" stroke-width="4" /></svg
          >
          <b>{does.vendor.vendor}: about {number(round(does.vendor.mean))} %</b> (9 in 10 sure: {number(
            round(does.vendor.low),
          )} to {number(round(does.vendor.high))} %){:else}Nothing is known of {does.vendor.vendor} yet; Jeffreys' prior alone
          says nothing worth drawing.{/if}</span
      >{/if}
  </p>
</figure>

<style>
  figure {
    margin: 0;
    padding: 8px 18px 4px;
  }
  figcaption {
    font-size: 13px;
    color: var(--peat-2);
  }
  .chart {
    height: 230px;
  }
  .chart :global(text) {
    font: 500 13px var(--code);
    fill: var(--peat-2);
    stroke: none;
  }
  .chart :global(.dashed) {
    stroke-dasharray: 7 4;
  }
  .key span {
    display: inline-flex;
    gap: 8px;
    align-items: center;
  }
  .key {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 18px;
    font-size: 14px;
  }
</style>
