<script lang="ts">
  /** Everybody changes their own password. */
  import Field from '$lib/ui/Field.svelte';
  import { session } from '$lib/session.svelte';
  import ProblemNote from './ProblemNote.svelte';
  let open = $state(false);
  let name = $state('');
  let old = $state('');
  let fresh = $state('');
  let error = $state<unknown>();
  let said = $state('');
  async function change(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    try {
      await session.choosePassword(name, old, fresh);
      said = 'Your password is changed. You are signed out everywhere else.';
      [old, fresh, open] = ['', '', false];
    } catch (problem) {
      error = problem;
    }
  }
</script>

{#if open}
  <form onsubmit={change}>
    <Field label="Your sign-in name"
      ><input bind:value={name} autocomplete="username" autocapitalize="off" required /></Field
    >
    <Field label="Password now"
      ><input bind:value={old} type="password" autocomplete="current-password" required /></Field
    >
    <Field label="New password, at least 10 characters"
      ><input bind:value={fresh} type="password" autocomplete="new-password" minlength="10" required /></Field
    >
    <ProblemNote {error} />
    <div class="row">
      <button class="button">Change it</button><button type="button" class="button" onclick={() => (open = false)}
        >Leave it</button
      >
    </div>
  </form>
{:else}
  <button class="button" onclick={() => (open = true)}>Change password</button>
  {#if said}<p class="good" role="status">{said}</p>{/if}
{/if}

<style>
  form {
    display: flex;
    flex-direction: column;
    gap: 8px;
  }
</style>
