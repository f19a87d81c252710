<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import DateField from '$lib/ui/DateField.svelte';
  /** The note of a call: with whom, what was promised, for when. */
  import { act } from '$lib/api/client';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  let { parts, contact, ondone }: { parts: number[]; contact: string | null; ondone: () => void } = $props();
  // svelte-ignore state_referenced_locally
  let who = $state(contact ?? '');
  let text = $state('');
  let until = $state('');
  let error = $state<unknown>();
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    try {
      await act('/api/{site}/road/promise', { parts, with: who, text, for: until || null });
      ondone();
    } catch (problem) {
      error = problem;
    }
  }
</script>

<form class="row" onsubmit={keep} aria-label="What was promised">
  <Field label="Spoke with"><input name="with" bind:value={who} maxlength="80" required /></Field>
  <Field label="What was promised" class="grow"><input name="text" bind:value={text} maxlength="500" required /></Field>
  <DateField label="For" name="for" bind:value={until} />
  <button class="button go">Keep it</button>
  <ProblemNote {error} />
</form>

<style>
  form {
    align-items: flex-end;
    padding: 8px 0;
  }
</style>
