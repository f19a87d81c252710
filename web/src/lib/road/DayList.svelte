<script lang="ts">
  /**
   * The plan of the day on a tablet or a phone: what needs somebody first, then every door in the order of time, with
   * the same words as the board.
   */
  import type { Schemas } from '$lib/api/client';
  import LoadBar from '$lib/ui/LoadBar.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { time } from '$lib/ui/format';
  import { byDoor, needsLook } from './board';
  let {
    day,
    chosen = $bindable(),
    onplan,
  }: { day: Schemas['DayAnswer']; chosen: string; onplan?: (block: Schemas['DayBlock']) => void } = $props();
  const first = $derived(day.blocks.filter(needsLook).sort((a, b) => a.start.localeCompare(b.start)));
  const doors = $derived(byDoor(day));
  const state: Record<string, [string, 'open' | 'today' | 'done']> = {
    InYard: ['in the yard', 'open'],
    AtDoor: ['at the door', 'today'],
    CountedIn: ['counted in', 'done'],
  };
</script>

{#snippet load(b: Schemas['DayBlock'])}
  {@const broken = b.broken.filter((r) => !r.overruled)}
  <li class="load" class:on={chosen === b.card.number} data-number={b.card.number}>
    <a class="what" href="/road/arrivals/{b.card.number}">
      <span class="c when">{b.door === null ? time(b.booked) : `${time(b.start)}–${time(b.end)}`}</span>
      <span class="who"><b class="c">{b.card.number}</b> {b.card.vendors.join(', ') || 'orders not named'}</span>
      {#if state[b.card.state]}<Mark kind={state[b.card.state]![1]} word={state[b.card.state]![0]} />
      {:else if b.card.rank === 0}<Mark kind="late" word="late" />{/if}
    </a>
    <LoadBar
      share={b.card.share}
      notches={b.card.notches}
      open={b.card.state === 'AtDoor'}
      ribbed={b.card.vehicle === 'container'}
      label="{Math.round(b.card.share * 100)} % counted"
    />
    <p>
      {b.crewNames.map((n) => n.split(' ')[0]).join(', ') || 'no crew'}
      <span class="quiet">· {b.card.vehicle}{b.card.share > 0 ? ` · ${Math.round(b.card.share * 100)} %` : ''}</span>
    </p>
    {#each broken as r (r.sentence)}<p><Mark kind="disc" word="rule broken" /> {r.sentence}</p>{/each}
    {#if onplan && (b.card.state === 'Expected' || b.card.state === 'InYard')}
      <button class="button" onclick={() => onplan(b)} aria-label="Plan {b.card.number}">Plan it</button>
    {/if}
  </li>
{/snippet}

<div class="list" role="group" aria-label="Plan of the day">
  {#if first.length > 0}
    <section aria-label="Look at these first">
      <h2>Look at these first</h2>
      <ul>
        {#each first as b (b.card.number)}{@render load(b)}{/each}
      </ul>
    </section>
  {/if}
  {#each doors as d (d.door.number)}
    <section aria-label="Door {d.door.number}">
      <h2>
        Door {d.door.number}
        <span class="quiet"
          >{d.door.clear
            ? `clear about ${time(d.door.clear.likely)}, ${time(d.door.clear.early)} to ${time(d.door.clear.late)}`
            : d.blocks.length === 0
              ? 'nothing planned'
              : ''}</span
        >
      </h2>
      <ul>
        {#each d.blocks as b (b.card.number)}{@render load(b)}{/each}
      </ul>
    </section>
  {/each}
</div>

<style>
  .list {
    border-bottom: 2px solid var(--wall);
  }
  h2 {
    position: sticky;
    top: 0;
    z-index: 1;
    font-size: 15px;
    padding: 8px 14px;
    background: var(--stone-1);
    border-top: 1px solid var(--stone-2);
  }
  h2 .quiet {
    font-weight: 400;
    font-size: 13px;
  }
  ul {
    list-style: none;
    padding: 0;
    margin: 0;
  }
  .load {
    display: flex;
    flex-direction: column;
    gap: 4px;
    padding: 4px 14px 10px;
    border-top: 1px solid var(--stone-2);
  }
  .load.on {
    box-shadow: inset 4px 0 0 var(--lamp);
  }
  .what {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 10px;
    align-items: center;
    min-height: 48px;
    color: inherit;
    text-decoration: none;
  }
  .when {
    font-weight: 600;
  }
  .who {
    flex: 1;
    min-width: 150px;
  }
  .load .button {
    align-self: flex-start;
    min-height: 48px;
  }
</style>
