<script lang="ts">
  /** A code that means nothing here, or goods that nobody can name: put aside as a question, bound on the spot, or sent back. */
  import Field from '$lib/ui/Field.svelte';
  import { attach } from '$lib/api/attach';
  import { act, ask, newActId, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  let {
    arrival,
    code,
    vendors,
    onclose,
  }: {
    arrival: string;
    code: string;
    /** Whose goods are aboard: a number that means nothing else may be on a delivery note of theirs. */
    vendors: Schemas['VendorAboard'][];
    onclose: (said: string) => void;
  } = $props();
  const may = $derived(session.may('SettleTally'));
  const site = createQuery(() => ({
    queryKey: ['site', session.site],
    queryFn: () => ask('/api/{site}/site'),
    enabled: may && code !== '',
  }));
  let packs = $state('1');
  let note = $state('');
  let item = $state('');
  let pack = $state('');
  let error = $state<unknown>();
  const names = $derived((site.data?.items.find((i) => i.code === item)?.packs ?? []).map((p) => p.name));
  let files = $state<FileList>();
  /** The question first: its pictures belong to it by its act. */
  async function putAside() {
    const id = newActId();
    const asked = await act(
      '/api/{site}/door/ask',
      {
        arrival,
        kind: code ? 'UnknownCode' : 'UnknownItem',
        code: code || null,
        packs,
        note: note || null,
        count: null,
      },
      id,
    );
    for (const file of files ?? []) await attach(arrival, file, id);
    return asked;
  }
  async function run(work: () => Promise<{ sentence: string }>) {
    error = undefined;
    try {
      onclose((await work()).sentence);
    } catch (problem) {
      error = problem;
    }
  }
</script>

<section class="unknown" aria-label="Not known">
  <h2>
    {#if code}Nothing here is called <span class="c">{code}</span>{:else}Goods without a name{/if}
  </h2>
  <div class="row">
    <Field label="How many stand there" class="few"
      ><input class="c" name="unknown-packs" inputmode="decimal" bind:value={packs} /></Field
    >
    <Field label="What they look like, what is printed on them" class="grow"
      ><input name="unknown-note" bind:value={note} maxlength="500" /></Field
    >
    <Field label="A picture of it"
      ><input type="file" name="unknown-picture" accept="image/*" capture="environment" bind:files /></Field
    >
  </div>
  {#if may && code}
    <div class="row">
      <Field label="It is" class="grow"
        ><select name="bind-item" bind:value={item}
          ><option value=""></option>{#each site.data?.items ?? [] as i (i.code)}<option value={i.code}>{i.name}</option
            >{/each}</select
        ></Field
      >
      <Field label="Pack"
        ><select name="bind-pack" bind:value={pack}
          >{#each names as p (p)}<option>{p}</option>{/each}</select
        ></Field
      >
      <button
        class="button go"
        disabled={!item || !pack}
        onclick={() => run(() => act('/api/{site}/door/bind', { code, item, pack }))}>Bind the code to it</button
      >
    </div>
  {/if}
  <ProblemNote {error} />
  <div class="row">
    <button class="button" class:go={!may || !code} onclick={() => run(putAside)}>Put it aside as a question</button>
    <button
      class="button"
      onclick={() => run(() => act('/api/{site}/door/refuse', { arrival, item: null, packs, reason: note }))}
      >Refuse it, back with the vehicle</button
    >
    {#if code && code.length <= 40 && !code.startsWith('(')}{#each vendors as v (v.id)}<button
          class="button"
          onclick={() => run(() => act('/api/{site}/door/delivery-note', { arrival, vendorId: v.id, note: code }))}
          >It is the delivery note of {v.name}</button
        >{/each}{/if}
    <button class="button" onclick={() => onclose('')}>Leave it</button>
  </div>
</section>

<style>
  .unknown {
    background: var(--lit-faint);
    border-block: 2px solid var(--wall);
    padding: 10px 18px 12px;
    display: flex;
    flex-direction: column;
    gap: 8px;
  }
  .row {
    align-items: flex-end;
    flex-wrap: wrap;
  }
  :global(.field.few) input {
    width: 110px;
  }
  @media (max-width: 700px) {
    .unknown {
      padding: 10px 14px 12px;
    }
  }
</style>
