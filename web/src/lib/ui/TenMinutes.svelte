<script lang="ts">
  /**
   * Ten minutes in Mud Room: the steps of one truck's day lie over the foot of any page, each with who does it, where, and the labels to
   * press. Ticks come from what has really happened, so that a newcomer may stray and come back.
   */
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { ask } from '$lib/api/client';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  import ProblemNote from './ProblemNote.svelte';
  import { become, demoPeople, tenMinutes } from './tenMinutes.svelte';
  const steps = createQuery(() => ({
    queryKey: ['ten minutes', 'house', 'road', 'door', 'bench', 'shelf', session.site],
    queryFn: () => ask('/api/{site}/demo/ten-minutes'),
    enabled: tenMinutes.isOpen,
  }));
  const people = createQuery(() => ({
    queryKey: ['demo people'],
    queryFn: demoPeople,
    enabled: tenMinutes.isOpen,
    staleTime: Infinity,
  }));
  let error = $state<unknown>();
  let found = $state(false);
  const list = $derived(steps.data?.map((s, i) => ({ ...s, done: s.done || (found && s.page === '/book'), i })) ?? []);
  let chosen = $state<number>();
  const current = $derived(list[chosen ?? list.find((s) => !s.done)?.i ?? list.length - 1]);
  const who = $derived(people.data?.find((p) => p.signInName === current?.who));
  const isThem = $derived(who !== undefined && who.name === session.state?.name);
  const isThere = $derived(current !== undefined && page.url.pathname === current.page);
  async function go() {
    if (!current) return;
    // Who somebody else was shown is forgotten when the person changes: the step is taken along.
    const step = current;
    error = undefined;
    try {
      if (!isThem) await become(step.who, people.data ?? []);
      await goto(step.page);
    } catch (problem) {
      error = problem;
    }
  }
  async function press(text: string) {
    await scanLine.scan(text);
    if (current?.page === '/book') found = true;
  }
</script>

{#if tenMinutes.isOpen}
  <div class="drawer">
    <section aria-label="Ten minutes in Mud Room" class:there={isThem && isThere}>
      <ol>
        {#each list as s (s.i)}
          <li>
            <button
              class="step"
              class:done={s.done}
              aria-current={s.i === current?.i ? 'step' : undefined}
              onclick={() => (chosen = s.i)}
              title={s.title}
            >
              <span aria-hidden="true">{s.done ? '✓' : s.i + 1}</span>
              <span class="word">{s.title}{s.done ? ', done' : ''}</span>
            </button>
          </li>
        {/each}
      </ol>
      {#if current}
        <div class="now">
          <p><b>{current.title}.</b> {current.words}</p>
          <ProblemNote {error} />
          <div class="row">
            {#if !isThem || !isThere}
              <button class="button go" id="ten-minutes-go" onclick={() => void go()}>
                {isThem ? 'Go there' : `Be ${who?.name.split(' ')[0] ?? current.who}, and go there`}
              </button>
            {:else}
              {#each current.labels as label (label.text)}
                <button class="button" data-scan={label.text} onclick={() => void press(label.text)}
                  >Scan: {label.title}</button
                >
              {/each}
            {/if}
            {#if current.i < list.length - 1}
              <button class="button" onclick={() => (chosen = current.i + 1)}>Next step</button>
            {/if}
            <button class="button" onclick={() => tenMinutes.show(false)}>Close</button>
          </div>
        </div>
      {:else if steps.isError}
        <p class="quiet">The ten minutes are walked at Low Meadow: choose that site.</p>
        <button class="button" onclick={() => tenMinutes.show(false)}>Close</button>
      {/if}
    </section>
  </div>
{/if}

<style>
  .drawer {
    flex: none;
    border-top: 2px solid var(--wall);
    background: var(--ground);
  }
  section {
    display: flex;
    gap: 16px;
    padding: 8px 16px;
    align-items: start;
  }
  ol {
    list-style: none;
    margin: 0;
    padding: 0;
    display: flex;
    flex-wrap: wrap;
    gap: 4px;
    flex: 0 1 330px;
  }
  .step {
    display: flex;
    align-items: center;
    gap: 4px;
    min-width: 40px;
    min-height: 40px;
    justify-content: center;
    border: 2px solid var(--wall);
    background: var(--paper);
    color: var(--ink);
    font-weight: 700;
    cursor: pointer;
  }
  .step[aria-current] {
    background: var(--lamp);
    color: var(--on-lamp);
  }
  .word {
    position: absolute;
    width: 1px;
    height: 1px;
    overflow: hidden;
    clip-path: inset(50%);
  }
  .now {
    flex: 1;
    display: flex;
    flex-direction: column;
    gap: 6px;
  }
  .now p {
    margin: 0;
  }
  @media (max-width: 700px) {
    section {
      flex-direction: column;
      gap: 6px;
      padding: 6px 10px;
    }
    ol {
      flex: none;
    }
    .there ol {
      display: none;
    }
    .step {
      min-width: 48px;
      min-height: 48px;
    }
  }
</style>
