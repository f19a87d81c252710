<script lang="ts">
  /** Teaches this site how its scanners type: the test label is scanned, and what came beside it is learned. */
  import Field from '$lib/ui/Field.svelte';
  import { act, ask, type Schemas } from '$lib/api/client';
  import { shown } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import Frame from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import Symbol from '$lib/ui/Symbol.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  const settings = createQuery(() => ({
    queryKey: ['site', 'door-settings', session.site],
    queryFn: () => ask('/api/{site}/site/door'),
    refetchOnWindowFocus: false,
  }));
  let typed = $state('');
  let lastKey = 0;
  let slowest = 0;
  let learned = $state<Schemas['LearnedScanner']>();
  let error = $state<unknown>();
  let said = $state('');
  const may = $derived(session.may('SetUp'));
  const now = $derived(settings.data?.scanner);
  function key(event: KeyboardEvent) {
    if (typed === '' && (event.currentTarget as HTMLInputElement).value === '') slowest = 0;
    else slowest = Math.max(slowest, Math.round(event.timeStamp - lastKey));
    lastKey = event.timeStamp;
    // Control character 29 comes as Ctrl+]; in a text field it would be lost.
    if (event.ctrlKey && event.key === ']') {
      event.preventDefault();
      typed += '\u001d';
    }
    if (event.key !== 'Enter') return;
    event.preventDefault();
    const text = (event.currentTarget as HTMLInputElement).value;
    typed = '';
    void learn(text);
  }
  async function learn(text: string) {
    error = undefined;
    said = '';
    try {
      learned = await act('/api/{site}/site/scanner', { typed: text, slowest });
    } catch (problem) {
      error = problem;
    }
  }
  async function keep() {
    error = undefined;
    try {
      const whole = await ask('/api/{site}/site/door');
      said = (
        await act('/api/{site}/site/door', {
          settings: whole.settings,
          scanner: learned!.settings!,
          hasAddresses: whole.hasAddresses,
          version: whole.inForce.version,
        })
      ).sentence;
      await settings.refetch();
    } catch (problem) {
      error = problem;
    }
  }
  const word = (text: string) => (text === '' ? 'nothing' : shown(text));
</script>

<svelte:head><title>Scanners · Site · Mud Room</title></svelte:head>
<Frame queueTitle="Site" workTitle="Scanners">
  {#snippet queue()}
    <p class="pad"><a class="link" href="/site">Back to the set-up</a></p>
    <p class="pad"><a class="link" href="/site/door">How goods are counted</a></p>
    <p class="pad quiet">
      A scanner types like a keyboard and ends with Enter. Some type a sign before or behind each code, and some cannot
      send control character 29, which parts the values of a code: then another character stands for it.
    </p>
  {/snippet}
  {#snippet work()}
    <div class="pad teach">
      <h1>Teach a scanner</h1>
      <p>Put the cursor into the field and scan this label with the scanner.</p>
      <div class="label">
        {#if settings.data}
          <Symbol symbol="gs1-128" text={settings.data.testLabel} wide />
          <Symbol symbol="gs1-datamatrix" text={settings.data.testLabel} />
          <span class="c">{settings.data.testLabel}</span>
        {/if}
      </div>
      <Field label="What the scanner types"
        ><input
          name="typed"
          data-scans="here"
          class="c"
          bind:value={typed}
          onkeydown={key}
          autocomplete="off"
          autocapitalize="off"
          spellcheck="false"
        /></Field
      >
      {#if learned}
        <p class={learned.problem ? 'said' : 'good'} role="status">
          {learned.words}
          {learned.problem?.next ?? ''}
        </p>
        {#if learned.settings && !learned.problem && may}<button class="button go" onclick={keep}
            >Keep it for this site</button
          >{/if}
      {/if}
      <ProblemNote {error} />
      {#if said}<p class="good" role="status">{said}</p>{/if}
      {#if now}
        <h2>As it is now</h2>
        <p>
          <Mark kind="done" word="before each code" /> <span class="c">{word(now.prefix)}</span>
          <Mark kind="done" word="behind it" /> <span class="c">{word(now.suffix)}</span>
          <Mark kind="done" word="for the separator" />
          <span class="c">{now.separator === '' ? 'control character 29' : shown(now.separator)}</span>
        </p>
      {/if}
    </div>
  {/snippet}
</Frame>

<style>
  .teach {
    display: flex;
    flex-direction: column;
    gap: 12px;
    max-width: 720px;
  }
  .label {
    display: flex;
    gap: 18px;
    align-items: center;
    flex-wrap: wrap;
    background: #fff;
    color: #231d15;
    padding: 14px;
    border: 1.5px solid var(--stone-3);
    border-radius: 4px;
  }
  .label :global(img.gs1-128) {
    width: 100%;
    max-width: 480px;
    height: 96px;
  }
  .label :global(img.gs1-datamatrix) {
    width: 112px;
    height: 112px;
  }
</style>
