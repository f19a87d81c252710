<script lang="ts">
  /** In the demo, the sheet of labels lies over the foot of any page, so that a newcomer without a scanner can scan. */
  import { page } from '$app/state';
  import { scanLine } from '$lib/scan.svelte';
  import LabelSheet from './LabelSheet.svelte';
  import Scale from './Scale.svelte';
  import { session } from '$lib/session.svelte';
  let { open }: { open: boolean } = $props();
  const arrival = $derived(page.url.pathname.startsWith('/door/') ? (page.params['arrival'] ?? '') : '');
</script>

{#if open}
  <div class="drawer">
    <section aria-label="Demo labels">
      {#if session.may('Tally') || session.may('Inspect')}<Scale />{/if}
      <LabelSheet {arrival} onpress={(text) => void scanLine.scan(text)} />
    </section>
  </div>
{/if}

<style>
  .drawer {
    position: relative;
    flex: none;
    height: 0;
    z-index: 10;
  }
  section {
    position: absolute;
    left: 0;
    right: 0;
    bottom: 0;
    height: min(46dvh, 380px);
    background: var(--ground);
    border-top: 2px solid var(--wall);
    overflow-y: auto;
    padding: 10px 16px;
  }
</style>
