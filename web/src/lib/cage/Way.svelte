<script lang="ts">
  /** The way of a return as a path of stations: trodden as far as it is done, stepping stones where it still goes. */
  import type { Schemas } from '$lib/api/client';
  let { way }: { way: Schemas['ChainLink'][] } = $props();
  const next = $derived(way.findIndex((w) => !w.closed));
</script>

<ol class="way">
  {#each way as station, i (station.word)}
    <li class:done={station.closed} class:next={i === next}>
      <b>{station.word}</b><span class="sr-only">{station.closed ? ', done' : i === next ? ', next' : ', to come'}</span
      >
      <span class="what" class:quiet={!station.closed && i !== next}>{station.sentence}</span>
    </li>
  {/each}
</ol>

<style>
  .way {
    list-style: none;
    margin: 0;
    padding: 0;
    display: grid;
    gap: 0;
  }
  li {
    position: relative;
    display: grid;
    grid-template-columns: 110px 1fr;
    gap: 10px;
    padding: 3px 0 3px 30px;
    min-height: 30px;
    align-items: baseline;
  }
  li::before {
    content: '';
    position: absolute;
    left: 7px;
    top: 10px;
    width: 8px;
    height: 8px;
    border: 2px solid var(--stone-3);
    border-radius: 3px;
    background: var(--paper);
    transform: rotate(45deg);
    z-index: 1;
  }
  li:not(:last-child)::after {
    content: '';
    position: absolute;
    left: 12px;
    top: 20px;
    bottom: -12px;
    border-left: 2px dashed var(--stone-3);
  }
  li.done::before {
    background: var(--load-line);
    border-color: var(--load-line);
  }
  li.done::after {
    border-left-style: solid;
    border-color: var(--load-line);
  }
  li.next::before {
    border-color: var(--peat);
    border-width: 3px;
  }
  li.next {
    background: var(--lit-faint);
  }
  @media (max-width: 700px) {
    li {
      grid-template-columns: 1fr;
      gap: 0;
    }
  }
</style>
