<script lang="ts">
  /** Takes a count back, or all of a line; asks why where the server wants to know. */
  import Field from '$lib/ui/Field.svelte';
  import { act, Problem } from '$lib/api/client';
  import { scanLine } from '$lib/scan.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  let {
    arrival,
    count = null,
    part = null,
    serial = null,
    word = 'Take back',
    ondone,
  }: {
    arrival: string;
    count?: string | null;
    part?: number | null;
    /** One piece of several that were counted together. */
    serial?: string | null;
    word?: string;
    ondone: () => void;
  } = $props();
  let asking = $state(false);
  let reason = $state('');
  let error = $state<unknown>();
  let busy = $state(false);
  async function take(why: string | null) {
    if (busy) return;
    busy = true;
    error = undefined;
    try {
      const done = await act('/api/{site}/door/take-back', { arrival, count, part, reason: why, serial });
      scanLine.say({ words: done.sentence, next: 'scan the next label', tone: 'taken' });
      asking = false;
      ondone();
    } catch (problem) {
      if (!asking && problem instanceof Problem && problem.code === 'note-missing') asking = true;
      else error = problem;
    } finally {
      busy = false;
    }
  }
  const focused = (field: HTMLInputElement) => field.focus();
</script>

{#if !asking}<button class="link" type="button" onclick={() => (part === null ? void take(null) : (asking = true))}
    >{word}</button
  >{:else}<form
    class="why"
    onsubmit={(e) => {
      e.preventDefault();
      void take(reason);
    }}
  >
    <Field label="Why it is taken back"
      ><input
        name="take-back-reason"
        bind:value={reason}
        maxlength="200"
        required
        autocomplete="off"
        {@attach focused}
      /></Field
    >
    <span class="row">
      <button class="button" disabled={busy}>{word}</button>
      <button class="button" type="button" onclick={() => ((asking = false), (error = undefined))}>Leave it</button>
    </span>
  </form>{/if}
<ProblemNote {error} />

<style>
  .why {
    display: flex;
    flex-direction: column;
    gap: 6px;
    margin: 4px 0;
  }
  .row {
    flex-wrap: wrap;
  }
</style>
