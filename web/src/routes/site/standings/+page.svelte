<script lang="ts">
  /** What goods may be used for, and what each such standing lets be done: looked at by all, changed by the administrator. */
  import Field from '$lib/ui/Field.svelte';
  import { act, ask, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import StandingMark from '$lib/ui/StandingMark.svelte';
  import StandingShape from '$lib/ui/StandingShape.svelte';
  import WhoChanges from '$lib/site/WhoChanges.svelte';
  import { number } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  type Row = Schemas['StandingRow'];
  const page = createQuery(() => ({
    queryKey: ['site', 'standings', session.site],
    queryFn: () => ask('/api/{site}/site/standings'),
    refetchOnWindowFocus: false,
  }));
  const kinds: [Schemas['StandingKind'], string, string][] = [
    ['Usable', 'usable', 'may be used, perhaps not for everything'],
    ['ToInspect', 'to inspect', 'waits for somebody to look at it'],
    ['Held', 'held', 'kept back until it is settled'],
    ['Rejected', 'rejected', 'found to be bad'],
  ];
  const letting: Record<Row['lets'][number], string> = {
    None: '',
    PutAway: 'put away from where they came in',
    Move: 'move from one place of theirs to another',
    Issue: 'pick or issue',
    Ship: 'ship as ours, to outwork',
    Count: 'count where they stand',
    Sample: 'sample',
    All: '',
  };
  const shapes: Schemas['MarkShape'][] = [
    'Square',
    'HalfCircle',
    'BarredSquare',
    'CrossedSquare',
    'Ring',
    'Triangle',
    'Hexagon',
    'Shield',
    'Plus',
    'Arch',
  ];
  const colours: Schemas['MarkColour'][] = ['Leaf', 'Slate', 'Plum', 'Peat', 'Sea', 'Wine'];
  const words = (name: string) => name.replace(/(?<=.)([A-Z])/g, ' $1').toLowerCase();
  const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
  let form = $state<Row>();
  let part = $state<Part>('work');
  let preview = $state<Schemas['StandingPreview']>();
  let error = $state<unknown>();
  let said = $state('');
  let busy = $state(false);
  const may = $derived(session.may('SetUp'));
  const fixed = $derived(!may || form?.isBuiltIn === true);
  const rows = $derived(page.data?.rows ?? []);
  function open(row: Row) {
    form = structuredClone($state.snapshot(row)) as Row;
    [preview, error, said, part] = [undefined, undefined, '', 'work'];
  }
  const taken = (shape: Schemas['MarkShape'], colour: Schemas['MarkColour']) =>
    rows.some((r) => !r.retired && r.id !== form?.id && r.shape === shape && r.colour === colour);
  function add() {
    const [shape, colour] = shapes
      .flatMap((s) => colours.map((c) => [s, c] as const))
      .slice(24)
      .find(([s, c]) => !taken(s, c)) ?? ['Ring', 'Sea'];
    open({
      id: null,
      word: '',
      kind: 'Held',
      lets: ['PutAway', 'Move', 'Count', 'Sample'],
      places: ['Cage'],
      rank: 50,
      shape,
      colour,
      available: false,
      retired: false,
      isBuiltIn: false,
      says: 0,
    });
  }
  function toggle<T>(list: T[], one: T): T[] {
    return list.includes(one) ? list.filter((x) => x !== one) : [...list, one];
  }
  const changed = () => (preview = undefined);
  async function tried<T>(work: () => Promise<T>): Promise<T | undefined> {
    [error, said, busy] = [undefined, '', true];
    try {
      return await work();
    } catch (problem) {
      error = problem;
      return undefined;
    } finally {
      busy = false;
    }
  }
  const look = () =>
    tried(async () => {
      preview = await act('/api/{site}/site/standings/preview', $state.snapshot(form!) as Row);
      return preview;
    });
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    // What would stand wrongly is looked at before it is kept.
    if (!preview) {
      const seen = await look();
      if (!seen || seen.problem || seen.lines > 0) return;
    }
    const answer = await tried(() =>
      act('/api/{site}/site/standings', { row: $state.snapshot(form!) as Row, seen: preview?.lines ?? 0 }),
    );
    if (!answer) return void (preview = undefined);
    const word = form!.word.trim();
    await page.refetch();
    const kept = rows.find((r) => r.word === word);
    if (kept) open(kept);
    said = answer.sentence;
  }
</script>

<svelte:head><title>What goods may be used for · Site · Mud Room</title></svelte:head>
<Frame queueTitle="Standings" workTitle={form?.word || 'Standings'} bind:part>
  {#snippet queue()}
    <p class="pad"><a class="link" href="/site">Back to the set-up</a></p>
    <ul class="list" aria-label="Standings">
      {#each rows as r (r.id)}
        <li>
          <button class="one" class:on={r.id === form?.id} aria-pressed={r.id === form?.id} onclick={() => open(r)}>
            <StandingMark standing={r} />
            <span class="quiet"
              >{r.retired
                ? 'retired'
                : r.says > 0
                  ? `asked for by ${number(r.says)}`
                  : r.isBuiltIn
                    ? ''
                    : words(r.kind)}</span
            >
          </button>
        </li>
      {/each}
    </ul>
    {#if may}<p class="pad"><button class="button" onclick={add}>Add a standing</button></p>{/if}
    <p class="pad quiet">
      What keeps back most stands last. Of goods of which several things are said, the last word is shown, and only what
      all of them let may be done.
    </p>
  {/snippet}
  {#snippet work()}
    {#if page.error}<div class="pad"><ProblemNote error={page.error} /></div>{/if}
    {#if form}
      <form class="pad settings" onsubmit={keep} oninput={changed}>
        <h1>
          {#if form.word}<StandingMark standing={form} />{:else}A new standing{/if}
        </h1>
        {#if said}<p class="good" role="status">{said}</p>{/if}
        <WhoChanges />
        {#if form.isBuiltIn}<p class="quiet">
            Every site has it, and it keeps its meaning; only the bins that take such goods can be chosen.
          </p>{/if}
        <fieldset disabled={fixed}>
          <legend>What it is</legend>
          <div class="row">
            <Field label="Word"
              ><input name="word" bind:value={form.word} maxlength="30" required autocomplete="off" /></Field
            >
            <Field label="A kind of"
              ><select name="kind" bind:value={form.kind} disabled={form.id !== null}
                >{#each kinds as [kind, word] (kind)}<option value={kind}>{word}</option>{/each}</select
              ></Field
            >
            <Field label="Rank among its kind, 1 to 99"
              ><input name="rank" type="number" min="1" max="99" bind:value={form.rank} class="c" required /></Field
            >
          </div>
          <p class="quiet">{kinds.find(([k]) => k === form!.kind)?.[2]}</p>
        </fieldset>
        <fieldset disabled={fixed}>
          <legend>It lets such goods be</legend>
          <div class="two">
            {#each page.data?.lets ?? [] as l (l)}
              <label class="choice"
                ><input
                  type="checkbox"
                  name="lets-{l}"
                  checked={form.lets.includes(l)}
                  disabled={form.kind !== 'Usable' && (l === 'Issue' || l === 'Ship')}
                  onchange={() => (form!.lets = toggle(form!.lets, l))}
                />
                {letting[l]}</label
              >
            {/each}
          </div>
          <label class="choice"
            ><input
              type="checkbox"
              name="available"
              bind:checked={form.available}
              disabled={form.kind !== 'Usable' || !form.lets.includes('Issue')}
            /> counted as free to use, in figures and messages</label
          >
        </fieldset>
        <fieldset disabled={!may}>
          <legend>Bins that may take them</legend>
          <div class="row wrap">
            {#each page.data?.places ?? [] as p (p)}
              <label class="choice"
                ><input
                  type="checkbox"
                  name="place-{p}"
                  checked={form.places.includes(p)}
                  onchange={() => (form!.places = toggle(form!.places, p))}
                />
                {words(p)}</label
              >
            {/each}
          </div>
          <p class="quiet">Receiving places take goods of every standing, until they are put away.</p>
        </fieldset>
        <fieldset disabled={fixed}>
          <legend>Its mark</legend>
          <div class="row wrap" role="radiogroup" aria-label="Shape">
            {#each shapes as s (s)}
              <label class="choice"
                ><input type="radio" name="shape" value={s} bind:group={form.shape} />
                <span style:color="var(--standing-{form.colour.toLowerCase()})"><StandingShape shape={s} /></span>
                {words(s)}</label
              >
            {/each}
          </div>
          <div class="row wrap" role="radiogroup" aria-label="Colour">
            {#each colours as c (c)}
              <label class="choice"
                ><input type="radio" name="colour" value={c} bind:group={form.colour} />
                <span style:color="var(--standing-{c.toLowerCase()})"><StandingShape shape={form.shape} /></span>
                {words(c)}</label
              >
            {/each}
          </div>
          {#if taken(form.shape, form.colour)}<p class="bad">Another standing is drawn like that.</p>{/if}
        </fieldset>
        {#if form.id !== null && !form.isBuiltIn}
          <fieldset disabled={fixed}>
            <legend>In use</legend>
            <label class="choice"
              ><input type="checkbox" name="retired" bind:checked={form.retired} /> retired: nothing new is said with it</label
            >
          </fieldset>
        {/if}
        {#if preview?.problem}<p class="bad" role="alert">{preview.problem.sentence} {preview.problem.next}</p>{/if}
        {#if preview && !preview.problem}
          <section aria-label="What it would forbid" class="preview">
            {#if preview.lines === 0}
              <p class="good" role="status">Nothing that stands anywhere would stand wrongly by it.</p>
            {:else}
              <p class="bad" role="status">
                {number(preview.lines)}
                {preview.lines === 1 ? 'line' : 'lines'} of stock would stand where {form.word} goods may not. They stay there
                until somebody moves them.
              </p>
              <ul>
                {#each preview.wrongly as w, i (i)}
                  <li><b class="c">{w.bin}</b> {w.function}: {number(w.quantity)} {w.unit} of {w.item}</li>
                {/each}
              </ul>
              {#if preview.lines > preview.wrongly.length}<p class="quiet">
                  and {number(preview.lines - preview.wrongly.length)} more
                </p>{/if}
            {/if}
          </section>
        {/if}
        <ProblemNote {error} />
        {#if may}<div class="row">
            <button class="button" type="button" disabled={busy} onclick={() => void look()}
              >What would it forbid?</button
            >
            <button class="button go" disabled={busy}
              >{preview && !preview.problem && preview.lines > 0 ? 'Keep it all the same' : 'Keep'}</button
            >
          </div>{/if}
      </form>
    {:else}
      <div class="pad table">
        <h1>What goods may be used for</h1>
        <WhoChanges />
        <table>
          <thead
            ><tr
              ><th>Standing</th>{#each page.data?.lets ?? [] as l (l)}<th>{capital(words(l))}</th>{/each}<th
                >Free to use</th
              ><th>Stands in</th></tr
            ></thead
          >
          <tbody>
            {#each rows.filter((r) => !r.retired) as r (r.id)}
              <tr>
                <td><StandingMark standing={r} /></td>
                {#each page.data?.lets ?? [] as l (l)}<td>{r.lets.includes(l) ? 'yes' : 'no'}</td>{/each}
                <td>{r.available ? 'yes' : 'no'}</td>
                <td>{r.places.map(words).join(', ')}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
    {/if}
  {/snippet}
</Frame>

<style>
  .settings {
    display: flex;
    flex-direction: column;
    gap: 14px;
  }
  fieldset {
    border-top: 2px solid var(--stone-2);
    padding-top: 8px;
    display: flex;
    flex-direction: column;
    gap: 4px;
    align-items: flex-start;
  }
  legend {
    font-weight: 600;
    padding-right: 10px;
  }
  .row {
    align-items: flex-end;
    width: 100%;
  }
  h1 :global(.standing) {
    font-size: 20px;
  }
  .two {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
    gap: 0 18px;
    width: 100%;
  }
  .bad {
    border-left: 4px solid var(--disc);
    background: var(--disc-w);
    padding: 6px 10px;
  }
  .wrap {
    flex-wrap: wrap;
    gap: 4px 18px;
  }
  .choice {
    display: inline-flex;
    gap: 8px;
    align-items: center;
    min-height: 32px;
  }
  .one {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 10px;
    width: 100%;
    padding: 10px 16px;
    border-top: 1px solid var(--stone-2);
    min-height: 44px;
    text-align: left;
  }
  .one.on {
    background: var(--paper);
  }
  .table {
    overflow-x: auto;
  }
  table {
    border-collapse: collapse;
    margin-top: 10px;
  }
  th,
  td {
    text-align: left;
    padding: 8px 16px 8px 0;
    border-bottom: 1px solid var(--stone-2);
    vertical-align: top;
  }
  th {
    font-weight: 600;
  }
</style>
