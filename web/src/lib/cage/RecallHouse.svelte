<script lang="ts">
  /** Where the goods of a recall are: the rooms in the order of the strip, a mark for so many goods, and all of it once more in one bar. */
  import type { Schemas } from '$lib/api/client';
  import { number, plural } from '$lib/ui/format';
  let { recall }: { recall: Schemas['RecallAnswer'] } = $props();
  const f = $derived(recall.finding);
  const room = (name: Schemas['RecallRoom']) => recall.rooms.find((r) => r.room === name)?.quantity ?? 0;
  const shelf = $derived(room('Shelf'));
  const truck = $derived(room('Truck'));
  const away = $derived(recall.elsewhere.reduce((sum, e) => sum + e.quantity, 0));
  const some = (quantity: number) => number(quantity / recall.pack.content);
  const packs = (quantity: number) =>
    recall.pack.content === 1 ? recall.pack.name : plural(recall.pack.name, quantity / recall.pack.content);
  /** So many packs to a mark that all marks are found with one look. */
  const per = $derived.by(() => {
    const all = f.cage + f.elsewhere + f.missing + Math.max(0, f.gone) + f.released + f.coming;
    for (let size = recall.pack.content; ; size *= 10)
      for (const times of [1, 2, 5]) if (all <= size * times * 60) return size * times;
  });
  const marks = (quantity: number) => Array.from({ length: quantity > 0 ? Math.ceil(quantity / per) : 0 }, (_, i) => i);
  const sums = $derived(
    [
      { kind: 'cage', words: 'in the cage', quantity: f.cage },
      { kind: 'here', words: recall.isDrill ? 'in the house' : 'held where it is', quantity: f.elsewhere },
      { kind: 'free', words: 'released', quantity: f.released },
      { kind: 'gone', words: 'gone', quantity: Math.max(0, f.gone) },
      { kind: 'missing', words: 'missing', quantity: f.missing },
    ].filter((s) => s.quantity > 0),
  );
  const all = $derived(sums.reduce((sum, s) => sum + s.quantity, 0));
</script>

{#snippet cell(name: string, quantity: number, kind: string, words: string)}
  <div class="cell {kind}" class:none={quantity === 0}>
    <h3>{name}</h3>
    <b>{some(quantity)}</b>
    <span class="marks" aria-hidden="true"
      >{#each marks(quantity) as i (i)}<i></i>{/each}</span
    >
    <span class="words">{words}</span>
  </div>
{/snippet}

<div class="house">
  {@render cell('To come', f.coming, 'coming', f.coming > 0 ? 'announced' : 'nothing announced')}
  <div class="walls">
    {@render cell('Door', room('Door'), 'here', 'as counted')}
    {@render cell('Bench', room('Bench'), 'here', 'samples too')}
    {@render cell('Cage', room('Cage'), 'cage', recall.isDrill ? 'there already' : 'brought there')}
    {@render cell('Shelf', shelf, 'here', 'in bins')}
    {@render cell('Trucks', truck, 'here', truck > 0 && !recall.isDrill ? 'their screens say stop' : 'in the aisles')}
    {#if away > 0}{@render cell('Other sites', away, 'here', recall.elsewhere.map((e) => e.name).join(', '))}{/if}
  </div>
  <div class="out">
    {@render cell('Gone', Math.max(0, f.gone), 'gone', 'left the house')}
    {@render cell('Not found', f.missing, 'missing', f.missing > 0 ? 'looked for' : 'nothing is missed')}
  </div>
</div>
{#if all > 0}
  <div
    class="bar"
    role="img"
    aria-label={sums.map((s) => `${some(s.quantity)} ${packs(s.quantity)} ${s.words}`).join(', ')}
  >
    {#each sums as s (s.kind)}<span class="part {s.kind}" style:flex-grow={s.quantity}></span>{/each}
  </div>
  <p class="sums">
    {#each sums as s (s.kind)}<span class={s.kind}><b>{some(s.quantity)}</b> {s.words}</span>{/each}
    <span class="quiet"
      >in {packs(2 * recall.pack.content)}{recall.pack.content > 1 ? ` of ${number(recall.pack.content)}` : ''}; one
      mark is {some(per)}</span
    >
  </p>
{/if}

<style>
  .house {
    display: grid;
    grid-template-columns: minmax(92px, 0.7fr) minmax(0, 4fr) minmax(110px, 0.9fr);
    gap: 14px;
    padding: 4px 18px 12px;
  }
  .walls {
    display: grid;
    grid-auto-flow: column;
    grid-auto-columns: minmax(0, 1fr);
    border: 3px solid var(--peat);
  }
  .walls .cell + .cell {
    border-left: 3px solid var(--peat);
  }
  .out {
    display: grid;
    gap: 10px;
  }
  .cell {
    padding: 8px 10px;
    min-width: 0;
    display: flex;
    flex-direction: column;
    gap: 3px;
  }
  .cell h3 {
    margin: 0;
    font-size: 13px;
    font-weight: 600;
  }
  .cell b {
    font-size: 26px;
    line-height: 1.1;
  }
  .none b {
    color: var(--peat-3);
  }
  .words {
    font-size: 13px;
    color: var(--peat-2);
  }
  .walls .cage {
    background: var(--held-w);
  }
  .coming,
  .gone {
    border: 1.5px dashed var(--peat-2);
  }
  .cell.missing {
    border: 2px solid var(--stone-3);
  }
  .cell.missing:not(.none) {
    border-color: var(--disc);
    background: var(--disc-w);
  }
  .cell.missing:not(.none) b,
  .cell.missing:not(.none) h3 {
    color: var(--disc);
  }
  .marks {
    display: flex;
    flex-wrap: wrap;
    gap: 3px;
  }
  i {
    width: 9px;
    height: 9px;
    border: 1.5px solid var(--held);
  }
  .cage i {
    background: var(--held);
  }
  .here i {
    background: linear-gradient(90deg, transparent 30%, var(--held) 30% 62%, transparent 62%);
  }
  .gone i,
  .coming i {
    border: 1.5px dashed var(--peat-2);
  }
  .cell.missing i {
    border: 0;
    background: var(--disc);
    clip-path: polygon(0 0, 100% 0, 72% 28%, 100% 50%, 72% 74%, 100% 100%, 0 100%);
  }
  .bar {
    display: flex;
    height: 22px;
    margin: 0 18px;
    border: 1.5px solid var(--peat-2);
  }
  .part {
    min-width: 4px;
  }
  .part.cage {
    background: var(--held);
  }
  .part.here {
    background: repeating-linear-gradient(90deg, var(--held-w) 0 5px, var(--held) 5px 7px);
  }
  .part.free {
    background: var(--usable-w);
  }
  .part.gone {
    background: repeating-linear-gradient(90deg, var(--paper) 0 4px, var(--stone-2) 4px 6px);
  }
  .part.missing {
    background: var(--disc);
  }
  .sums {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 18px;
    margin: 6px 18px 12px;
    font-size: 14px;
  }
  .sums .missing {
    color: var(--disc);
  }
  .sums span {
    border: 0;
  }
  @media (max-width: 700px) {
    .house {
      grid-template-columns: 1fr 1fr;
      gap: 8px;
      padding: 0 12px 10px;
    }
    .walls {
      grid-column: 1 / -1;
      grid-row: 1;
      grid-auto-flow: row;
      grid-template-columns: 1fr 1fr 1fr;
      border-width: 2px;
    }
    .walls .cell + .cell {
      border-left: 0;
    }
    .walls .cell {
      border: 1px solid var(--peat);
    }
    .out {
      grid-template-columns: 1fr 1fr;
    }
    .words {
      display: none;
    }
    .bar {
      margin: 0 12px;
    }
    .sums {
      margin: 6px 12px 10px;
    }
  }
</style>
