<script lang="ts">
  /** What a file would change, field by field: as it is, and as it will be. */
  import type { Schemas } from '$lib/api/client';
  import { cards } from '$lib/list/cards';
  let { changes }: { changes: Schemas['FieldChange'][] } = $props();
  const most = 200;
</script>

<p class="pad">
  <b>{changes.length >= most ? `The first ${most} changes` : 'What changes'}.</b> Nothing is changed before you import.
</p>
<table class="list" {@attach cards}>
  <thead><tr><th class="number">Line</th><th>What</th><th>Field</th><th>As it is</th><th>As it will be</th></tr></thead>
  <tbody>
    {#each changes as c, i (i)}<tr
        ><td class="number">{c.line}</td><td>{c.what}</td><td>{c.field.replaceAll('_', ' ')}</td><td
          >{c.from || 'none'}</td
        ><td><b>{c.to || 'none'}</b></td></tr
      >{/each}
  </tbody>
</table>
