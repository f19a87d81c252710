<script lang="ts">
  /** The shape of a standing, in the colour of the text around it. */
  import type { Schemas } from '$lib/api/client';
  let { shape }: { shape: Schemas['MarkShape'] } = $props();
</script>

<svg viewBox="0 0 14 14" width="13" height="13" aria-hidden="true">
  {#if shape === 'Square'}
    <rect x="1.5" y="1.5" width="11" height="11" fill="currentColor" />
  {:else if shape === 'HalfCircle'}
    <circle cx="7" cy="7" r="5.4" fill="none" stroke="currentColor" stroke-width="1.7" />
    <path d="M7 1.6a5.4 5.4 0 0 0 0 10.8z" fill="currentColor" />
  {:else if shape === 'BarredSquare'}
    <rect x="1.6" y="1.6" width="10.8" height="10.8" fill="none" stroke="currentColor" stroke-width="1.7" />
    <path d="M5.2 1.6v10.8M8.8 1.6v10.8" stroke="currentColor" stroke-width="1.7" />
  {:else if shape === 'CrossedSquare'}
    <path d="M1.5 1.5h11v11h-11z" fill="currentColor" />
    <path d="M4.2 4.2l5.6 5.6M9.8 4.2 4.2 9.8" stroke="var(--paper)" stroke-width="1.7" />
  {:else if shape === 'Ring'}
    <circle cx="7" cy="7" r="5.4" fill="none" stroke="currentColor" stroke-width="1.7" />
    <circle cx="7" cy="7" r="2" fill="currentColor" />
  {:else if shape === 'Triangle'}
    <path d="M7 1.6 13 12.4H1z" fill="currentColor" />
  {:else if shape === 'Hexagon'}
    <path d="M4 1.7h6L13 7l-3 5.3H4L1 7z" fill="none" stroke="currentColor" stroke-width="1.7" />
  {:else if shape === 'Shield'}
    <path d="M1.8 1.6h10.4v5.2c0 3-2.4 4.7-5.2 5.8-2.8-1.1-5.2-2.8-5.2-5.8z" fill="currentColor" />
  {:else if shape === 'Plus'}
    <path d="M5 1.4h4V5h3.6v4H9v3.6H5V9H1.4V5H5z" fill="currentColor" />
  {:else}
    <path d="M1.6 12.6V7a5.4 5.4 0 0 1 10.8 0v5.6" fill="none" stroke="currentColor" stroke-width="2.2" />
  {/if}
</svg>
