<script lang="ts">
  /** A status: always word, shape and colour together. */
  type Kind =
    'usable' | 'inspect' | 'held' | 'rejected' | 'disc' | 'done' | 'late' | 'falls' | 'today' | 'ontime' | 'open';
  let { kind, word }: { kind: Kind; word: string } = $props();
</script>

<span class="status {kind}">
  <svg viewBox="0 0 14 14" width="13" height="13" aria-hidden="true">
    {#if kind === 'usable'}
      <rect x="1.5" y="1.5" width="11" height="11" fill="currentColor" />
    {:else if kind === 'inspect'}
      <circle cx="7" cy="7" r="5.4" fill="none" stroke="currentColor" stroke-width="1.7" />
      <path d="M7 1.6a5.4 5.4 0 0 0 0 10.8z" fill="currentColor" />
    {:else if kind === 'held'}
      <rect x="1.6" y="1.6" width="10.8" height="10.8" fill="none" stroke="currentColor" stroke-width="1.7" />
      <path d="M5.2 1.6v10.8M8.8 1.6v10.8" stroke="currentColor" stroke-width="1.7" />
    {:else if kind === 'rejected'}
      <path d="M1.5 1.5h11v11h-11z" fill="currentColor" />
      <path d="M4.2 4.2l5.6 5.6M9.8 4.2 4.2 9.8" stroke="var(--paper)" stroke-width="1.7" />
    {:else if kind === 'disc'}
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
