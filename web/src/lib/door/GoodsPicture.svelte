<script lang="ts">
  /** What the item looks like, to be sure that it is the right thing; nothing where it has no picture. */
  import { session } from '$lib/session.svelte';
  let { code, name }: { code: string; name: string } = $props();
  let missing = $state('');
</script>

{#if missing !== code}<img
    src="/api/{session.site}/site/items/{encodeURIComponent(code)}/picture"
    alt="What {name} looks like"
    onerror={() => (missing = code)}
  />{/if}

<style>
  img {
    width: 72px;
    height: 72px;
    flex: none;
    object-fit: cover;
    border-radius: 4px;
    border: 1px solid var(--stone-3);
    background: #fff;
  }
</style>
