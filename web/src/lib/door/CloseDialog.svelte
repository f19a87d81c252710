<script lang="ts">
  /** Closing a tally: line by line what is short or untouched, the delivery notes, then what was posted. */
  import Field from '$lib/ui/Field.svelte';
  import { act, ask, limits, type Schemas } from '$lib/api/client';
  import { scanLine, type Said } from '$lib/scan.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { session } from '$lib/session.svelte';
  import { number, plural } from '$lib/ui/format';
  import { Dialog, Portal } from '@skeletonlabs/skeleton-svelte';
  let { open = $bindable(false), tally }: { open: boolean; tally: Schemas['TallyAnswer'] } = $props();
  let decisions = $state<Record<number, Schemas['ShortDecision']>>({});
  let notes = $state<Record<number, string>>({});
  let error = $state<unknown>();
  let done = $state<Schemas['CloseAnswer']>();
  let partly = $state(false);
  // What was scanned or typed during the tally stands here already.
  $effect(() => {
    for (const v of tally.vendors) notes[v.id] ||= v.deliveryNote ?? '';
  });
  const short = $derived(tally.manifest.filter((m) => m.counted < m.expected));
  const counted = $derived(tally.vendors.filter((v) => v.counted));
  const over = $derived(tally.manifest.filter((m) => m.counted > m.expected));
  const differing = $derived(tally.manifest.some((m) => m.counted !== m.expected));
  const mayAskSecond = $derived(tally.settings.secondCount && differing && session.may('SettleTally'));
  let words = $state('');
  async function run(work: () => Promise<{ sentence: string; left?: string[] }>) {
    error = undefined;
    words = '';
    try {
      const done = await work();
      words = [done.sentence, ...(done.left ?? [])].join(' ');
    } catch (problem) {
      error = problem;
    }
  }
  // A scan fills the delivery note it is meant for and nothing else; posting wants its own press.
  $effect(() => {
    if (open) return scanLine.useDialog(note);
  });
  async function note(text: string): Promise<Said> {
    const focused = counted.find((v) => document.activeElement?.getAttribute('name') === `note-${v.id}`);
    const blank = counted.filter((v) => !notes[v.id]);
    const vendor = focused ?? (blank.length === 1 ? blank[0] : counted.length === 1 ? counted[0] : undefined);
    if (done || !vendor)
      return {
        words: 'Not taken: this is the closing of a tally.',
        next: counted.length > 1 ? 'put the cursor into the delivery note it is for' : 'close it, then scan on',
        tone: 'refused',
      };
    const reading = await ask('/api/{site}/scan', { text, arrival: tally.card.number }, limits.scan);
    const isNote = reading.kind === 'DeliveryNote' || reading.problem?.code === 'code-unknown';
    if (!isNote)
      return {
        words: `${reading.words} A delivery note is wanted here.`,
        next: 'scan the delivery note',
        tone: 'refused',
      };
    notes[vendor.id] = reading.code;
    return { words: `Delivery note ${reading.code} of ${vendor.name}.`, next: 'press Close and post', tone: 'look' };
  }
  async function close(inPart: boolean) {
    partly = inPart;
    error = undefined;
    try {
      done = await act('/api/{site}/door/close', {
        arrival: tally.card.number,
        decisions: Object.entries(decisions).map(([line, decision]) => ({ manifestLine: Number(line), decision })),
        deliveryNotes: counted.map((v) => ({ vendorId: v.id, deliveryNote: notes[v.id] ?? '' })),
        partly,
      });
    } catch (problem) {
      error = problem;
    }
  }
</script>

<Dialog {open} onOpenChange={(e) => (open = e.open)}>
  <Portal>
    <Dialog.Backdrop class="veil" />
    <Dialog.Positioner class="over">
      <Dialog.Content class="over-sheet">
        {#if done}
          <Dialog.Title class="text-lg font-bold"
            >{tally.card.number} {partly ? 'is posted in part' : 'is counted in'}</Dialog.Title
          >
          {#if done.warning}<p class="said">{done.warning}</p>{/if}
          <ul>
            {#each done.receipts as r (r.number)}<li>
                <a class="link c" href="/door/receipts/{r.number}">{r.number}</a> for {r.vendor}, delivery note {r.deliveryNote},
                {r.counts}
                {plural('count', r.counts)}
              </li>{/each}
          </ul>
          <ul>
            {#each done.orders as o (o.number)}
              <li>
                <b class="c">{o.number}</b>
                {#if o.stillOpen.length === 0}<Mark
                    kind="done"
                    word={o.state === 'ClosedShort' ? 'closed short' : 'complete'}
                  />{:else}still open: {o.stillOpen.join('; ')}{/if}
              </li>
            {/each}
          </ul>
          <div class="row">
            <a class="button go" href="/door">To the doors</a><a class="button" href="/shelf">To the shelf</a>
          </div>
        {:else}
          <form onsubmit={(e) => e.preventDefault()} class="closing">
            <Dialog.Title class="text-lg font-bold">Close the tally of {tally.card.number}</Dialog.Title>
            {#if short.length > 0}
              <h2>{short.length} {short.length === 1 ? 'line is' : 'lines are'} not complete</h2>
              <ul class="lines">
                {#each short as m (m.id)}
                  <li>
                    <span class="grow">
                      <b>{m.itemName}</b> <span class="c">{m.order}</span> line {m.line}<br />
                      {number(m.counted)} of {number(m.expected)}
                      {m.unit}
                      {#if m.counted === 0}<Mark kind="open" word="not looked at" />{:else}<Mark
                          kind="disc"
                          word="{number(m.expected - m.counted)} {m.unit} short"
                        />{/if}
                    </span>
                    <span class="choices" role="radiogroup" aria-label="What is missing of {m.itemName}">
                      <label class="choice"
                        ><input type="radio" name="line-{m.id}" value="MoreToCome" bind:group={decisions[m.id]} /> more to
                        come</label
                      >
                      <label class="choice"
                        ><input type="radio" name="line-{m.id}" value="NeverComing" bind:group={decisions[m.id]} /> never
                        coming</label
                      >
                    </span>
                  </li>
                {/each}
              </ul>
            {:else}
              <p><Mark kind="done" word="every line is complete" /></p>
            {/if}
            {#if over.length > 0}
              <ul class="lines">
                {#each over as m (m.id)}<li>
                    <span class="grow"
                      ><b>{m.itemName}</b> <span class="c">{m.order}</span> line {m.line}<br />{number(m.counted)} of {number(
                        m.expected,
                      )}
                      {m.unit}
                      <Mark kind="disc" word="{number(m.counted - m.expected)} {m.unit} over" /></span
                    >
                    <span class="quiet">taken as it is</span>
                  </li>{/each}
              </ul>
            {/if}
            {#if mayAskSecond || (tally.settings.restAsOrdered && short.length > 0)}
              <div class="row">
                {#if mayAskSecond}<button
                    type="button"
                    class="button"
                    onclick={() => run(() => act('/api/{site}/door/second-count/ask', { arrival: tally.card.number }))}
                    >Have what differs counted a second time</button
                  >{/if}
                {#if tally.settings.restAsOrdered && short.length > 0}<button
                    type="button"
                    class="button"
                    onclick={() => run(() => act('/api/{site}/door/rest-as-ordered', { arrival: tally.card.number }))}
                    >Take the rest as ordered</button
                  >{/if}
              </div>
            {/if}
            {#if words}<p class="good" role="status">{words}</p>{/if}
            {#each counted as v (v.id)}
              <Field label={`Delivery note of ${v.name}`}
                ><input
                  name="note-{v.id}"
                  bind:value={notes[v.id]}
                  maxlength="40"
                  class="c"
                  autocomplete="off"
                /></Field
              >
            {:else}
              <p>Nothing was counted: no receipt is posted.</p>
            {/each}
            <ProblemNote {error} />
            <div class="row">
              <button type="button" class="button go" onclick={() => close(false)}>Close and post</button>
              {#if counted.length > 0}<button type="button" class="button" onclick={() => close(true)}
                  >Post this part, count on later</button
                >{/if}
              <Dialog.CloseTrigger class="button">Go back and look</Dialog.CloseTrigger>
            </div>
          </form>
        {/if}
      </Dialog.Content>
    </Dialog.Positioner>
  </Portal>
</Dialog>

<style>
  .closing {
    display: flex;
    flex-direction: column;
    gap: 12px;
  }
  .lines li {
    display: flex;
    gap: 14px;
    align-items: center;
    border-top: 1px solid var(--stone-2);
    padding: 8px 0;
    flex-wrap: wrap;
  }
  .choices {
    display: inline-flex;
    gap: 18px;
  }
  @media (max-width: 700px) {
    .lines li {
      gap: 0;
    }
    .lines .grow,
    .choices {
      flex: 1 0 100%;
    }
    .choice {
      min-height: 44px;
    }
  }
  .choice {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    min-height: 32px;
  }
  ul {
    display: flex;
    flex-direction: column;
    gap: 6px;
  }
</style>
