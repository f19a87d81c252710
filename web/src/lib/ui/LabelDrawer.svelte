<script lang="ts">
  /** In the demo, the sheet of labels lies over the foot of any page, so that a newcomer without a scanner can scan. */
  import Tags from '@lucide/svelte/icons/tags';
  import { page } from '$app/state';
  import { scanLine } from '$lib/scan.svelte';
  import LabelSheet from './LabelSheet.svelte';
  let open = $state(false);
  const arrival = $derived(page.url.pathname.startsWith('/door/') ? (page.params['arrival'] ?? '') : '');
</script>

{#if !page.url.pathname.startsWith('/labels')}
  <div class="drawer" class:open>
    <button class="tab" aria-expanded={open} onclick={() => (open = !open)} id="labels-tab"
      ><Tags size={16} /> Demo labels</button
    >
    {#if open}
      <section aria-label="Demo labels"><LabelSheet {arrival} onpress={(text) => void scanLine.scan(text)} /></section>
    {/if}
  </div>
{/if}

<style>
  .drawer {
    position: relative;
    flex: none;
    height: 0;
    z-index: 10;
  }
  .tab {
    position: absolute;
    right: 12px;
    bottom: 0;
    background: var(--stone-1);
    border: 2px solid var(--wall);
    border-bottom: 0;
    border-radius: 4px 4px 0 0;
    min-height: 32px;
    padding: 0 12px;
    font-size: 13px;
    font-weight: 600;
    display: flex;
    gap: 7px;
    align-items: center;
  }
  .open .tab {
    bottom: min(46dvh, 380px);
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
  @media (max-width: 700px) {
    .tab {
      right: 6px;
      padding: 0 8px;
    }
  }
</style>
