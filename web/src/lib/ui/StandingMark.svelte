<script lang="ts">
  /** What goods may be used for: always word, shape and colour together, as the site's row has them. */
  import type { Schemas } from '$lib/api/client';
  import StandingShape from './StandingShape.svelte';
  let { standing }: { standing: Pick<Schemas['StandingSeen'], 'word' | 'shape' | 'colour'> } = $props();
</script>

<span class="standing" style:color="var(--standing-{standing.colour.toLowerCase()})">
  <StandingShape shape={standing.shape} />
  {standing.word}
</span>

<style>
  .standing {
    display: inline-flex;
    align-items: center;
    gap: 5px;
    white-space: nowrap;
    font-weight: 600;
    font-size: 13px;
    line-height: 1.2;
    vertical-align: middle;
  }
</style>
