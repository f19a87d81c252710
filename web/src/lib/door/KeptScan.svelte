<script lang="ts">
  /**
   * In a dead spot: the last scan that waits, and what may be added to it that its label does not say. Each change is
   * kept on the device at once.
   */
  import Field from '$lib/ui/Field.svelte';
  import { untrack } from 'svelte';
  import { newActId, type Schemas } from '$lib/api/client';
  import { plural } from '$lib/ui/format';
  import PrintedText from '$lib/printed/PrintedText.svelte';
  import Attributes from './Attributes.svelte';
  import { waiting, type Photograph, type Typed, type Waiting } from './waiting.svelte';
  let { entry, settings }: { entry: Waiting; settings: Schemas['CountSettings'] } = $props();
  const reasons = $derived(settings.reasons);
  // One scan as long as the form stands: it is made anew for the next.
  const scan = untrack(() => entry);
  const code = scan.code!;
  const { attributes: known, reason: before, ...plain } = scan.typed ?? {};
  let wrong = $state(before ?? '');
  const typed = $state({ ...plain } as Record<string, string>);
  const attributes = $state<Record<string, string>>({ ...known });
  let photographs = $state.raw<Photograph[]>(scan.photographs ?? []);
  let said = $state('');
  const words: Record<string, string> = {
    sourceBatch: 'Source batch',
    production: 'Production',
    bestBefore: 'Best before',
    expiry: 'Expiry',
    origin: 'Country of origin',
    serial: 'Serial number',
    weight: 'Weight, kg',
  };
  async function keep() {
    const filled = (values: Record<string, string>) =>
      Object.fromEntries(Object.entries(values).filter(([, value]) => value.trim()));
    const facts = filled(attributes);
    const reason = reasons.find((r) => r.name === wrong);
    const aside = { aside: reason?.kind ?? null, reason: reason?.name ?? null };
    const all: Typed = { ...filled(typed), ...aside, ...(Object.keys(facts).length ? { attributes: facts } : {}) };
    said = (await waiting.amend(scan.seq!, all, photographs))
      ? 'Kept with the scan.'
      : 'It is being sent. What it lacks comes back to you.';
  }
  async function take(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    for (const file of field.files ?? [])
      photographs = [...photographs, { id: newActId(), name: file.name, bytes: await file.arrayBuffer() }];
    field.value = '';
    await keep();
  }
</script>

<form class="kept" data-scans="line" onchange={() => void keep()} onsubmit={(e) => e.preventDefault()}>
  <h2>{scan.words}</h2>
  <p class="quiet">What its label says is read when the network is back. Type only what it does not say.</p>
  <PrintedText
    item={code.item}
    asks={code.asks}
    values={typed}
    {settings}
    ontake={(field, value) => {
      typed[field] = value;
      void keep();
    }}
  />
  <div class="asked">
    <Field label={`How many ${plural(code.pack, 2)}`}
      ><input class="c" name="kept-packs" inputmode="decimal" placeholder="1" bind:value={typed['packs']} /></Field
    >
    {#each code.asks as field (field)}
      <Field label={words[field] ?? field}
        ><input name="kept-{field}" class="c" autocomplete="off" bind:value={typed[field]} /></Field
      >
    {/each}
    <Attributes
      definitions={code.attributes}
      values={attributes}
      prefix="kept-"
      onset={(name, value) => (attributes[name] = value)}
    />
    <Field label="Count aside, as held"
      ><select name="kept-aside" bind:value={wrong}
        ><option value="">no, they are good</option>{#each reasons as r (r.name)}<option>{r.name}</option
          >{/each}</select
      ></Field
    >
    {#if wrong}<Field label="What is wrong, in a sentence"
        ><input name="kept-note" maxlength="500" bind:value={typed['note']} /></Field
      >{/if}
    <Field label="A picture of it"
      ><input
        type="file"
        name="kept-picture"
        accept="image/*"
        capture="environment"
        onchange={(e) => {
          e.stopPropagation();
          void take(e);
        }}
      /></Field
    >
  </div>
  <p class="quiet" role="status">
    {said}
    {photographs.length === 0 ? '' : photographs.length === 1 ? 'One picture.' : `${photographs.length} pictures.`}
  </p>
</form>

<style>
  .kept {
    background: var(--lit-faint);
    border-block: 2px solid var(--wall);
    padding: 10px 18px 12px;
    display: flex;
    flex-direction: column;
    gap: 8px;
  }
  .asked {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(124px, 1fr));
    gap: 10px;
    align-items: end;
  }
  @media (max-width: 700px) {
    .kept {
      padding: 10px 14px 12px;
    }
    .asked {
      grid-template-columns: 1fr 1fr;
    }
  }
</style>
