<script lang="ts">
  /** Reads the scale that has sent a weight in the last minute; where several have, it asks which: a pallet by a door is no sachet. */
  import type { Schemas } from '$lib/api/client';
  import { heardScales, type ScalePath } from './scale';
  type Scale = Schemas['ScaleView'];
  let { path, take, id }: { path: ScalePath; take: (scale: Scale) => unknown; id?: string } = $props();
  let said = $state('');
  let several = $state<Scale[]>([]);
  async function read() {
    const heard = await heardScales(path);
    several = typeof heard === 'string' || heard.length < 2 ? [] : heard;
    if (typeof heard === 'string') said = heard;
    else if (heard.length > 1) said = 'Which scale?';
    else await use(heard[0]!);
  }
  async function use(scale: Scale) {
    several = [];
    said = scale.steady ? `${scale.kilograms} kg from ${scale.scale}.` : `${scale.scale} is not steady yet.`;
    if (scale.steady) await take(scale);
  }
</script>

<span class="read">
  <button type="button" class="button" {id} onclick={() => void read()}>Read the scale</button>
  {#each several as scale (scale.scale)}
    <button type="button" class="button" data-scale={scale.scale} onclick={() => void use(scale)}
      >{scale.scale}, {scale.kilograms} kg</button
    >
  {/each}
  <span class="quiet" role="status">{said}</span>
</span>

<style>
  .read {
    display: inline-flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
  }
</style>
