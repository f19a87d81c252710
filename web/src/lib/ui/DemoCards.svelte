<script lang="ts">
  /** The demo opens its own door: its people as cards to press, and the first ten minutes. */
  import { goto } from '$app/navigation';
  import type { Schemas } from '$lib/api/client';
  import { roleWord } from './format';
  import ProblemNote from './ProblemNote.svelte';
  import { become, demoPeople, tenMinutes } from './tenMinutes.svelte';
  let people = $state<Schemas['DemoCard'][]>([]);
  let error = $state<unknown>();
  void demoPeople().then(
    (found) => (people = found),
    (problem) => (error = problem),
  );
  async function enter(person: Schemas['DemoCard'] | undefined, page: string) {
    if (!person) return;
    error = undefined;
    try {
      await goto(page);
      await become(person.signInName, people);
    } catch (problem) {
      error = problem;
    }
  }
  const firsts = $derived(people.filter((p, i) => people.findIndex((o) => o.role === p.role) === i));
  const others = $derived(people.filter((p) => !firsts.includes(p)));
  async function begin() {
    tenMinutes.show(true);
    await enter(
      people.find((p) => p.signInName === 'wanjiru'),
      '/road',
    );
  }
</script>

<section class="demo" aria-label="The demo's people">
  <h2>This is a demo. Come in as anybody.</h2>
  <ProblemNote {error} />
  <button class="button go big" id="ten-minutes-begin" onclick={() => void begin()} disabled={people.length === 0}>
    Ten minutes in Mud Room
  </button>
  <p class="quiet">One truck, from its door to the shelf, with every label to press. Or choose who you are:</p>
  <ul>
    {#each firsts as p (p.signInName)}
      <li>
        <button class="card" data-person={p.signInName} onclick={() => void enter(p, p.page)}>
          <b>{p.name}</b> <span class="quiet">{roleWord(p.role)}</span>
          <span>{p.does}</span>
          <span class="try">Try: {p.try}</span>
        </button>
      </li>
    {/each}
  </ul>
  {#if others.length > 0}
    <p class="quiet">Their colleagues:</p>
    <div class="row">
      {#each others as p (p.signInName)}
        <button class="button" data-person={p.signInName} onclick={() => void enter(p, p.page)}
          >{p.name} <span class="quiet">{roleWord(p.role)}</span></button
        >
      {/each}
    </div>
  {/if}
</section>

<style>
  .demo {
    display: flex;
    flex-direction: column;
    gap: 10px;
    width: min(680px, 100%);
    padding: 4px;
  }
  h2 {
    font-size: 20px;
  }
  ul {
    list-style: none;
    margin: 0;
    padding: 0;
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(min(300px, 100%), 1fr));
    gap: 8px;
  }
  .card {
    display: block;
    width: 100%;
    height: 100%;
    align-content: start;
    text-align: left;
    background: var(--paper);
    color: var(--ink);
    border: 2px solid var(--wall);
    padding: 10px 12px;
    cursor: pointer;
  }
  .card:hover,
  .card:focus-visible {
    border-color: var(--lamp);
    outline: 2px solid var(--wall);
  }
  .card > span {
    display: block;
  }
  .card > b + span {
    display: inline;
  }
  .try {
    margin-top: 4px;
    font-weight: 600;
  }
</style>
