<script lang="ts">
  /** Asks for an inspection of goods, by one press and a reason; where no plan is meant for them, one is chosen. */
  import { act, ask, Problem } from '$lib/api/client';
  import Field from '$lib/ui/Field.svelte';
  import { session } from '$lib/session.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  let {
    balance = null,
    count = null,
    task = null,
    quantity = null,
    word = 'Have it inspected',
    asButton = false,
    ondone,
  }: {
    balance?: number | null;
    count?: string | null;
    task?: number | null;
    quantity?: string | null;
    word?: string;
    /** A button rather than a link. */
    asButton?: boolean;
    ondone: (sentence: string) => void;
  } = $props();
  let asking = $state(false);
  let why = $state('');
  let plan = $state<number | null>(null);
  let error = $state<unknown>();
  let busy = $state(false);
  const choosing = $derived(error instanceof Problem && error.code === 'plan-none-fits');
  const rules = createQuery(() => ({
    queryKey: ['bench', 'rules', session.site],
    queryFn: () => ask('/api/{site}/bench/rules'),
    enabled: choosing,
  }));
  async function run(event: SubmitEvent) {
    event.preventDefault();
    if (busy) return;
    busy = true;
    error = undefined;
    try {
      const done = await act('/api/{site}/bench/ask', { balance, count, task, quantity, why, plan });
      [asking, why, plan] = [false, '', null];
      ondone(done.sentence);
    } catch (problem) {
      error = problem;
    } finally {
      busy = false;
    }
  }
  const focused = (field: HTMLInputElement) => field.focus();
</script>

{#if session.may('AskInspection')}
  {#if !asking}<button class={asButton ? 'button' : 'link'} type="button" onclick={() => (asking = true)}>{word}</button
    >{:else}<form class="ask" onsubmit={run}>
      <Field label="Why it is to be inspected"
        ><input name="ask-why" bind:value={why} maxlength="200" required autocomplete="off" {@attach focused} /></Field
      >
      {#if choosing}
        <Field label="By which plan"
          ><select name="ask-plan" bind:value={plan} required>
            {#each rules.data?.plans ?? [] as p (p.id)}<option value={p.id}>{p.name}</option>{/each}
          </select></Field
        >
      {/if}
      <span class="row">
        <button class="button" disabled={busy}>{word}</button>
        <button class="button" type="button" onclick={() => ((asking = false), (error = undefined))}>Leave it</button>
      </span>
      <ProblemNote {error} />
    </form>{/if}
{/if}

<style>
  .ask {
    display: flex;
    flex-direction: column;
    gap: 6px;
    margin: 4px 0;
  }
  .row {
    flex-wrap: wrap;
  }
</style>
