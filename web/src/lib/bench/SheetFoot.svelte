<script lang="ts">
  /** The end of a sheet: signing it, taking the first of two signatures back, and, once it is signed, superseding it. */
  import { goto } from '$app/navigation';
  import { act, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Field from '$lib/ui/Field.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { counted, when } from '$lib/ui/format';
  let {
    sheet,
    putBack,
    changed,
  }: { sheet: Schemas['SheetAnswer']; putBack: () => void; changed: () => Promise<unknown> } = $props();
  const inspection = $derived(sheet.card.number);
  const first = $derived(sheet.signatures[0]);
  const own = $derived(first?.by === session.state?.name);
  let name = $state(session.state?.name ?? '');
  let password = $state('');
  let comment = $state('');
  let meaning = $state<Schemas['SignatureMeaning']>('Checked');
  let signed = $state<Schemas['SignAnswer']>();
  let superseding = $state(false);
  let reason = $state('');
  let error = $state<unknown>();
  async function run<T>(work: () => Promise<T>): Promise<T | undefined> {
    error = undefined;
    try {
      const result = await work();
      await changed();
      return result;
    } catch (problem) {
      error = problem;
      return undefined;
    }
  }
  async function sign(event: SubmitEvent) {
    event.preventDefault();
    if (!sheet.verdict) return;
    const verdict = sheet.verdict;
    signed = await run(() =>
      act('/api/{site}/bench/sign', { inspection, name, password, verdict, comment: comment || null, meaning }),
    );
    password = '';
  }
  const unsign = () => run(() => act('/api/{site}/bench/unsign', { inspection }));
  async function supersede(event: SubmitEvent) {
    event.preventDefault();
    const again = await run(() => act('/api/{site}/bench/supersede', { inspection, reason }));
    if (!again) return;
    [superseding, reason] = [false, ''];
    await goto(`/bench/${again.number}`);
  }
</script>

{#if sheet.card.state === 'Signed'}
  <p>
    <Mark kind={sheet.verdict === 'Accepted' ? 'usable' : 'rejected'} word={sheet.verdict?.toLowerCase() ?? ''} /> signed
    by
    <b>{sheet.signedBy}</b>, {when(sheet.signedAt)}{sheet.comment ? `: ${sheet.comment}` : ''}.
    {signed?.sentence ?? ''}
    <span class="quiet"
      >Sheet <a class="link c" href="/bench/{inspection}/sheet">{sheet.sheetHash?.slice(0, 16)}</a>; it cannot be
      changed.</span
    >
  </p>
  {#if sheet.supersededBy}
    <p>It is superseded by <a class="link c" href="/bench/{sheet.supersededBy}">{sheet.supersededBy}</a>.</p>
  {:else if session.may('SignVerdict')}
    {#if !superseding}
      <button class="button" id="supersede" onclick={() => (superseding = true)}>Inspect it again</button>
    {:else}
      <form class="row" onsubmit={supersede}>
        <Field label="Why the signed sheet does not hold"
          ><input name="supersede-why" bind:value={reason} maxlength="200" required /></Field
        >
        <button class="button">Take it back, and inspect again</button>
        <button class="button" type="button" onclick={() => ((superseding = false), (error = undefined))}
          >Leave it</button
        >
      </form>
    {/if}
  {/if}
  <ProblemNote {error} />
{:else if sheet.card.state === 'Drawn'}
  <ProblemNote {error} />
  {#if first}
    <p>
      {first.meaning} by <b>{first.by}</b>, {when(first.at)}; another person signs it too.
      {#if own}<button class="button" id="unsign" onclick={unsign}>Take the signature back</button>{/if}
    </p>
  {/if}
  {#if sheet.verdict && session.may('SignVerdict') && !own}
    <form class="sign" onsubmit={sign}>
      <Field label="Name"><input name="signer" bind:value={name} autocomplete="off" /></Field>
      <Field label="Password"><input name="signature" type="password" bind:value={password} autocomplete="off" /></Field
      >
      <Field label="Meaning"
        ><select name="meaning" bind:value={meaning}
          ><option value="Checked">checked</option><option value="Approved">approved</option><option value="Witnessed"
            >witnessed</option
          ></select
        ></Field
      >
      <Field label="Comment" class="wide"><input name="comment" bind:value={comment} maxlength="1000" /></Field>
      <button class="button go"
        >Sign: {sheet.verdict.toLowerCase()}{sheet.wantsSecond ? `, ${sheet.signatures.length + 1} of 2` : ''}</button
      >
    </form>
  {:else if !sheet.verdict}
    <p class="quiet">
      {counted(sheet.missing, 'finding')} still to be made.
      {#if sheet.findings.length === 0 && session.may('Inspect')}<button class="button" id="put-back" onclick={putBack}
          >Put the sample back</button
        >{/if}
    </p>
  {/if}
{/if}

<style>
  .sign {
    display: grid;
    grid-template-columns: 1fr 1fr auto 2fr auto;
    gap: 10px;
    align-items: end;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
    align-items: end;
  }
  @media (max-width: 700px) {
    .sign {
      grid-template-columns: 1fr;
    }
  }
</style>
