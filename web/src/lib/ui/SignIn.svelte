<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import { Problem } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import DemoCards from './DemoCards.svelte';
  import ProblemNote from './ProblemNote.svelte';
  let name = $state('');
  let password = $state('');
  let error = $state<unknown>();
  let busy = $state(false);
  /** Given for one time by an administrator: it opens nothing but the choice of one's own. */
  let mustChange = $state(false);
  let fresh = $state('');
  async function submit(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    error = undefined;
    try {
      if (mustChange) await session.choosePassword(name, password, fresh);
      else await session.signIn(name, password);
    } catch (problem) {
      if (problem instanceof Problem && problem.code === 'password-must-change') mustChange = true;
      error = problem;
    } finally {
      busy = false;
    }
  }
</script>

<main class="porch">
  <form onsubmit={submit}>
    <h1>
      <svg viewBox="0 0 34 34" width="40" height="40" aria-hidden="true">
        <path d="M3 3H31V31H22" fill="none" stroke="var(--wall)" stroke-width="4" />
        <path d="M3 3V31H10" fill="none" stroke="var(--wall)" stroke-width="4" />
        <path d="M10 32.6V19A13 13 0 0 1 22 31" fill="var(--lamp)" stroke="var(--wall)" stroke-width="1.6" />
      </svg>
      Mud Room
    </h1>
    <p>Nothing goes into the house before somebody has counted it, looked at it and given it a place.</p>
    <Field label="Name"
      ><input bind:value={name} name="name" autocomplete="username" autocapitalize="off" required /></Field
    >
    <Field label="Password"
      ><input bind:value={password} name="password" type="password" autocomplete="current-password" required /></Field
    >
    {#if mustChange}<Field label="A password of your own, at least 10 characters"
        ><input
          bind:value={fresh}
          name="new-password"
          type="password"
          autocomplete="new-password"
          minlength="10"
          required
        /></Field
      >{/if}
    <ProblemNote {error} />
    <button class="button go big" disabled={busy}>{mustChange ? 'Keep it and come in' : 'Come in'}</button>
  </form>
  {#if session.state?.isDemo}<DemoCards />{/if}
</main>

<style>
  .porch {
    height: 100dvh;
    overflow-y: auto;
    display: flex;
    flex-wrap: wrap;
    gap: 24px;
    align-items: center;
    align-content: safe center;
    justify-content: center;
    padding: 16px;
  }
  @media (max-width: 700px) {
    form {
      order: 1;
    }
  }
  form {
    background: var(--paper);
    border: 3px solid var(--wall);
    padding: 28px;
    width: min(420px, 100%);
    display: flex;
    flex-direction: column;
    gap: 14px;
  }
  h1 {
    display: flex;
    gap: 12px;
    align-items: center;
    font-size: 26px;
  }
</style>
