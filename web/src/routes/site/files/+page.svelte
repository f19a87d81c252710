<script lang="ts">
  /** Bringing a site in, and taking it out, as CSV. */
  import Field from '$lib/ui/Field.svelte';
  import { act, ask, limits, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Changes from '$lib/ui/Changes.svelte';
  import Faults from '$lib/ui/Faults.svelte';
  import Frame from '$lib/ui/Frame.svelte';
  import ImportProgress from '$lib/ui/ImportProgress.svelte';
  import { Importing } from '$lib/ui/importing.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { contentOf } from '$lib/ui/content';
  import { number } from '$lib/ui/format';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  const kinds: [Schemas['SetUpKind'], string, string, string][] = [
    [
      'Items',
      'Items',
      'code; name, category, unit, step, storage, kg, litres, longest_m, rate, home_zone, asks, shelf_life_days …',
      'What is bought and stored.',
    ],
    [
      'Packs',
      'Packs and barcodes',
      'item, pack; holds, of, gtin, labelled',
      'How many base units a pack holds, and its GTIN.',
    ],
    [
      'Vendors',
      'Vendors',
      'code; name, country, contact, telephone, mail, items, gln',
      'Who sells it, and what they call it.',
    ],
    [
      'Doors',
      'Doors',
      'number; equipment, vehicles, special, x, week, saturday',
      'Where vehicles are unloaded, and when.',
    ],
    [
      'Bins',
      'Bins',
      'address; zone, aisle, bay, level, function, storage, max_kg, max_litres, max_m, x, y, height, mix_items …',
      'Every place goods can stand in; staging places name their door.',
    ],
    [
      'People',
      'People',
      'sign_in; name, roles, sites, skills, active, first_password',
      'Who works here, what they may do, which tickets they have.',
    ],
    [
      'Stock',
      'Opening stock',
      'bin, item, quantity; standing, batch, source_batch, vendor, good_until, serial, unit, pack',
      'What stands there when the book begins.',
    ],
  ];
  let kind = $state<Schemas['SetUpKind']>('Items');
  const current = $derived(kinds.find(([k]) => k === kind)!);
  let file = $state<{ name: string; content: string }>();
  let preview = $state<Schemas['SetUpFileAnswer']>();
  let done = $state<Schemas['SetUpFileAnswer']>();
  let error = $state<unknown>();
  const importing = new Importing();
  function choose(next: Schemas['SetUpKind']) {
    kind = next;
    file = preview = done = error = undefined;
  }
  async function look(files: FileList | null) {
    const chosen = files?.[0];
    if (!chosen) return;
    preview = done = error = undefined;
    file = { name: chosen.name, content: await contentOf(chosen) };
    importing.begin('Looking through the file.');
    try {
      preview = await act('/api/{site}/site/files/preview', { kind, ...file }, undefined, limits.long);
    } catch (problem) {
      error = problem;
    }
    importing.busy = '';
  }
  async function take() {
    error = undefined;
    try {
      done = await importing.run(
        (id) => act('/api/{site}/site/files/import', { kind, ...file! }, id, limits.long),
        (id) => ask('/api/{site}/site/files/progress/{act}', { act: id }),
      );
      preview = undefined;
    } catch (problem) {
      error = problem;
    }
  }
</script>

<svelte:head><title>Files · Site · Mud Room</title></svelte:head>
<Frame queueTitle="Bring a site in" queueCount={kinds.length} workTitle={current[1]}>
  {#snippet queue()}
    {#each kinds as [k, name, , why], i (k)}
      <QueueCard onpress={() => choose(k)} current={k === kind} code={String(i + 1)} title={name} {why} order={i} />
    {/each}
  {/snippet}
  {#snippet work()}
    <div class="head">
      <h1>{current[1]}</h1>
      <p class="quiet">
        Columns: {current[2]} Those before the semicolon must be there. Only the columns of the file are changed; what is
        not there yet is added.
      </p>
      <a class="link" href="/site">Back to the set-up</a>
    </div>
    {#if session.may('SetUp')}
      <div class="pad take">
        <a class="button" href="/api/{session.site}/site/files/{kind}" download>Take out as CSV</a>
        {#key kind}
          <Field label="Bring in from CSV"
            ><input type="file" accept=".csv,text/csv" onchange={(e) => look(e.currentTarget.files)} /></Field
          >
        {/key}
        <ProblemNote {error} />
        <ImportProgress of={importing} />
        {#if preview && preview.faults.length === 0}
          <p>
            {number(preview.lines)} lines: {number(preview.new)} new, {number(preview.changed)} changed, {number(
              preview.unchanged,
            )} as they are.
          </p>
          <button class="button go" disabled={importing.busy !== ''} onclick={take}>Import them</button>
        {/if}
        {#if done}<p class="good" role="status">
            {number(done.new)} new, {number(done.changed)} changed, {number(done.unchanged)} as they were.
          </p>{/if}
      </div>
      {#each preview?.notes ?? [] as note (note)}<p class="pad quiet">{note}</p>{/each}
      {#if preview && preview.faults.length > 0}<Faults faults={preview.faults} />{/if}
      {#if preview && preview.changes.length > 0}<Changes changes={preview.changes} />{/if}
    {:else}<p class="empty">The administrator brings files in and out.</p>{/if}
  {/snippet}
</Frame>

<style>
  .take {
    display: flex;
    flex-direction: column;
    gap: 12px;
    align-items: flex-start;
  }
  .take input {
    padding: 6px;
  }
</style>
