<script lang="ts">
  /** How the site holds goods and decides over them: its reasons, and from which value on two people decide. */
  import Field from '$lib/ui/Field.svelte';
  import { act, ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Frame from '$lib/ui/Frame.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  import WhoChanges from '$lib/site/WhoChanges.svelte';
  import InForce from '$lib/site/InForce.svelte';
  const cage = createQuery(() => ({
    queryKey: ['site', 'cage', session.site],
    queryFn: () => ask('/api/{site}/site/cage'),
    refetchOnWindowFocus: false,
  }));
  let above = $state<string>();
  let reasons = $state('');
  let version = $state(0);
  let busy = $state(false);
  let error = $state<unknown>();
  let said = $state('');
  $effect(() => {
    if (!cage.data || above !== undefined) return;
    above = cage.data.settings.secondAbove === null ? '' : String(cage.data.settings.secondAbove);
    reasons = (cage.data.settings.reasons ?? []).join('\n');
    version = cage.data.inForce.version;
  });
  const may = $derived(session.may('SetUp'));
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    said = '';
    busy = true;
    try {
      said = (await act('/api/{site}/site/cage', { secondAbove: above || null, version, reasons })).sentence;
      version = (await cage.refetch()).data?.inForce.version ?? version;
    } catch (problem) {
      error = problem;
    } finally {
      busy = false;
    }
  }
</script>

<svelte:head><title>How goods are held · Site · Mud Room</title></svelte:head>
<Frame queueTitle="Site" workTitle="How goods are held">
  {#snippet queue()}
    <p class="pad"><a class="link" href="/site">Back to the set-up</a></p>
    <p class="pad quiet">
      What goods are worth is reckoned at the last price of an order. The second person signs with their own name and
      password; they may see prices, or decide themselves.
    </p>
  {/snippet}
  {#snippet work()}
    {#if cage.data}
      <form class="pad settings" onsubmit={keep}>
        <h1>How goods are held and decided over</h1>
        <WhoChanges />
        <InForce of={cage.data.inForce} />
        <Field
          label="Two people decide above this value"
          hint="And over goods of which no price is known. Empty: one person is always enough."
          ><input class="c" name="second-above" inputmode="decimal" bind:value={above} disabled={!may} /></Field
        >
        <Field
          label="Reasons to hold goods by hand, one a line"
          hint="Who holds goods chooses one, or says why in a sentence."
          ><textarea name="reasons" rows="8" bind:value={reasons} disabled={!may}></textarea></Field
        >
        <ProblemNote {error} />
        {#if said}<p class="good">{said}</p>{/if}
        {#if may}<button class="button go" disabled={busy}>Keep</button>{/if}
      </form>
    {/if}
  {/snippet}
</Frame>

<style>
  .settings {
    display: flex;
    flex-direction: column;
    gap: 12px;
    max-width: 420px;
    align-items: flex-start;
  }
</style>
