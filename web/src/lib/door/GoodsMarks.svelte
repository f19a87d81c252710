<script lang="ts">
  /** How the item is handled and what it is dangerous by. */
  import Bomb from '@lucide/svelte/icons/bomb';
  import CircleAlert from '@lucide/svelte/icons/circle-alert';
  import Cylinder from '@lucide/svelte/icons/cylinder';
  import Droplets from '@lucide/svelte/icons/droplets';
  import Fish from '@lucide/svelte/icons/fish';
  import Flame from '@lucide/svelte/icons/flame';
  import FlameKindling from '@lucide/svelte/icons/flame-kindling';
  import HeartPulse from '@lucide/svelte/icons/heart-pulse';
  import Skull from '@lucide/svelte/icons/skull';
  import type { Schemas } from '$lib/api/client';
  import { handling, hazards } from './marks';
  let { item }: { item: Schemas['ItemView'] } = $props();
  const signs: Record<Schemas['HazardPictogram'], typeof Bomb> = {
    ExplodingBomb: Bomb,
    Flame,
    FlameOverCircle: FlameKindling,
    GasCylinder: Cylinder,
    Corrosion: Droplets,
    SkullAndCrossbones: Skull,
    ExclamationMark: CircleAlert,
    HealthHazard: HeartPulse,
    Environment: Fish,
  };
</script>

<div class="marks">
  {#each item.marks.hazards ?? [] as h (h)}
    {@const Sign = signs[h]}
    <span class="hazard"><span class="diamond"><Sign size={20} /></span>{hazards[h]}</span>
  {/each}
  {#if item.marks.unNumber}<span class="un c">UN {item.marks.unNumber}</span>{/if}
  {#each item.marks.handling ?? [] as h (h)}<span class="handling">{handling[h]}</span>{/each}
</div>

<style>
  .marks {
    display: flex;
    gap: 10px;
    align-items: center;
    flex-wrap: wrap;
    font-size: 13px;
    padding: 4px 0 0;
  }
  .marks:empty {
    display: none;
  }
  .hazard {
    display: inline-flex;
    align-items: center;
    gap: 7px;
    font-weight: 600;
  }
  .diamond {
    width: 32px;
    height: 32px;
    margin: 4px 6px;
    display: grid;
    place-items: center;
    background: #fff;
    color: #111;
    outline: 3px solid #c8102e;
    transform: rotate(45deg);
  }
  .diamond :global(svg) {
    transform: rotate(-45deg);
  }
  .un {
    border: 2px solid var(--peat);
    padding: 3px 8px;
    font-weight: 700;
  }
  .handling {
    border: 1.5px solid var(--stone-3);
    border-radius: 2px;
    padding: 3px 8px;
  }
</style>
