<script lang="ts">
  /** Gives a person a badge with its PIN, or takes a lost one away. */
  import Field from '$lib/ui/Field.svelte';
  import { act } from '$lib/api/client';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  let { name }: { name: string } = $props();
  let open = $state(false);
  let badge = $state('');
  let pin = $state('');
  let error = $state<unknown>();
  let said = $state('');
  async function give(lost: boolean) {
    error = undefined;
    try {
      const body = lost ? { signInName: name, badge: null, pin: null } : { signInName: name, badge, pin };
      said = (await act('/api/{site}/site/people/badge', body)).sentence;
      [badge, pin, open] = ['', '', false];
    } catch (problem) {
      error = problem;
    }
  }
</script>

{#if open}
  <form
    onsubmit={(e) => {
      e.preventDefault();
      void give(false);
    }}
  >
    <Field label="Badge, scanned here"
      ><input class="c" name="badge" bind:value={badge} autocomplete="off" required /></Field
    >
    <Field label="PIN, 4 to 12 digits"
      ><input
        class="c"
        name="new-pin"
        type="password"
        inputmode="numeric"
        bind:value={pin}
        autocomplete="new-password"
        required
      /></Field
    >
    <div class="row">
      <button class="button go">Give it</button>
      <button type="button" class="button" onclick={() => give(true)}>It is lost: take it away</button>
      <button type="button" class="button" onclick={() => (open = false)}>Leave it</button>
    </div>
    <ProblemNote {error} />
  </form>
{:else}
  <button class="link" onclick={() => (open = true)}>Badge</button>
  {#if said}<span role="status">{said}</span>{/if}
{/if}

<style>
  form {
    display: flex;
    flex-direction: column;
    gap: 6px;
    min-width: 220px;
  }
</style>
