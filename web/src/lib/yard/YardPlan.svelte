<script lang="ts">
  /** The yard from above: doors along the wall, spots before them; what stands where, and the spot that is meant. */
  import type { Schemas } from '$lib/api/client';
  let {
    spots,
    doors,
    wanted,
    onpick,
  }: {
    spots: Schemas['SpotView'][];
    doors: Schemas['DoorView'][];
    wanted: string | null;
    onpick: (spot: string) => void;
  } = $props();
</script>

<section class="yard" aria-label="Yard from above">
  <div class="wall">
    {#each doors as d (d.number)}<span class:taken={d.standsThere}
        >door {d.number}<b class="c">{d.standsThere ?? ''}</b></span
      >{/each}
  </div>
  <div class="spots">
    {#each spots as s (s.number)}
      <button
        class:taken={s.standsThere}
        class:wanted={s.number === wanted}
        disabled={!!s.standsThere}
        onclick={() => onpick(s.number)}
      >
        <b class="c">{s.number}</b>
        <span>{s.standsThere ?? 'free'}</span>
        <small>{s.vehicles.join(', ')}{s.coldPlug ? ', plug' : ''}</small>
      </button>
    {/each}
  </div>
</section>

<style>
  .yard {
    padding: 6px 18px 18px;
  }
  .wall {
    display: flex;
    border-bottom: 4px solid var(--wall);
    gap: 4px;
  }
  .wall span {
    flex: 1;
    font-size: 12px;
    padding: 4px 6px;
    min-height: 40px;
    display: flex;
    flex-direction: column;
    min-width: 0;
    overflow: hidden;
  }
  .wall .taken {
    background: var(--load);
  }
  .spots {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(76px, 1fr));
    gap: 5px;
    margin-top: 14px;
  }
  .spots button {
    border: 1.5px dashed var(--stone-3);
    border-top: 0;
    min-height: 82px;
    padding: 5px 7px;
    text-align: left;
    display: flex;
    flex-direction: column;
    font-size: 13px;
    line-height: 1.25;
    background: var(--paper);
    color: var(--peat);
  }
  .spots b {
    font-size: 18px;
  }
  .spots small {
    color: var(--peat-2);
    font-size: 12px;
  }
  .spots button:disabled {
    opacity: 1;
    color: var(--peat);
  }
  .spots .taken {
    background: var(--load);
    border-style: solid;
  }
  .spots .wanted {
    border: 2.5px solid var(--lamp-deep);
    background: var(--lit-faint);
  }
</style>
