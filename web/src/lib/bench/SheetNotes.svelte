<script lang="ts">
  /** What was written on the sheet, and a line to write more. */
  import { act, type Schemas } from '$lib/api/client';
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
  async function write(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    try {
      const piece = of === 'piece' && inHand > 0 ? inHand : null;
      await act('/api/{site}/bench/note', { inspection: sheet.card.number, piece, characteristic, text });
      text = '';
      await changed();
    } catch (problem) {
      error = problem;
    }
  }
</script>

{#if isOpen || sheet.notes.length}
  <section class="trail-part">
    <h2>Notes</h2>
    {#each sheet.notes as n, i (i)}
      <p>
        <b>{[n.piece ? `Piece ${n.piece}` : '', nameOf(n.characteristic) ?? ''].filter(Boolean).join(', ') || 'Lot'}</b>
        {n.text} <span class="quiet">{n.by}, {when(n.at)}</span>
      </p>
    {:else}
      <p class="quiet">None yet.</p>
    {/each}
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
        <button class="button">Write it down</button>
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
  }
</style>
