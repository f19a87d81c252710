<script lang="ts">
  /** The gauges of the site, until when they are calibrated, and how they are connected. */
  import { act, ask } from '$lib/api/client';
  import PlansFrame from '$lib/bench/PlansFrame.svelte';
  import { session } from '$lib/session.svelte';
  import Field from '$lib/ui/Field.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const gauges = createQuery(() => ({
    queryKey: ['bench', 'gauges', session.site],
    queryFn: () => ask('/api/{site}/bench/gauges'),
  }));
  let name = $state('');
  let until = $state('');
  let error = $state<unknown>();
  let done = $state('');
  async function run(work: () => Promise<{ sentence: string }>): Promise<boolean> {
    [error, done] = [undefined, ''];
    try {
      done = (await work()).sentence;
      await gauges.refetch();
      return true;
    } catch (problem) {
      error = problem;
      return false;
    }
  }
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    if (await run(() => act('/api/{site}/bench/gauges/keep', { name, until: until || null }))) [name, until] = ['', ''];
  }
</script>

<svelte:head><title>Gauges · Bench · Mud Room</title></svelte:head>
<PlansFrame workTitle="Gauges">
  <div class="head">
    <h1>Gauges</h1>
    <p class="quiet">
      By the names that plans and gauges themselves use. Past its last day of calibration a gauge reads nothing that
      counts. One that is not kept here may be used as it is.
    </p>
  </div>
  {#if done}<p class="good note" id="done">{done}</p>{/if}
  <table class="list">
    <thead><tr><th>Gauge</th><th>Calibrated until</th><th>Plans</th><th>Kept</th><th></th></tr></thead>
    <tbody>
      {#each gauges.data ?? [] as g (g.name)}
        <tr>
          <td><b>{g.name}</b></td>
          <td
            >{#if g.why}<Mark kind="disc" word="ended {g.until}" />{:else if g.until}<Mark
                kind="done"
                word={g.until}
              />{:else}needs none{/if}</td
          >
          <td>{g.plans.join(', ')}</td>
          <td class="quiet">{when(g.at)}, {g.by}</td>
          <td
            >{#if session.may('KeepPlans')}<button
                class="link"
                aria-label="Change {g.name}"
                onclick={() => ([name, until] = [g.name, g.until ?? ''])}>Change</button
              >
              <button
                class="link"
                aria-label="Keep {g.name} no longer"
                onclick={() => void run(() => act('/api/{site}/bench/gauges/drop', { name: g.name }))}>Drop</button
              >{/if}</td
          >
        </tr>
      {:else}
        <tr><td colspan="5" class="quiet">No gauge is kept yet.</td></tr>
      {/each}
    </tbody>
  </table>
  {#if session.may('KeepPlans')}
    <form class="pad row" onsubmit={keep}>
      <Field label="Gauge, as it names itself"
        ><input name="gauge" bind:value={name} maxlength="40" required autocomplete="off" /></Field
      >
      <Field label="Last day of its calibration"><input name="until" type="date" bind:value={until} /></Field>
      <button class="button go">Keep it</button>
      <ProblemNote {error} />
    </form>
  {/if}
  {#snippet trail()}
    <section class="trail-part">
      <h2>How a gauge speaks</h2>
      <p>One line for each value: name, value, unit.</p>
      <p class="c">caliper 212.4 mm</p>
      <p>Name and unit may be left out; other units of the same kind are converted.</p>
    </section>
    <section class="trail-part">
      <h2>Three ways to the sheet</h2>
      <p><b>As a keyboard:</b> it types its line wherever the cursor is.</p>
      <p><b>By serial line:</b> press Connect a gauge on the sheet, where the browser can read serial lines.</p>
      <p>
        <b>By the reader:</b> a program at the bench reads a serial line or a network port and sends what it hears; the sheet
        takes it once it listens.
      </p>
      <p class="c">mudroom gauge --server https://… --site LM --name sunita --serial /dev/ttyUSB0</p>
    </section>
  {/snippet}
</PlansFrame>

<style>
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 12px;
    align-items: end;
  }
</style>
