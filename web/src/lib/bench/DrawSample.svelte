<script lang="ts">
  /** A lot that waits for its inspection: the sample is drawn, or the inspection is not wanted any more. */
  import { act, Problem, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Field from '$lib/ui/Field.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  let {
    sheet: s,
    drawn,
    changed,
  }: {
    sheet: Schemas['SheetAnswer'];
    /** The sample is drawn, and the sheet is there as it is since. */
    drawn: () => void;
    changed: () => Promise<unknown>;
  } = $props();
  let error = $state<unknown>();
  let lotSize = $state('');
  let withdrawing = $state(false);
  let why = $state('');
  const code = $derived(error instanceof Problem ? error.code : '');
  async function run(work: () => Promise<unknown>) {
    error = undefined;
    try {
      await work();
      await changed();
      return true;
    } catch (problem) {
      error = problem;
      return false;
    }
  }
  async function draw() {
    const inspection = s.card.number;
    if (await run(() => act('/api/{site}/bench/draw', { inspection, lotSize: lotSize || null }))) drawn();
  }
  async function withdraw(event: SubmitEvent) {
    event.preventDefault();
    const inspection = s.card.number;
    if (await run(() => act('/api/{site}/bench/withdraw', { inspection, reason: why }))) withdrawing = false;
  }
</script>

<div class="pad draw">
  <p>
    {#if s.grows}
      The lot grows while the tally goes on. Drawing the sample fixes it at {s.card.inPacks}; what comes later is a lot
      of its own.
    {:else}
      The sample is drawn from {s.card.inPacks}.
    {/if}
  </p>
  {#if code === 'lot-size-wanted' || code === 'lot-size-absurd'}<Field label={`How many ${s.samplingUnit} the lot has`}
      ><input class="c" name="lot-size" inputmode="numeric" bind:value={lotSize} /></Field
    >{/if}
  {#if session.may('Inspect')}<button class="button go" onclick={draw} id="draw">Draw the sample</button>{/if}
  {#if s.mayBeWithdrawn && session.may('AskInspection')}
    {#if !withdrawing}<button class="link" id="withdraw" onclick={() => (withdrawing = true)}
        >It is not wanted any more</button
      >
    {:else}<form class="hands" onsubmit={withdraw}>
        <Field label="Why it is not wanted"
          ><input name="withdraw-why" bind:value={why} maxlength="200" required autocomplete="off" /></Field
        >
        <button class="button">Withdraw it</button>
        <button class="button" type="button" onclick={() => ((withdrawing = false), (error = undefined))}
          >Leave it</button
        >
      </form>{/if}
  {/if}
  <ProblemNote {error} />
</div>

<style>
  .draw {
    display: flex;
    flex-direction: column;
    gap: 12px;
    align-items: flex-start;
  }
  .hands {
    display: flex;
    gap: 12px;
    align-items: center;
  }
</style>
