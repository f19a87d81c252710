<script lang="ts">
  /** Changes the person on a shared device: badge, PIN, done. */
  import Field from '$lib/ui/Field.svelte';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import ProblemNote from './ProblemNote.svelte';
  import { Dialog, Portal } from '@skeletonlabs/skeleton-svelte';
  import { useQueryClient } from '@tanstack/svelte-query';
  const client = useQueryClient();
  let pin = $state('');
  let error = $state<unknown>();
  let field = $state<HTMLInputElement>();
  $effect(() => {
    if (scanLine.badge) setTimeout(() => field?.focus(), 30);
  });
  // Only another badge is taken while a PIN is asked for.
  $effect(() => {
    if (scanLine.badge)
      return scanLine.useDialog(async () => ({
        words: 'Not taken: a PIN is wanted here.',
        next: 'type the PIN, or leave it',
        tone: 'refused',
      }));
  });
  function leave() {
    scanLine.badge = '';
    pin = '';
    error = undefined;
  }
  async function change(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    try {
      await session.byBadge(scanLine.badge, pin);
      leave();
      scanLine.said = { words: `${session.state?.name} is here.`, tone: 'taken' };
      await client.invalidateQueries();
    } catch (problem) {
      error = problem;
      pin = '';
    }
  }
</script>

<Dialog open={scanLine.badge !== ''} onOpenChange={(e) => (e.open ? undefined : leave())}>
  <Portal>
    <Dialog.Backdrop class="veil" />
    <Dialog.Positioner class="over">
      <Dialog.Content class="over-sheet">
        <form onsubmit={change} class="change">
          <Dialog.Title class="text-lg font-bold">Somebody else works on here</Dialog.Title>
          <p>Badge <b class="c">{scanLine.badge}</b></p>
          <Field label="PIN"
            ><input
              bind:this={field}
              bind:value={pin}
              name="pin"
              type="password"
              inputmode="numeric"
              autocomplete="off"
              maxlength="12"
              required
            /></Field
          >
          <ProblemNote {error} />
          <div class="row">
            <button class="button go">Work on</button>
            <Dialog.CloseTrigger class="button">Leave it</Dialog.CloseTrigger>
          </div>
        </form>
      </Dialog.Content>
    </Dialog.Positioner>
  </Portal>
</Dialog>

<style>
  .change {
    display: flex;
    flex-direction: column;
    gap: 12px;
  }
</style>
