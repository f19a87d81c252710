<script lang="ts">
  /** Those who got goods of a recall: what to say to them, and who told them. Nothing is sent by itself. */
  import { act, type Schemas } from '$lib/api/client';
  import Field from '$lib/ui/Field.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { day, number } from '$lib/ui/format';
  let { recall, changed }: { recall: Schemas['RecallAnswer']; changed: (sentence: string) => Promise<unknown> } =
    $props();
  let open = $state('');
  let how = $state('');
  let mailTo = $state('');
  let mailText = $state('');
  let busy = $state(false);
  let error = $state<unknown>();
  const toTell = $derived(recall.gone.filter((g) => g.mayBeTold));
  const other = $derived(recall.gone.filter((g) => !g.mayBeTold));
  async function told(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    busy = true;
    try {
      const { sentence } = await act('/api/{site}/cage/recalls/told', {
        recall: recall.number,
        reference: open,
        how: how || (mailTo ? 'by mail' : ''),
        mailTo: mailTo || null,
        mailText: mailTo ? mailText : null,
      });
      [open, how, mailTo] = ['', '', ''];
      await changed(sentence);
    } catch (problem) {
      error = problem;
    } finally {
      busy = false;
    }
  }
</script>

<h2>Those who got it <span class="quiet">{recall.toTell === 0 ? 'all told' : `${recall.toTell} to tell`}</span></h2>
{#each toTell as g (g.reference + g.item)}
  <div class="who" data-told={g.told ? 'yes' : 'no'}>
    <p>
      <b class="c">{g.reference}</b>, {g.to}: {number(g.quantity)}
      {g.unitWord} of {g.item}, {day(g.last)}, {g.by}
    </p>
    {#if g.told}<p class="quiet">Told by {g.told}</p>{/if}
    {#if recall.mayHold && open !== g.reference}
      <button class="button" onclick={() => ([open, how, mailTo, mailText] = [g.reference, '', '', g.draft ?? ''])}
        >{g.told ? 'Told again' : 'Tell them'}</button
      >
    {:else if open === g.reference}
      <form onsubmit={told}>
        <Field label="What to say to them"
          ><textarea name="mail-text" rows="4" bind:value={mailText} maxlength="5000"></textarea></Field
        >
        <Field label="Their mail address, if it is mailed" hint="It goes when you press, and not before."
          ><input name="mail-to" bind:value={mailTo} inputmode="email" maxlength="254" autocomplete="off" /></Field
        >
        <Field label="How they were told, and what they said"
          ><input name="told-how" bind:value={how} maxlength="500" autocomplete="off" /></Field
        >
        <p class="row">
          <button class="button go" disabled={busy}>{mailTo ? 'Send the mail' : 'They are told'}</button>
          <button type="button" class="button" onclick={() => (open = '')}>Not now</button>
        </p>
        <ProblemNote {error} />
      </form>
    {/if}
  </div>
{:else}
  <p class="quiet">Nothing of it went to a customer or a job.</p>
{/each}
{#if recall.goneNotShown > 0}<p class="quiet">
    and {recall.goneNotShown} more behind these; who is not told yet stands first.
  </p>{/if}
{#each other as g (g.to + g.reference)}
  <p class="quiet">
    {number(Math.abs(g.quantity))}
    {g.unitWord} of {g.item}: {g.quantity < 0 ? `back from a ${g.to}` : g.to}, <span class="c">{g.reference}</span>, {day(
      g.last,
    )}
  </p>
{/each}

<style>
  h2 .quiet {
    font-weight: 400;
    font-size: 13px;
  }
  .who {
    border-top: 1px solid var(--stone-2);
    padding: 6px 0;
  }
  form {
    display: flex;
    flex-direction: column;
    gap: 10px;
    margin-top: 6px;
  }
  .who p {
    margin: 0 0 4px;
  }
</style>
