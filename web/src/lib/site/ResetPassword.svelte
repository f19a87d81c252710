<script lang="ts">
  /** A one-time password for a person, drawn on this device and shown only here. */
  import { act } from '$lib/api/client';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  let { name }: { name: string } = $props();
  let sure = $state(false);
  let error = $state<unknown>();
  let given = $state('');
  // Letters and digits that are not mistaken for each other when they are read aloud.
  const letters = 'abcdefghjkmnpqrstuvwxyz23456789';
  const draw = () =>
    Array.from(
      crypto.getRandomValues(new Uint8Array(12)),
      (n, i) => `${i === 4 || i === 8 ? '-' : ''}${letters[n % letters.length]}`,
    ).join('');
  async function reset() {
    error = undefined;
    const password = draw();
    try {
      await act('/api/{site}/site/people/password', { signInName: name, password });
      given = password;
      sure = false;
    } catch (problem) {
      error = problem;
    }
  }
</script>

{#if given}
  <p role="status">One-time password, shown only now: <b class="c">{given}</b></p>
  <button class="link" onclick={() => (given = '')}>Noted</button>
{:else if sure}
  <button class="button" onclick={reset}>Give {name} a one-time password</button>
  <button class="button" onclick={() => (sure = false)}>Leave it</button>
{:else}
  <button class="link" onclick={() => (sure = true)}>New password</button>
{/if}
<ProblemNote {error} />
