<script lang="ts">
  /** Which version of a room's settings is in force, since when and by whom. */
  import type { Schemas } from '$lib/api/client';
  let { of }: { of: Schemas['SettingsInForce'] } = $props();
</script>

<p class="quiet">
  {#if of.version > 0 && of.since}
    Version {of.version}, in force since {of.since.slice(0, 16).replace('T', ' ')}, by {of.by}.
  {:else}
    Nobody has changed these settings yet.
  {/if}
</p>
