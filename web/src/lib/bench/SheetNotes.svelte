<script lang="ts">
  /** What was written on the sheet and its pictures, the name of the piece in hand, and a line to write more. */
  import { base64 } from '$lib/api/attach';
  import { act, limits, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Field from '$lib/ui/Field.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { when } from '$lib/ui/format';
  let { sheet, inHand, changed }: { sheet: Schemas['SheetAnswer']; inHand: number; changed: () => Promise<unknown> } =
    $props();
  let text = $state('');
  let of = $state<'piece' | 'lot'>('piece');
  let characteristic = $state<number | null>(null);
  let error = $state<unknown>();
  const isOpen = $derived(sheet.card.state === 'Drawn' && session.may('Inspect'));
  const nameOf = (id: number | null | undefined) => sheet.characteristics.find((c) => c.id === id)?.name;
  const piece = $derived(of === 'piece' && inHand > 0 ? inHand : null);
  const inspection = $derived(sheet.card.number);
  const about = (n: { piece: number | null; characteristic: number | null }) =>
    [n.piece ? `Piece ${n.piece}` : '', nameOf(n.characteristic) ?? ''].filter(Boolean).join(', ') || 'Lot';
  const called = $derived(sheet.pieces.find((p) => p.piece === inHand)?.name ?? '');
  let busy = $state(false);
  async function run(work: () => Promise<unknown>) {
    error = undefined;
    busy = true;
    try {
      await work();
      await changed();
    } catch (problem) {
      error = problem;
    } finally {
      busy = false;
    }
  }
  function write(event: SubmitEvent) {
    event.preventDefault();
    void run(async () => {
      await act('/api/{site}/bench/note', { inspection, piece, characteristic, text });
      text = '';
    });
  }
  function take(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    void run(async () => {
      for (const file of field.files ?? []) {
        const content = await base64(file);
        await act('/api/{site}/bench/picture', { inspection, piece, characteristic, content }, undefined, limits.long);
      }
      field.value = '';
    });
  }
  const name = (event: Event) =>
    run(() =>
      act('/api/{site}/bench/name-piece', {
        inspection,
        piece: inHand,
        text: (event.currentTarget as HTMLInputElement).value,
      }),
    );
</script>

{#if isOpen || sheet.notes.length || sheet.pictures.length}
  <section class="trail-part">
    <h2>Notes and pictures</h2>
    {#each sheet.notes as n, i (i)}
      <p>
        <b>{about(n)}</b>
        {n.text} <span class="quiet">{n.by}, {when(n.at)}</span>
      </p>
    {:else}
      {#if !sheet.pictures.length}<p class="quiet">None yet.</p>{/if}
    {/each}
    {#if sheet.pictures.length}
      <p class="pictures">
        {#each sheet.pictures as p (p.id)}
          <a href="/api/{session.site}/bench/pictures/{p.id}" target="_blank" rel="noopener"
            ><img src="/api/{session.site}/bench/pictures/{p.id}" alt="{about(p)}, {p.by}" /><span>{about(p)}</span></a
          >
        {/each}
      </p>
    {/if}
    {#if isOpen && inHand > 0}
      <Field label="Piece {inHand} is called" hint="its serial or label: scanned or typed"
        ><input
          class="c"
          name="piece-name"
          value={called}
          maxlength="200"
          autocomplete="off"
          data-scans="field"
          onchange={(e) => void name(e)}
        /></Field
      >
    {/if}
    {#if isOpen}
      <form onsubmit={write}>
        <Field label="A note"><input name="note" bind:value={text} maxlength="500" required autocomplete="off" /></Field
        >
        <span class="row">
          <Field label="About"
            ><select name="note-of" bind:value={of}
              ><option value="piece">piece {inHand || '…'}</option><option value="lot">the lot</option></select
            ></Field
          >
          <Field label="Characteristic"
            ><select name="note-characteristic" bind:value={characteristic}
              ><option value={null}>any</option>{#each sheet.characteristics as c (c.id)}<option value={c.id}
                  >{c.name}</option
                >{/each}</select
            ></Field
          >
        </span>
        <span class="row">
          <button class="button" disabled={busy}>Write it down</button>
          <label class="button"
            >{busy ? 'One moment' : 'Take a picture'}<input
              type="file"
              name="sheet-picture"
              accept="image/*"
              capture="environment"
              class="sr-only"
              onchange={take}
              disabled={busy}
            /></label
          >
        </span>
        <ProblemNote {error} />
      </form>
    {/if}
  </section>
{/if}

<style>
  form {
    display: flex;
    flex-direction: column;
    gap: 8px;
    align-items: flex-start;
    margin-top: 8px;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  .button:focus-within {
    outline: 3px solid var(--lamp);
  }
  .pictures {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  .pictures a {
    width: 96px;
    font-size: 13px;
  }
  .pictures img {
    display: block;
    width: 96px;
    height: 72px;
    object-fit: cover;
    border: 1px solid var(--stone-3);
  }
</style>
