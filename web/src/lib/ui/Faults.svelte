<script lang="ts">
  /** What is wrong in a file: line, field, value, reason. */
  import type { Schemas } from '$lib/api/client';
  import { cards } from '$lib/list/cards';
  let { faults }: { faults: Schemas['FileFault'][] } = $props();
</script>

<p class="pad">
  <b>{faults.length >= 100 ? 'The first 100' : faults.length} {faults.length === 1 ? 'fault' : 'faults'}.</b> Nothing was
  imported.
</p>
<table class="list" {@attach cards}>
  <thead><tr><th class="number">Line</th><th>Field</th><th>Value</th><th>Reason</th></tr></thead>
  <tbody>
    {#each faults as f, i (i)}<tr
        ><td class="number">{f.line}</td><td>{f.field}</td><td class="c">{f.value}</td><td>{f.reason}</td></tr
      >{/each}
  </tbody>
</table>
