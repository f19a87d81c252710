<script lang="ts">
  import { act, type Schemas } from '$lib/api/client';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { day, number } from '$lib/ui/format';
  let file = $state<{ name: string; text: string }>();
  let preview = $state<Schemas['ImportAnswer']>();
  let done = $state<Schemas['ImportAnswer']>();
  let error = $state<unknown>();
  async function look(files: FileList | null | undefined) {
    const chosen = files?.[0];
    if (!chosen) return;
    preview = done = error = undefined;
    file = { name: chosen.name, text: await chosen.text() };
    try {
      preview = await act('/api/{site}/road/import/preview', file);
    } catch (problem) {
      error = problem;
    }
  }
  async function take() {
    if (!file) return;
    error = undefined;
    try {
      done = await act('/api/{site}/road/import', file);
      preview = undefined;
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
    <h1>Orders from a CSV file</h1>
    <p class="quiet">
      Columns: order, vendor, line, item, quantity, due, site; and if you like kind, order_date, unit, price,
      waiting_quantity, waiting_for. Comma or semicolon, UTF-8. A file with a fault is refused whole.
    </p>
    <label class="field"
      ><span>File, or drop it here</span><input
        type="file"
        accept=".csv,text/csv"
        onchange={(e) => look(e.currentTarget.files)}
      /></label
    >
    <ProblemNote {error} />
    {#if done}<p class="good">{done.orders} orders with {done.lines} line parts are in.</p>{/if}
  </div>
  {#if preview && preview.faults.length > 0}
    <p class="pad"><b>{preview.faults.length} faults.</b> Nothing was imported.</p>
    <table class="list">
      <thead><tr><th class="number">Line</th><th>Field</th><th>Value</th><th>Reason</th></tr></thead>
      <tbody>
        {#each preview.faults as f, i (i)}<tr
            ><td class="number">{f.line}</td><td>{f.field}</td><td class="c">{f.value}</td><td>{f.reason}</td></tr
          >{/each}
      </tbody>
    </table>
  {:else if preview}
    <div class="pad row">
      <span>{preview.orders} orders, {preview.lines} line parts.</span><button class="button go" onclick={take}
        >Import them</button
      >
    </div>
    <table class="list">
      <thead
        ><tr
          ><th>Order · line</th><th>Vendor</th><th>Item</th><th class="number">Quantity</th><th>Due</th><th>Site</th
          ></tr
        ></thead
      >
      <tbody>
        {#each preview.rows as r, i (i)}
          <tr
            ><td class="c">{r.order} · {r.line}</td><td>{r.vendor}</td><td>{r.item}</td><td class="number"
              >{number(r.quantity)} {r.unit}</td
            ><td>{day(r.due)}</td><td>{r.site}</td></tr
          >
        {/each}
      </tbody>
    </table>
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
</style>
