<script lang="ts">
  /** One item: what it asks for when it comes, and what is shown of it while it is counted. */
  import Field from '$lib/ui/Field.svelte';
  import { page } from '$app/state';
  import { act, ask, type Schemas } from '$lib/api/client';
  import { base64 } from '$lib/api/attach';
  import { handling, hazards } from '$lib/door/marks';
  import { session } from '$lib/session.svelte';
  import Frame from '$lib/ui/Frame.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { number } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  import WhoChanges from '$lib/site/WhoChanges.svelte';
  const code = $derived(page.params['code'] ?? '');
  const item = createQuery(() => ({
    queryKey: ['site', 'item', session.site, code],
    queryFn: () => ask('/api/{site}/site/items/{code}', { code }),
    refetchOnWindowFocus: false,
  }));
  const may = $derived(session.may('SetUp'));
  type Attribute = Schemas['AttributeDefinition'];
  let form = $state<Schemas['KeepItemRequest']>();
  let choices = $state<string[]>([]);
  let error = $state<unknown>();
  let said = $state('');
  let seen = $state(0);
  $effect(() => {
    const i = item.data;
    if (!i || form?.code === i.code) return;
    form = {
      code: i.code,
      attributes: structuredClone(i.attributes) as Attribute[],
      catchWeight: i.catchWeight,
      weightTolerance: i.weightTolerance,
      batchPattern: i.batchPattern,
      rulingDate: i.rulingDate,
      minimumRemainingDays: i.minimumRemainingDays,
      marks: {
        hazards: [...(i.marks.hazards ?? [])],
        unNumber: i.marks.unNumber,
        handling: [...(i.marks.handling ?? [])],
      },
      packageTypes: Object.fromEntries(i.packs.map((p) => [p.name, p.packageType])),
    };
    choices = i.attributes.map((a) => (a.choices ?? []).join(', '));
  });
  const blankNumber = (value: unknown): number | null =>
    value === '' || value === null || value === undefined ? null : Number(value);
  async function run(work: () => Promise<{ sentence: string }>) {
    error = undefined;
    said = '';
    try {
      said = (await work()).sentence;
      await item.refetch();
    } catch (problem) {
      error = problem;
    }
  }
  const keep = (event: SubmitEvent) => {
    event.preventDefault();
    const sent = $state.snapshot(form!) as Schemas['KeepItemRequest'];
    void run(() =>
      act('/api/{site}/site/item', {
        ...sent,
        minimumRemainingDays: blankNumber(sent.minimumRemainingDays),
        attributes: sent.attributes.map((a, i) => ({
          ...a,
          least: blankNumber(a.least),
          most: blankNumber(a.most),
          unit: a.unit || null,
          choices:
            a.kind === 'Choice'
              ? choices[i]!.split(',')
                  .map((c) => c.trim())
                  .filter(Boolean)
              : null,
        })),
      }),
    );
  };
  async function picture(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const file = field.files?.[0];
    if (!file) return;
    const content = await base64(file);
    await run(() => act('/api/{site}/site/item/picture', { code, content }));
    seen++;
    field.value = '';
  }
  function flip<T>(list: T[], value: T): T[] {
    return list.includes(value) ? list.filter((x) => x !== value) : [...list, value];
  }
</script>

<svelte:head><title>{code} · Site · Mud Room</title></svelte:head>
<Frame queueTitle="Site" workTitle={code}>
  {#snippet queue()}
    <p class="pad"><a class="link" href="/site">Back to the set-up</a></p>
    <p class="pad quiet">
      Name, packs, classes and codes are brought in by a file. Here stands what the item asks for when it is counted in.
    </p>
  {/snippet}
  {#snippet work()}
    {#if item.error}<div class="pad"><ProblemNote error={item.error} /></div>{/if}
    {#if form && item.data}
      <form class="pad settings" onsubmit={keep}>
        <h1>{item.data.name} <span class="c quiet">{item.data.code}</span></h1>
        <WhoChanges />
        <fieldset disabled={!may}>
          <legend>What is asked of its source batch</legend>
          {#each form.attributes as a, i (i)}
            <div class="row">
              <Field label="Name"><input name="attribute-name" bind:value={a.name} maxlength="40" required /></Field>
              <Field label="Kind"
                ><select name="attribute-kind" bind:value={a.kind}
                  ><option value="Text">text</option><option value="Number">number</option><option value="Date"
                    >date</option
                  ><option value="Choice">choice</option><option value="YesNo">yes or no</option></select
                ></Field
              >
              <Field label="Must it be known"
                ><select name="attribute-need" bind:value={a.need}
                  ><option value="Optional">if known</option><option value="Recommended">asked once</option><option
                    value="Required">required</option
                  ></select
                ></Field
              >
              {#if a.kind === 'Number'}
                <Field label="Unit" class="few"><input bind:value={a.unit} maxlength="12" /></Field>
                <Field label="Least" class="few"><input class="c" bind:value={a.least} inputmode="decimal" /></Field>
                <Field label="Most" class="few"><input class="c" bind:value={a.most} inputmode="decimal" /></Field>
              {:else if a.kind === 'Choice'}
                <Field label="To choose from, comma between" class="grow"
                  ><input bind:value={choices[i]} required /></Field
                >
              {/if}
              <button
                class="button"
                type="button"
                onclick={() => {
                  choices = choices.filter((_, j) => j !== i);
                  form!.attributes = form!.attributes.filter((_, j) => j !== i);
                }}>Away</button
              >
            </div>
          {:else}<p class="quiet">Nothing beyond number, dates and origin.</p>{/each}
          <button
            class="button"
            type="button"
            onclick={() => {
              choices = [...choices, ''];
              form!.attributes = [
                ...form!.attributes,
                { name: '', kind: 'Text', need: 'Optional', unit: null, least: null, most: null, choices: null },
              ];
            }}>One more attribute</button
          >
        </fieldset>
        <fieldset disabled={!may}>
          <legend>Own batches and dates</legend>
          <div class="row">
            <Field label={`Numbered by; blank for ${'{prefix}-{MM}{dd}-{n}'}`}
              ><input
                class="c"
                name="batch-pattern"
                bind:value={form.batchPattern}
                placeholder={'{vendor}{yy}{ww}-{n}'}
              /></Field
            >
            <Field label="Which date rules"
              ><select bind:value={form.rulingDate}
                ><option value="BestBefore">best before</option><option value="Expiry">expiry</option></select
              ></Field
            >
            <Field label="Days that must remain"
              ><input class="c" type="number" min="0" bind:value={form.minimumRemainingDays} /></Field
            >
          </div>
          {#if item.data.needsBatch}<p class="quiet">
              The next would be <span class="c">{item.data.nextBatch}</span>.
            </p>{/if}
        </fieldset>
        <fieldset disabled={!may}>
          <legend>Weight</legend>
          <label class="choice"
            ><input type="checkbox" name="catch-weight" bind:checked={form.catchWeight} /> Each count is weighed</label
          >
          {#if form.catchWeight}<Field label="May differ by, %" class="few"
              ><input class="c" type="number" step="any" bind:value={form.weightTolerance} /></Field
            >{/if}
        </fieldset>
        <fieldset disabled={!may}>
          <legend>Marks</legend>
          <div class="row ticks">
            {#each Object.entries(hazards) as [key, word] (key)}
              <label class="choice"
                ><input
                  type="checkbox"
                  checked={form.marks.hazards?.includes(key as Schemas['HazardPictogram'])}
                  onchange={() =>
                    (form!.marks = {
                      ...form!.marks,
                      hazards: flip(form!.marks.hazards ?? [], key as Schemas['HazardPictogram']),
                    })}
                />
                {word}</label
              >
            {/each}
          </div>
          <Field label="UN number" class="few"><input class="c" bind:value={form.marks.unNumber} maxlength="4" /></Field
          >
          <div class="row ticks">
            {#each Object.entries(handling) as [key, word] (key)}
              <label class="choice"
                ><input
                  type="checkbox"
                  checked={form.marks.handling?.includes(key as Schemas['HandlingMark'])}
                  onchange={() =>
                    (form!.marks = {
                      ...form!.marks,
                      handling: flip(form!.marks.handling ?? [], key as Schemas['HandlingMark']),
                    })}
                />
                {word}</label
              >
            {/each}
          </div>
        </fieldset>
        <fieldset disabled={!may}>
          <legend>Packs</legend>
          {#each item.data.packs as p (p.name)}
            <div class="row">
              <span class="pack"
                ><b>{p.name}</b>{p.content === 1 ? '' : ` of ${number(p.content)} ${item.data.unit}`}<br /><span
                  class="c quiet">{[p.gtin, ...p.otherCodes].filter(Boolean).join(', ') || 'no barcode'}</span
                ></span
              >
              <Field label="Package type (UN/ECE Rec 21)"
                ><select bind:value={form.packageTypes[p.name]}
                  ><option value="">not said</option>{#each item.data.packageTypes as t (t.code)}<option value={t.code}
                      >{t.code} {t.word}</option
                    >{/each}</select
                ></Field
              >
            </div>
          {/each}
        </fieldset>
        <ProblemNote {error} />
        {#if said}<p class="good" role="status">{said}</p>{/if}
        {#if may}<div class="row"><button class="button go">Keep the item</button></div>
        {/if}
      </form>
    {/if}
  {/snippet}
  {#snippet trail()}
    {#if item.data}
      <section class="trail-part">
        <h2>Picture</h2>
        {#if item.data.hasPicture}<img
            src="/api/{session.site}/site/items/{encodeURIComponent(code)}/picture?{seen}"
            alt="What {item.data.name} looks like"
          />{:else}<p class="quiet">None yet. It is shown while the item is counted.</p>{/if}
        {#if may}
          <Field label={item.data.hasPicture ? 'Another picture' : 'A picture'}
            ><input type="file" name="item-picture" accept="image/*" onchange={picture} /></Field
          >
          {#if item.data.hasPicture}<button
              class="button"
              onclick={() => run(() => act('/api/{site}/site/item/picture', { code, content: null }))}
              >Take it away</button
            >{/if}
        {/if}
      </section>
    {/if}
  {/snippet}
</Frame>

<style>
  .settings {
    display: flex;
    flex-direction: column;
    gap: 18px;
  }
  fieldset {
    border-top: 2px solid var(--stone-2);
    padding-top: 8px;
    display: flex;
    flex-direction: column;
    gap: 8px;
    align-items: flex-start;
  }
  legend {
    font-weight: 600;
    padding-right: 10px;
  }
  .row {
    align-items: flex-end;
  }
  :global(.settings .field.few) {
    width: 100px;
  }
  .pack {
    min-width: 220px;
  }
  .choice {
    display: inline-flex;
    gap: 8px;
    align-items: center;
    min-height: 32px;
  }
  .ticks {
    gap: 4px 18px;
  }
  img {
    width: 100%;
    border: 1px solid var(--stone-3);
    border-radius: 4px;
    margin-bottom: 8px;
  }
</style>
