<script lang="ts">
  /** What is not sent yet, and what came back: above the sill, in every room, as long as there is any. */
  import Field from '$lib/ui/Field.svelte';
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import Symbol from '$lib/ui/Symbol.svelte';
  import { journal } from '$lib/journal.svelte';
  import { Problem } from '$lib/api/client';
  import { sheetOf, waiting, type Waiting } from './waiting.svelte';
  import { page } from '$app/state';
  const others = $derived(waiting.onTheirWay.filter((w) => w.person !== session.state?.personId));
  const arrivals = $derived([...new Set(waiting.onTheirWay.map((w) => w.arrival).filter(Boolean))]);
  const whither = $derived(arrivals.length > 0 ? ` for ${arrivals.join(', ')}` : '');
  let open = $state(false);
  const labels = $derived(waiting.all.filter((w) => w.sscc));
  const counts = $derived(waiting.onTheirWay.filter((w) => w.arrival).length);
  const many = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`;
  const findings = $derived(waiting.onTheirWay.filter((w) => sheetOf(w) !== '').length);
  const steps = $derived(waiting.onTheirWay.length - counts - findings);
  const what = $derived(
    [
      counts > 0 ? many(counts, 'count') : '',
      steps > 0 ? `${many(steps, 'step')} of put-away` : '',
      findings > 0 ? many(findings, 'finding') : '',
    ]
      .filter(Boolean)
      .join(', ') || 'nothing',
  );
  let reasons = $state<Record<number, string>>({});
  let said = $state('');
  const mine = $derived(waiting.cameBack.filter((w) => w.person === session.state?.personId));
  const left = $derived(waiting.notCounted.filter((w) => w.person === session.state?.personId));
  const here = $derived(page.params['arrival'] ? `door ${page.params['arrival']}` : '');
  /** What is kept of scans at other places: nobody has read them, or they are in hand and not taken. */
  const elsewhere = $derived.by(() => {
    const person = session.state?.personId;
    const hands = journal.hands.filter((h) => h.site === session.site && (h.person !== person || h.place !== here));
    const unread = journal.scans.filter((s) => s.site === session.site && (s.person !== person || s.place !== here));
    return [
      ...hands.map((h) => ({ ...h, words: `In hand, not taken: ${h.words}` })),
      ...[...new Set(unread.map((s) => `${s.person} ${s.place}`))].map((key) => {
        const scans = unread.filter((s) => `${s.person} ${s.place}` === key);
        return { ...scans[0]!, words: `${many(scans.length, 'scan')} not read yet` };
      }),
    ];
  });
  const arrivalOf = (place: string) => (place.startsWith('door ') ? place.slice(5) : '');
  /** When it was scanned, by the clock of the site. */
  const clock = (iso: string) =>
    new Intl.DateTimeFormat('en-GB', {
      hour: '2-digit',
      minute: '2-digit',
      timeZone: session.state?.sites.find((s) => s.code === session.site)?.timeZone,
    }).format(new Date(iso));
  async function run(work: () => Promise<unknown>) {
    said = '';
    try {
      await work();
    } catch (problem) {
      said = problem instanceof Problem ? `${problem.sentence} ${problem.next}` : 'It did not work. Try again.';
    }
  }
  const leave = (w: Waiting) => run(() => waiting.notToCount(w, reasons[w.seq!] ?? ''));
</script>

{#if !waiting.reachable || waiting.all.length > 0 || elsewhere.length > 0 || !journal.keeps}
  <section class="bar" aria-label="Counts waiting to be sent">
    {#if !journal.keeps}
      <p class="row" role="alert">
        <Mark kind="disc" word="not kept" />
        <span class="grow"
          ><b>This device keeps nothing: its storage is full or shut.</b> What is in hand is lost with this page. Make room,
          or count on another device.</span
        >
      </p>
    {/if}
    <p class="row" role="status">
      {#if waiting.onTheirWay.length > 0 || !waiting.reachable}<Mark
          kind={waiting.reachable ? 'open' : 'late'}
          word={waiting.reachable ? 'sending' : 'no network'}
        />
        <b id="waiting">{waiting.onTheirWay.length}</b>{/if}
      <span class="grow"
        >{#if waiting.onTheirWay.length > 0 || !waiting.reachable}{waiting.onTheirWay.length === 1 ? 'waits' : 'wait'} to
          be sent: {what}{whither}. They are kept on this device.{:else if mine.length > 0}The server could not take
          this:{:else if left.length > 0}Not to count:{/if}
        {#if session.away}<b>{session.state?.name}: scan your badge again where the network reaches.</b>{/if}
        {#if others.length > 0}{others.length} of them are {others[0]!.personName}'s and wait until they sign in.{/if}</span
      >
      {#if labels.length > 0 && waiting.cameBack.length === 0}<button
          class="button"
          aria-expanded={open}
          onclick={() => (open = !open)}>{many(labels.length, 'label')}</button
        >{/if}
      {#if waiting.cameBack.length > 0}<button class="button" aria-expanded={open} onclick={() => (open = !open)}
          >{waiting.cameBack.length} came back</button
        >{/if}
    </p>
    {#each elsewhere as e (`${e.person} ${e.place} ${e.words}`)}
      <p class="row" data-elsewhere>
        <Mark kind="open" word={e.person === session.state?.personId ? 'kept' : `${e.personName}'s`} />
        <span class="grow"><b>{e.words}</b> <span class="c quiet">{arrivalOf(e.place) || e.place}</span></span>
        {#if e.person !== session.state?.personId}<span class="quiet">It waits until they are back.</span
          >{:else if arrivalOf(e.place)}<a class="button" href="/door/{arrivalOf(e.place)}">To its tally</a>{:else}<a
            class="button"
            href="/shelf">To the shelf</a
          >{/if}
      </p>
    {/each}
    {#if said}<p class="said" role="status">{said}</p>{/if}
    {#if open || mine.length > 0 || left.length > 0}
      <ul>
        {#each mine as w (w.seq)}
          <li>
            <span class="grow"
              ><b>{w.words}</b> <span class="c quiet">{w.arrival} {clock(w.at)}</span><br />{w.back!.sentence}
              {w.back!.next}
              {#if w.details?.length}<span class="quiet">With it: {w.details.join(', ')}.</span>{/if}
              {#if w.sscc}<span class="c quiet">Label (00) {w.sscc}</span>{/if}</span
            >
            {#if w.arrival}<a
                class="button go"
                href="/door/{w.arrival}?settle={w.seq}"
                data-sveltekit-reload={here === `door ${w.arrival}` ? '' : undefined}>Settle it</a
              >{:else if sheetOf(w)}<a class="button go" href="/bench/{sheetOf(w)}">To its sheet</a>{:else}<a
                class="button"
                href="/shelf">To the shelf</a
              >{/if}
            <button class="button" onclick={() => run(() => waiting.tryAgain(w))}>Try it again</button>
            {#if w.arrival}
              <form
                class="row"
                onsubmit={(e) => {
                  e.preventDefault();
                  void leave(w);
                }}
              >
                <Field label={`Why ${w.words} is left uncounted`} hidden
                  ><input
                    name="not-counted"
                    bind:value={reasons[w.seq!]}
                    placeholder="why not"
                    maxlength="200"
                    required
                  /></Field
                ><button class="button">Do not count it</button>
              </form>
            {:else}<button class="button" onclick={() => waiting.forget(w)}>Take it off the list</button>{/if}
          </li>
        {/each}
        {#each left as w (w.seq)}
          <li>
            <span class="grow quiet"
              >Left uncounted: <b>{w.words}</b> <span class="c">{w.arrival} {clock(w.at)}</span>, {w.left!.reason}</span
            >
            <button class="button" onclick={() => run(() => waiting.takeBackLeft(w))}>Count it after all</button>
            <button class="button" onclick={() => waiting.forget(w)}>Take it off the list</button>
          </li>
        {/each}
        {#each labels as w (w.seq)}
          <li class="label">
            <Symbol symbol="gs1-128" text="(00){w.sscc}" wide />
            <span><b>{w.words}</b>{w.batch ? `, batch ${w.batch}` : ''}<br /><span class="c">(00) {w.sscc}</span></span>
            <button class="button" onclick={() => print()}>Print from this device</button>
          </li>
        {/each}
      </ul>
    {/if}
  </section>
{/if}

<style>
  .bar {
    flex: none;
    border-top: 2px solid var(--wall);
    background: var(--lit-faint);
    padding: 6px 16px;
    max-height: 40vh;
    overflow-y: auto;
  }
  li {
    display: flex;
    gap: 10px;
    align-items: center;
    flex-wrap: wrap;
    border-top: 1px solid var(--stone-2);
    padding: 6px 0;
  }
  /* On a phone the words have the line to themselves, and the buttons the next. */
  li > .grow {
    flex: 1 1 300px;
  }
</style>
