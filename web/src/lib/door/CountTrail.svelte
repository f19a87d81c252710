<script lang="ts">
  /** What happened at a tally, last first: each count can be given its labels, or be taken back. */
  import Field from '$lib/ui/Field.svelte';
  import { act, type Schemas } from '$lib/api/client';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { number, time } from '$lib/ui/format';
  import TakeBack from './TakeBack.svelte';
  let {
    tally: t,
    closed,
    onchanged,
  }: { tally: Schemas['TallyAnswer']; closed: boolean; onchanged: () => void } = $props();
  let printer = $state('');
  let error = $state<unknown>();

  /** Prints the label of a count's unit, or one for each of its packs. */
  async function print(count: Schemas['CountRow']) {
    error = undefined;
    try {
      const on = { printer: printer || t.settings.printers[0]!, size: 'a6' };
      const done = count.sscc
        ? await act('/api/{site}/door/prints/unit', { sscc: count.sscc, ...on })
        : await act('/api/{site}/door/prints/packs', { count: count.act, pack: count.pack!, ...on });
      scanLine.say({ words: done.sentence, tone: 'taken' });
    } catch (problem) {
      error = problem;
    }
  }
</script>

<section class="trail-part">
  <h2>What happened <span class="quiet">{t.settings.blind ? '' : `${t.countsInAll} counts`}</span></h2>
  {#if t.settings.printers.length > 1}
    <Field label="Labels come from" class="printer"
      ><select value={printer || t.settings.printers[0]} onchange={(e) => (printer = e.currentTarget.value)}
        >{#each t.settings.printers as p (p)}<option>{p}</option>{/each}</select
      ></Field
    >
  {/if}
  <ProblemNote {error} />
  <ul class="history">
    {#each t.counts as c, i (c.act + i)}
      <li>
        <time>{time(c.at)}</time>
        <span>
          <span class:back={c.takenBack}
            >{c.person.split(' ')[0]}: {c.item}, {c.inPacks || `${number(c.quantity)} ${c.unit}`}{c.batch
              ? `, batch ${c.batch}`
              : ''}{c.serial ? `, serial ${c.serial}` : ''}{c.aside ? ', aside' : ''}</span
          >
          {#if c.takenBack || !(c.sscc || c.pack)}{:else if t.settings.printers.length}<button
              class="link"
              onclick={() => print(c)}>{c.sscc ? 'Print its label' : 'Print labels'}</button
            >{:else}<a
              class="link"
              href={c.sscc
                ? `/api/${session.site}/door/label/${c.sscc}?size=a6`
                : `/api/${session.site}/door/count-label/${c.act}?pack=${encodeURIComponent(c.pack!)}&size=a6`}
              target="_blank"
              rel="noopener">{c.sscc ? 'Label' : 'Labels'}</a
            >{/if}
          {#if c.takenBack}(taken back)
          {:else if c.canTakeBack && session.may('Tally')}<TakeBack
              arrival={t.card.number}
              count={c.act}
              serial={c.serial ?? null}
              ondone={onchanged}
            />{/if}
        </span>
      </li>
    {:else}
      <li><span></span><span>Nothing is counted yet.{closed ? '' : ' Scan a label.'}</span></li>
    {/each}
  </ul>
</section>

<style>
  :global(.field.printer) {
    margin-bottom: 8px;
  }
  .back {
    text-decoration: line-through;
    color: var(--peat-3);
  }
</style>
