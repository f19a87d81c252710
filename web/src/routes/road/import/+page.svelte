<script lang="ts">
  import { act, ask, limits, type Schemas } from '$lib/api/client';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import { session } from '$lib/session.svelte';
  import Faults from '$lib/ui/Faults.svelte';
  import ImportProgress from '$lib/ui/ImportProgress.svelte';
  import { Importing } from '$lib/ui/importing.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { day, number } from '$lib/ui/format';
  const most = 40_000_000;
  let file = $state<{ name: string; text: string }>();
  let preview = $state<Schemas['ImportAnswer']>();
  let done = $state<Schemas['ImportAnswer']>();
  const importing = new Importing();
  let error = $state<unknown>();
  let refused = $state('');
  async function look(files: FileList | null | undefined) {
    const chosen = files?.[0];
    if (!chosen) return;
    preview = done = error = undefined;
    refused = '';
    if (chosen.size > most) {
      refused = `${chosen.name} has ${number(Math.round(chosen.size / 1_000_000))} MB; 40 MB are taken at most. Part it.`;
      return;
    }
    file = { name: chosen.name, text: await chosen.text() };
    importing.begin('Looking through the file.');
    try {
      preview = await act('/api/{site}/road/import/preview', file, undefined, limits.long);
    } catch (problem) {
      error = problem;
    }
    importing.busy = '';
  }
  async function take() {
    const taken = file;
    if (!taken) return;
    error = undefined;
    try {
      done = await importing.run(
        (id) => act('/api/{site}/road/import', taken, id, limits.long),
        (id) => ask('/api/{site}/road/import/progress/{act}', { act: id }),
      );
      preview = undefined;
    } catch (problem) {
      error = problem;
    }
  }
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
      void look(e.dataTransfer?.files);
    }}
  >
    <h1>Orders, order changes and despatch advices from files</h1>
    <p class="quiet">
      CSV (order, vendor, line, item, quantity, due, site; and if you like kind, order_date, unit, price,
      waiting_quantity, waiting_for), UBL 2 (Order, OrderChange, OrderCancellation, DespatchAdvice), or EDIFACT (ORDERS,
      ORDCHG, DESADV). A file with a fault is refused whole; the same file twice changes nothing.
    </p>
    <label class="field"
      ><span>File, or drop it here</span><input
        type="file"
        accept=".csv,.xml,.edi,.txt,text/csv,text/xml,application/xml"
        onchange={(e) => look(e.currentTarget.files)}
      /></label
    >
    <ProblemNote {error} />
    {#if refused}<p class="said" role="alert"><b>{refused}</b></p>{/if}
    <ImportProgress of={importing} />
    {#if done}
      <p class="good" role="status">
        {#if done.before}{done.before}{:else}
          {done.orders > 0 ? `${number(done.orders)} orders with ${number(done.lines)} line parts are in.` : ''}
          {done.changes > 0 ? `${done.changes} order changes are taken.` : ''}
          {#each done.arrivals as a (a)}<a class="link c" href="/road/arrivals/{a}">{a}</a> is made from the despatch advice.
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
    <div class="pad row">
      <span
        >{preview.kind}: {preview.orders} orders with {preview.lines} line parts, {preview.changes} changes, {preview.advices}
        despatch advices.</span
      ><button class="button go" onclick={take} disabled={!!importing.busy}>Import them</button>
    </div>
    <table class="list">
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
  pre {
    max-height: 200px;
    overflow: auto;
    font-size: 12px;
    background: var(--stone-1);
    padding: 8px;
    white-space: pre-wrap;
  }
</style>
