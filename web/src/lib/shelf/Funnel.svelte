<script lang="ts">
  /** How a bin was chosen, as a funnel in words and numbers: looked at, ruled out by each limit, left, this one. */
  import type { Schemas } from '$lib/api/client';
  let { trail }: { trail: Schemas['Proposal'] } = $props();
  const words: Record<Schemas['HardLimit'], string> = {
    Blocked: 'blocked',
    SaidUnusable: 'said to be full or unusable today',
    Function: 'not for goods of this standing',
    StorageClass: 'of another storage class',
    Size: 'too short for them',
    Mass: 'would be too heavy',
    Volume: 'have no room left',
    Mixing: 'hold another item or batch',
  };
  const steps = $derived.by(() => {
    let left = trail.lookedAt;
    return trail.ruledOut
      .filter((r) => r.bins > 0)
      .map((r) => {
        left -= r.bins;
        return { left, out: r.bins, why: words[r.limit] };
      });
  });
  const wide = (n: number) => Math.max(3, (n / Math.max(1, trail.lookedAt)) * 74);
</script>

<ol class="funnel">
  <li>
    <span class="body" style="width:{wide(trail.lookedAt)}px"></span><b class="c">{trail.lookedAt}</b><span
      >bins of the site, all looked at</span
    >
  </li>
  {#each steps as step (step.why)}
    <li>
      <span class="body" style="width:{wide(step.left)}px"></span><b class="c">{step.left}</b><span
        >left; {step.out} {step.why}</span
      >
    </li>
  {/each}
  {#if trail.shares.length > 0}
    <li class="one">
      <span class="body lamp" style="width:3px"></span><b class="c">{trail.shares.length}</b><span
        >this one: <b class="c">{trail.shares.map((s) => s.address).join(', ')}</b>. {trail.reason}</span
      >
    </li>
  {:else}
    <li><span class="body"></span><b class="c">0</b><span>{trail.reason}</span></li>
  {/if}
</ol>

<style>
  li {
    display: grid;
    grid-template-columns: 76px 38px 1fr;
    gap: 8px;
    align-items: center;
    font-size: 13px;
    line-height: 1.3;
  }
  .body {
    justify-self: end;
    align-self: stretch;
    background: var(--load);
    border-right: 2px solid var(--load-line);
  }
  .lamp {
    background: var(--lamp);
  }
  li > span:last-child {
    padding: 5px 0;
  }
  li > b {
    font-size: 17px;
    text-align: right;
  }
</style>
