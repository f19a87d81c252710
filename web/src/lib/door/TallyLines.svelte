<script lang="ts">
  /** The lines of a tally by order, each with what was counted on it; or, for those who count blind, the items aboard. */
  import type { Schemas } from '$lib/api/client';
  import LoadBar from '$lib/ui/LoadBar.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { day, number } from '$lib/ui/format';
  import LineCounts from './LineCounts.svelte';
  let {
    tally: t,
    closed,
    item,
    part,
    onchanged,
  }: {
    tally: Schemas['TallyAnswer'];
    closed: boolean;
    /** The item in hand. */
    item?: string | undefined;
    /** The order line part that the count in hand goes to. */
    part?: number | undefined;
    onchanged: () => void;
  } = $props();
  const orders = $derived([...new Set(t.manifest.map((m) => m.order))]);
  // Who counts an item a second time is not shown what the first count came to.
  const again = $derived(t.secondCounts.filter((s) => s.state === 'Waiting' && !s.mine).map((s) => s.item));
  let looked = $state<number>();
</script>

{#if t.settings.blind}
  <ul class="lines">
    {#each t.manifest as m (m.id)}
      <li class="unseen" class:hand={item === m.itemCode}>
        <span class="item"
          ><b>{m.itemName}</b>{#if m.waitingFor}<br /><span class="quiet">waited for: {m.waitingFor}</span>{/if}</span
        >
        {#if again.includes(m.itemCode)}<span class="sum">to be counted again</span>
        {:else}<span class="c sum"><b>{number(m.counted)}</b> {m.unit} counted</span>{/if}
      </li>
    {/each}
  </ul>
{:else}
  {#each orders as order (order)}
    {@const rows = t.manifest.filter((m) => m.order === order)}
    <h2 class="order">
      <span><span class="c">{order}</span> {rows[0]?.vendor}</span><span class="quiet">due {day(rows[0]?.due)}</span>
    </h2>
    <ul class="lines">
      {#each rows as m (m.id)}
        {@const off = t.discrepancies.filter((d) => d.part === m.partId)}
        {@const by = t.lastBy[String(m.partId)]}
        <li class:hand={part === m.partId}>
          <span class="c no">{m.line}</span>
          <span class="item"
            ><button
              class="name"
              aria-expanded={looked === m.id}
              onclick={() => (looked = looked === m.id ? undefined : m.id)}>{m.itemName}</button
            >{#if m.waiting > 0}<br /><span class="quiet">{number(m.waiting)} {m.unit} waited for: {m.waitingFor}</span
              >{/if}</span
          >
          <span class="c sum"><b>{number(m.counted)}</b> / {number(m.expected)} {m.unit}</span>
          <span class="bar"
            ><LoadBar
              share={m.expected ? m.counted / m.expected : 1}
              open={m.counted < m.expected && !closed}
              notches={off.map((d) => ({
                kind: d.kind === 'Over' ? 'over' : d.kind === 'Short' ? 'short' : 'damaged',
                at: d.kind === 'Over' || d.kind === 'Short' ? 0.9 : 0.75,
              }))}
              label="{number(m.counted)} of {number(m.expected)}"
              height={11}
            /></span
          >
          <span class="state">
            {#if off.length > 0}<Mark kind="disc" word="{number(off[0]!.quantity)} {off[0]!.word}" />
            {:else if m.counted > m.expected}<Mark kind="disc" word="{number(m.counted - m.expected)} over" />
            {:else if m.counted === m.expected}<Mark kind="done" word="complete" />
            {:else if m.counted === 0}<Mark kind="open" word="not looked at" />
            {:else if by}<span class="quiet">{by.split(' ')[0]} counts</span>{/if}
          </span>
          {#if looked === m.id}<LineCounts
              arrival={t.card.number}
              part={m.partId}
              changed="{t.countsInAll} {m.counted}"
              ondone={onchanged}
            />{/if}
        </li>
      {/each}
    </ul>
  {/each}
{/if}

<style>
  .name {
    font-weight: 700;
    text-align: left;
    min-height: 24px;
  }
  .name:hover {
    text-decoration: underline;
  }
  .name::before {
    content: '';
    display: inline-block;
    width: 0;
    margin-right: 6px;
    border: 4px solid transparent;
    border-left-color: var(--peat-3);
    border-right-width: 0;
    translate: 0 -1px;
  }
  .name[aria-expanded='true']::before {
    rotate: 90deg;
  }
  .order {
    display: flex;
    justify-content: space-between;
    background: var(--stone-1);
    padding: 6px 18px;
    border-top: 1px solid var(--stone-2);
  }
  .lines li {
    display: grid;
    grid-template-columns: 22px minmax(0, 1.2fr) 178px minmax(70px, 1fr) 128px;
    gap: 10px;
    align-items: center;
    padding: 5px 18px;
    border-top: 1px solid var(--stone-2);
    min-height: 38px;
  }
  .lines .hand {
    background: var(--lit-faint);
  }
  .lines .unseen {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .sum {
    text-align: right;
    white-space: nowrap;
  }
  @media (max-width: 1000px) {
    .lines li {
      grid-template-columns: 18px minmax(0, 1fr) auto;
    }
    .bar,
    .state {
      grid-column: 2/-1;
    }
    .bar {
      display: none;
    }
  }
  @media (max-width: 700px) {
    .name {
      min-height: 44px;
    }
  }
</style>
