<script lang="ts">
  /** A signed sheet as it was signed, and whether it still is: worked out anew, against the hash, the book and a paper in the hand. */
  import { page } from '$app/state';
  import { ask } from '$lib/api/client';
  import BenchFrame from '$lib/bench/BenchFrame.svelte';
  import { limitsOf } from '$lib/bench/limits';
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { number, when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const which = $derived(page.params['number'] ?? '');
  /** The hash on the paper whose code led here. */
  const onPaper = $derived(page.url.searchParams.get('hash'));
  const proof = createQuery(() => ({
    queryKey: ['sheet', 'proof', which, session.site],
    queryFn: () => ask('/api/{site}/bench/proof/{number}', { number: which }),
    retry: false,
  }));
  const sheet = createQuery(() => ({
    queryKey: ['sheet', `inspection:${which}`, session.site],
    queryFn: () => ask('/api/{site}/bench/sheet/{number}', { number: which }),
  }));
  const p = $derived(proof.data);
  const s = $derived(sheet.data);
  const nameOf = (id: number) => s?.characteristics.find((c) => c.id === id);
  const found = (f: { value?: number | null; conforms: boolean; characteristic: number }) => {
    const c = nameOf(f.characteristic);
    return c?.unit ? `${number(f.value ?? 0)} ${c.unit}` : f.conforms ? c?.passWord : c?.failWord;
  };
</script>

<svelte:head><title>{which}, the signed sheet · Bench · Mud Room</title></svelte:head>
<BenchFrame current={which} workTitle="The signed sheet">
  {#if proof.error}<div class="pad"><ProblemNote error={proof.error} /></div>{/if}
  {#if p && s}
    <div class="head">
      <h1 id="proof">
        <Mark kind={p.isWhole ? 'done' : 'disc'} word="" />
        {p.isWhole ? 'It is as it was signed' : 'It was changed after it was signed'}
      </h1>
      <p>{s.card.number}, {s.card.item}, {s.verdict?.toLowerCase()}. {p.covers}</p>
      {#if onPaper}
        <p id="paper">
          {#if onPaper === p.hash}<Mark kind="done" word="the paper names the same hash" />
          {:else}<Mark kind="disc" word="the paper names another hash: it is not of this sheet" />{/if}
        </p>
      {/if}
      <p class="row">
        <a class="link" href="/bench/{which}">Back to the sheet</a>
        <a class="link" href="/api/{session.site}/bench/paper/{which}" target="_blank" rel="noopener">Print it (PDF)</a>
      </p>
    </div>
    <dl class="pad">
      <dt>Signed</dt>
      <dd>
        {#each s.signatures as x, i (i)}{x.meaning.toLowerCase()} by <b>{x.by}</b>, {when(x.at)}{x.comment
            ? `: ${x.comment}`
            : ''}<br />{/each}
      </dd>
      <dt>SHA-256 as signed</dt>
      <dd class="c">{p.hash}</dd>
      <dt>Worked out now</dt>
      <dd class="c" class:bad={!p.isWhole}>{p.now}</dd>
      <dt>In the book</dt>
      <dd>
        {#if p.inBook}<a class="link" href="/book?text={which}">Entry {p.inBook}</a> names the same hash{:else}No entry
          names it{/if}
      </dd>
      <dt>Plan</dt>
      <dd>
        {s.plan}, version {s.planVersion}: {s.sampleSize} of {number(s.lotSize)}
        {s.samplingUnit}
      </dd>
    </dl>
    <table class="list">
      <thead><tr><th>Piece</th><th>Characteristic</th><th>Limits</th><th>Found</th><th>By</th></tr></thead>
      <tbody>
        {#each s.findings as f (`${f.piece} ${f.characteristic}`)}
          <tr>
            <td class="c">{f.piece}</td>
            <td>{nameOf(f.characteristic)?.name}</td>
            <td class="quiet">{nameOf(f.characteristic) ? limitsOf(nameOf(f.characteristic)!) : ''}</td>
            <td
              >{#if f.conforms}{found(f)}{:else}<Mark kind="disc" word={found(f) ?? ''} />{/if}{#if f.before.length}
                <span class="quiet">was {f.before.join('; ')}</span>{/if}</td
            >
            <td class="quiet">{f.by}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
</BenchFrame>

<style>
  .row {
    display: flex;
    gap: 18px;
  }
  dl {
    display: grid;
    grid-template-columns: max-content 1fr;
    gap: 6px 18px;
  }
  dt {
    color: var(--peat-2);
  }
  dd {
    margin: 0;
    overflow-wrap: anywhere;
  }
  .bad {
    color: var(--disc);
  }
</style>
