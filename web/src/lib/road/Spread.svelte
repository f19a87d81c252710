<script lang="ts">
  /** How the runs of the forecast end: each bar ten minutes; what passes the end of the shift is hatched. */
  import type { Schemas } from '$lib/api/client';
  import { time } from '$lib/ui/format';
  let { bars, likely, ends }: { bars: Schemas['SpreadBar'][]; likely: string; ends: string } = $props();
  const most = $derived(Math.max(0.01, ...bars.map((b) => b.share)));
  const width = $derived(220 / Math.max(1, bars.length));
  const shift = $derived(bars.findIndex((b) => b.from >= ends));
</script>

<svg
  viewBox="0 0 230 74"
  width="230"
  height="66"
  role="img"
  aria-label="Most likely clear at {time(likely)}; shift ends {time(ends)}"
>
  <defs>
    <pattern id="over" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <path d="M0 0v5" stroke="var(--late)" stroke-width="2" />
    </pattern>
  </defs>
  {#each bars as b, i (b.from)}
    <rect
      x={5 + i * width}
      y={54 - (b.share / most) * 44}
      width={Math.max(1, width - 1)}
      height={(b.share / most) * 44}
      fill={b.from >= ends ? 'url(#over)' : 'var(--load)'}
      stroke="var(--load-line)"
      stroke-width="0.6"
    />
  {/each}
  <path d="M0 54H230" stroke="var(--load-line)" stroke-width="1.5" />
  {#if shift > 0}
    <path d="M{5 + shift * width} 4V54" stroke="var(--late)" stroke-dasharray="3 2" stroke-width="1.5" />
    <text x={Math.min(150, 8 + shift * width)} y="12" font-size="11" fill="var(--late)">{time(ends)} shift ends</text>
  {/if}
  {#each bars as b, i (b.from)}
    {#if b.from <= likely && (bars[i + 1]?.from ?? '9') > likely}
      <path d="M{5 + (i + 0.5) * width} 10V58" stroke="var(--peat)" stroke-width="2.5" />
      <text x={5 + (i + 0.5) * width} y="71" text-anchor="middle" font-size="12.5" font-weight="700" fill="var(--peat)"
        >{time(likely)}</text
      >
    {/if}
  {/each}
</svg>

<style>
  text {
    font-family: var(--code);
  }
</style>
