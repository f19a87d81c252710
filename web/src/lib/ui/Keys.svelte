<script lang="ts">
  /** The list of keys. */
  import { Dialog, Portal } from '@skeletonlabs/skeleton-svelte';
  let { open = $bindable(false) }: { open: boolean } = $props();
  const keys: [string, string][] = [
    ['Alt 1 … Alt 8', 'Road, Yard, Door, Bench, Cage, Shelf, Book, Site'],
    ['Alt S', 'the scan line'],
    ['Alt T', 'at a tally: takes what is in hand'],
    ['Alt Z', 'at a tally: takes your last count back'],
    ['Tab, Enter', 'through the queue and the work'],
    ['Escape', 'empties the scan line, closes what lies over the page'],
    ['F1', 'this list'],
  ];
</script>

<Dialog {open} onOpenChange={(e) => (open = e.open)}>
  <Portal>
    <Dialog.Backdrop class="veil" />
    <Dialog.Positioner class="over">
      <Dialog.Content class="over-sheet">
        <Dialog.Title class="text-lg font-bold">Keys</Dialog.Title>
        <table class="list">
          <tbody>
            {#each keys as [key, what] (key)}<tr><td class="c nowrap">{key}</td><td>{what}</td></tr>{/each}
          </tbody>
        </table>
        <div class="row"><Dialog.CloseTrigger class="button">Close</Dialog.CloseTrigger></div>
      </Dialog.Content>
    </Dialog.Positioner>
  </Portal>
</Dialog>

<style>
  :global(.veil) {
    position: fixed;
    inset: 0;
    background: rgba(35, 29, 21, 0.5);
    z-index: 40;
  }
  :global(.over) {
    position: fixed;
    inset: 0;
    display: grid;
    place-items: center;
    z-index: 41;
    padding: 12px;
  }
  :global(.over-sheet) {
    background: var(--paper);
    color: var(--peat);
    border: 3px solid var(--wall);
    border-radius: 4px;
    padding: 18px;
    display: flex;
    flex-direction: column;
    gap: 12px;
    width: min(760px, 100%);
    max-height: calc(100dvh - 24px);
    overflow-y: auto;
    box-shadow: var(--lift);
  }
</style>
