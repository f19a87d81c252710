<script lang="ts">
  /** The verdict as it stands: what was found against what may be accepted, part by part, on a limit rule. */
  import type { Schemas } from '$lib/api/client';
  let {
    parts,
    verdict,
    missing,
    signed,
  }: { parts: Schemas['SamplePartView'][]; verdict: string | null; missing: number; signed: boolean } = $props();
  const broken = $derived(parts.find((c) => c.mustReject));
  const x = (n: number, top: number) => 8 + (124 * n) / top;
</script>

<div class="verdict" class:rejected={verdict === 'Rejected'} class:accepted={verdict === 'Accepted'}>
  <div class="word">
    <b>{verdict ?? 'Open'}</b>
    <span>
      {#if broken}{broken.sentence}.{signed || missing === 0 ? '' : ' It can no longer change.'}
      {:else if verdict === 'Accepted'}Every class is within what may be accepted.
      {:else}{missing} findings still to be made.{/if}
    </span>
  </div>
  {#each parts as c (c.name)}
    {@const top = Math.max(5, (c.re ?? 3) + 2, c.nonconforming + 1)}
    <div class="class">
      <b>{c.name}</b>
      <span
        >{c.rule}{c.severity === 'Normal' ? '' : `, ${c.severity.toLowerCase()}`}{#if c.ac !== null}<br />Ac {c.ac}, Re {c.re}{/if}</span
      >
      {#if c.ac !== null}
        <svg viewBox="0 0 140 32" role="img" aria-label="{c.nonconforming} found, accept {c.ac}, reject {c.re}">
          <rect
            x={x((c.re ?? 0) - 0.5, top)}
            y="2"
            width={140 - x((c.re ?? 0) - 0.5, top)}
            height="14"
            fill="var(--disc)"
            opacity="0.25"
          />
          <path d="M4 16H138" stroke="var(--peat)" stroke-width="1.2" />
          <path d="M{x((c.re ?? 0) - 0.5, top)} 1V17" stroke="var(--peat)" stroke-width="2.5" />
          {#if (c.re ?? 0) > c.ac + 1}<path
              d="M{x(c.ac + 0.5, top)} 1V17"
              stroke="var(--peat)"
              stroke-width="1.5"
              stroke-dasharray="3 2"
            />{/if}
          {#each Array.from({ length: top + 1 }, (_, i) => i) as n (n)}
            {#if top < 9 || n % 2 === 0}<text x={x(n, top)} y="28" class:here={n === c.nonconforming}>{n}</text>{/if}
          {/each}
          {#if c.mustReject}<path d="M{x(c.nonconforming, top) - 4} 4h11l-3 4 3 4h-11z" fill="var(--disc)" />
          {:else}<path d="M{x(c.nonconforming, top)} 3V16" stroke="var(--peat)" stroke-width="4" />{/if}
        </svg>
      {:else}<span>{c.sentence}</span>{/if}
      {#if c.note}<span class="note">{c.note}</span>{/if}
    </div>
  {/each}
</div>

<style>
  .verdict {
    display: grid;
    grid-template-columns: minmax(150px, 1.2fr) repeat(auto-fit, minmax(130px, 1fr));
    gap: 16px;
    padding: 10px 18px;
    border-bottom: 2px solid var(--wall);
    background: var(--stone-1);
  }
  .rejected {
    background: var(--disc-w);
  }
  .accepted {
    background: var(--usable-w);
  }
  .word b {
    display: block;
    font-size: 24px;
    line-height: 1.1;
  }
  .class span {
    font-size: 13px;
    color: var(--peat-2);
    display: block;
  }
  text {
    font: 500 11px var(--code);
    text-anchor: middle;
    fill: var(--peat-2);
  }
  text.here {
    font-weight: 800;
    fill: var(--peat);
  }
  @media (max-width: 700px) {
    .verdict {
      grid-template-columns: 1fr 1fr;
      padding: 10px 14px;
    }
  }
</style>
