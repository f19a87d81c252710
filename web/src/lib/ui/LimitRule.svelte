<script lang="ts">
  /** A measured value as a tick on a ruler with its limits marked. */
  let { value, lower, upper }: { value: number | null; lower: number | null; upper: number | null } = $props();
  const low = $derived(lower ?? (upper !== null ? Math.min(0, upper - Math.abs(upper)) : 0));
  const high = $derived(upper ?? low + Math.max(1, Math.abs(low)));
  const span = $derived(high - low || 1);
  const x = (v: number) => 18 + (Math.max(low - span * 0.35, Math.min(high + span * 0.35, v)) - low) * (44 / span);
  const outside = $derived(value !== null && ((lower !== null && value < lower) || (upper !== null && value > upper)));
</script>

<svg viewBox="0 0 80 16" width="64" height="16" aria-hidden="true">
  <path d="M2 10H78" stroke="var(--stone-3)" stroke-dasharray="2 2.5" />
  <path d="M18 10H62" stroke="var(--peat)" stroke-width="1.5" />
  {#if lower !== null}<path d="M18 5V15" stroke="var(--peat)" stroke-width="2" />{/if}
  {#if upper !== null}<path d="M62 5V15" stroke="var(--peat)" stroke-width="2" />{/if}
  {#if value !== null}
    {#if outside}
      <path d="M{x(value) - 3} 2h9l-2.5 3 2.5 3h-9z" fill="var(--disc)" />
    {:else}
      <path d="M{x(value)} 3V13" stroke="var(--peat)" stroke-width="3.5" />
    {/if}
  {/if}
</svg>
