<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import { act, ask, limits, type Schemas } from '$lib/api/client';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import { session } from '$lib/session.svelte';
  import Faults from '$lib/ui/Faults.svelte';
  import ImportProgress from '$lib/ui/ImportProgress.svelte';
  import { Importing } from '$lib/ui/importing.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { contentOf } from '$lib/ui/content';
  import { counted, day, number, when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  import { cards } from '$lib/list/cards';
  const most = 40_000_000;
  let file = $state<{ name: string; content: string; refused?: string }>();
  let arrival = $state('');
  let preview = $state<Schemas['ImportAnswer']>();
  let done = $state<Schemas['ImportAnswer']>();
  const importing = new Importing();
  let error = $state<unknown>();
  let refused = $state('');
  const put = createQuery(() => ({
    queryKey: ['road', 'refused', session.site],
    queryFn: () => ask('/api/{site}/road/import/refused'),
  }));
  /** A file that the watched folder refused, as if it had been dropped here. */
  async function tryAgain(name: string) {
    error = undefined;
    const response = await fetch(`/api/${session.site}/road/import/refused/${encodeURIComponent(name)}`);
    if (!response.ok) {
      refused = `${name} is not there any more.`;
      await put.refetch();
      return;
    }
    await look(new File([await response.blob()], name), name);
  }
  async function putAway(name: string) {
    error = undefined;
    try {
      await act('/api/{site}/road/import/put-away', { name });
      if (file?.refused === name) file = preview = undefined;
      await put.refetch();
    } catch (problem) {
      error = problem;
    }
  }
  async function look(chosen: File | undefined, from?: string) {
    if (!chosen) return;
    preview = done = error = undefined;
    refused = arrival = '';
    if (chosen.size > most) {
      refused = `${chosen.name} has ${number(Math.round(chosen.size / 1_000_000))} MB; 40 MB are taken at most. Part it.`;
      return;
    }
    file = { name: chosen.name, content: await contentOf(chosen), ...(from && { refused: from }) };
    importing.begin('Looking through the file.');
    try {
      preview = await act('/api/{site}/road/import/preview', file, undefined, limits.long);
    } catch (problem) {
      error = problem;
    }
    importing.busy = '';
  }
  async function take() {
    if (!file) return;
    const taken = { ...file, ...(arrival && { arrival }) };
    error = undefined;
    try {
      done = await importing.run(
        (id) => act('/api/{site}/road/import', taken, id, limits.long),
        (id) => ask('/api/{site}/road/import/progress/{act}', { act: id }),
      );
      preview = undefined;
      await put.refetch();
    } catch (problem) {
      error = problem;
    }
  }
  const holds = (p: Schemas['ImportAnswer']) =>
    [
      p.orders > 0 && `${counted(p.orders, 'order')} with ${counted(p.lines, 'line part')}`,
      p.changes > 0 && counted(p.changes, 'order change'),
      p.advices > 0 && counted(p.advices, 'despatch advice'),
    ]
      .filter(Boolean)
      .join(', ');
  const partner: [Schemas['PartnerMessage'], string][] = [
    ['Order', 'a new order (UBL)'],
    ['OrderChange', 'an order change (EDIFACT)'],
    ['Advice', 'a despatch advice (EDIFACT)'],
    ['LateAdvice', 'one that comes too late'],
    ['OddAdvice', 'one that does not fit its order'],
    ['WrongFile', 'a file full of faults'],
  ];
  let sent = $state<Schemas['PartnerAnswer']>();
  async function send(message: Schemas['PartnerMessage']) {
    error = undefined;
    try {
      sent = await act('/api/{site}/demo/partner', { message });
    } catch (problem) {
      error = problem;
    }
  }
</script>

<svelte:head><title>Import · Mud Room</title></svelte:head>
<RoadFrame workTitle="Import">
  <div
    class="pad drop"
    role="group"
    aria-label="Drop a file"
    ondragover={(e) => e.preventDefault()}
    ondrop={(e) => {
      e.preventDefault();
      void look(e.dataTransfer?.files[0]);
    }}
  >
    <h1>Orders, order changes and despatch advices from files</h1>
    <p class="quiet">
      CSV (order, vendor, line, item, quantity, due, site; and if you like kind, order_date, unit, price,
      waiting_quantity, waiting_for, waiting_by), UBL 2 (Order, OrderChange, OrderCancellation, DespatchAdvice), or
      EDIFACT (ORDERS, ORDCHG, DESADV). A file with a fault is refused whole; the same file twice changes nothing.
    </p>
    <Field label="File, or drop it here"
      ><input
        type="file"
        accept=".csv,.xml,.edi,.txt,text/csv,text/xml,application/xml"
        onchange={(e) => look(e.currentTarget.files?.[0])}
      /></Field
    >
    <ProblemNote {error} />
    {#if refused}<p class="said" role="alert"><b>{refused}</b></p>{/if}
    <ImportProgress of={importing} />
    {#if done}
      <p class="good" role="status">
        {#if done.before}{done.before}{:else}
          {done.orders > 0 ? `In: ${counted(done.orders, 'order')} with ${counted(done.lines, 'line part')}.` : ''}
          {done.changes > 0 ? `Taken: ${counted(done.changes, 'order change')}.` : ''}
          {#each done.arrivals as a (a)}The despatch advice is on arrival <a class="link c" href="/road/arrivals/{a}"
              >{a}</a
            >.
          {/each}
        {/if}
      </p>
    {/if}
  </div>
  {#if preview && preview.faults.length > 0}
    <Faults faults={preview.faults} />
  {:else if preview?.before}
    <p class="pad good">{preview.before}</p>
  {:else if preview}
    <div class="pad drop">
      {#each preview.choices as c (c.advice)}
        <fieldset class="choice">
          <legend
            >Despatch advice <span class="c">{c.advice}</span> could be aboard several arrivals. Which is it?</legend
          >
          {#each c.arrivals as a (a)}
            <label class="tick"
              ><input type="radio" bind:group={arrival} value={a} name="arrival" /> <span class="c">{a}</span></label
            >
          {/each}
          <label class="tick"
            ><input type="radio" bind:group={arrival} value="new" name="arrival" /> an arrival of its own</label
          >
        </fieldset>
      {/each}
      {#each preview.notes as note (note)}<p class="quiet">{note}</p>{/each}
      <div class="row">
        <span>{preview.kind}: {holds(preview)}.</span><button
          class="button go"
          onclick={take}
          disabled={!!importing.busy || (preview.choices.length > 0 && !arrival)}>Import {file?.name}</button
        >
      </div>
    </div>
    <table class="list" {@attach cards}>
      <thead
        ><tr
          ><th>Order · line</th><th>Vendor</th><th>Item</th><th class="number">Quantity</th><th>Due</th><th>Site</th><th
            >What</th
          ></tr
        ></thead
      >
      <tbody>
        {#each preview.rows as r, i (i)}
          <tr
            ><td class="c">{r.order}{r.line ? ` · ${r.line}` : ''}</td><td>{r.vendor}</td><td>{r.item}</td><td
              class="number">{r.quantity === null ? '' : `${number(r.quantity)} ${r.unit}`}</td
            ><td>{day(r.due)}</td><td>{r.site}</td><td>{r.what}</td></tr
          >
        {/each}
      </tbody>
    </table>
  {/if}
  {#if put.data && put.data.length > 0}
    <section class="pad drop partner" aria-label="Refused files of the watched folder">
      <h2>Refused by the watched folder</h2>
      <ul class="refused">
        {#each put.data as f (f.name)}
          <li>
            <div class="row">
              <b class="c">{f.name}</b><span class="quiet">{when(f.at)}</span>
              <button class="button" onclick={() => tryAgain(f.name)} aria-label="Look at {f.name} and try it again"
                >Look, and try again</button
              >
              <button class="button" onclick={() => putAway(f.name)} aria-label="Put {f.name} away">Put away</button>
            </div>
            <p>{f.why}</p>
          </li>
        {/each}
      </ul>
    </section>
  {/if}
  {#if session.state?.isDemo}
    <div class="pad drop partner">
      <h2>The partner of the demo</h2>
      <p class="quiet">
        A simulated vendor lays a message into the watched folder; a moment later it is in, or refused with its reason.
      </p>
      <div class="row">
        {#each partner as [message, word] (message)}<button class="button" onclick={() => send(message)}>{word}</button
          >{/each}
      </div>
      {#if sent}
        <p role="status">Laid into the folder: <b class="c">{sent.file}</b></p>
        <pre class="c">{sent.text}</pre>
      {/if}
    </div>
  {/if}
</RoadFrame>

<style>
  .drop {
    display: flex;
    flex-direction: column;
    gap: 12px;
  }
  .drop input {
    padding: 6px;
  }
  .partner {
    border-top: 1px solid var(--stone-2);
  }
  .refused {
    display: flex;
    flex-direction: column;
    gap: 12px;
    list-style: none;
    padding: 0;
  }
  .choice {
    border: 0;
    padding: 0;
    display: flex;
    flex-wrap: wrap;
    gap: 4px 20px;
  }
  .tick {
    display: inline-flex;
    gap: 8px;
    align-items: center;
    min-height: 44px;
  }
  pre {
    max-height: 200px;
    overflow: auto;
    font-size: 12px;
    background: var(--stone-1);
    padding: 8px;
    white-space: pre-wrap;
  }
</style>
