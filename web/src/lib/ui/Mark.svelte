<script lang="ts">
  /** A status: always word, shape and colour together. */
  import type { Schemas } from '$lib/api/client';
  import StandingShape from './StandingShape.svelte';
  type Kind =
    'usable' | 'inspect' | 'held' | 'rejected' | 'disc' | 'done' | 'late' | 'falls' | 'today' | 'ontime' | 'open';
  const shapes: { [K in Kind]?: Schemas['MarkShape'] } = {
    usable: 'Square',
    inspect: 'HalfCircle',
    held: 'BarredSquare',
    rejected: 'CrossedSquare',
  };
  let { kind, word }: { kind: Kind; word: string } = $props();
</script>

<span class="status {kind}">
  {#if shapes[kind]}
    <StandingShape shape={shapes[kind]} />
  {:else}
    <svg viewBox="0 0 14 14" width="13" height="13" aria-hidden="true">
      {#if kind === 'disc'}
        <path d="M1 1.5h12L10.2 4.3 13 7l-2.8 2.7L13 12.5H1z" fill="currentColor" />
      {:else if kind === 'done'}
        <path d="M1.8 7.6 5.4 11 12.4 3" fill="none" stroke="currentColor" stroke-width="2.2" />
      {:else if kind === 'late' || kind === 'falls'}
        <path d="M5 2.6H.9v8.8H5" fill="none" stroke="currentColor" stroke-width="1.4" stroke-dasharray="2 1.5" />
        <path
          d="M6 2.2h7.4v9.6H6z"
          fill={kind === 'late' ? 'currentColor' : 'none'}
          stroke="currentColor"
          stroke-width="1.4"
        />
      {:else if kind === 'today'}
        <path d="M7 .5v13" stroke="currentColor" stroke-width="1.8" />
        <circle cx="7" cy="7" r="3.5" fill="currentColor" />
      {:else if kind === 'ontime'}
        <path d="M7 1.6 12.4 7 7 12.4 1.6 7z" fill="none" stroke="currentColor" stroke-width="1.6" />
      {:else}
        <path
          d="M1.8 1.8h10.4v10.4H1.8z"
          fill="none"
          stroke="currentColor"
          stroke-width="1.5"
          stroke-dasharray="2.4 1.8"
        />
      {/if}
    </svg>
  {/if}
  {word}
</span>

<style>
  .status {
    display: inline-flex;
    align-items: center;
    gap: 5px;
    white-space: nowrap;
    font-weight: 600;
    font-size: 13px;
    line-height: 1.2;
    vertical-align: middle;
  }
  .usable {
    color: var(--usable);
  }
  .inspect {
    color: var(--inspect);
  }
  .held {
    color: var(--held);
  }
  .disc {
    color: var(--disc);
  }
  .late,
  .falls {
    color: var(--late);
  }
  .ontime,
  .open {
    color: var(--peat-2);
  }
</style>
