<script lang="ts">
  /** Pictures that belong to a count or to the whole arrival: taken by the camera or chosen as files. */
  import { attach } from '$lib/api/attach';
  import { session } from '$lib/session.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import type { Schemas } from '$lib/api/client';
  let {
    arrival,
    pictures = $bindable([]),
    word = 'Take a picture',
    count,
  }: { arrival: string; pictures?: { id: number; name: string }[]; word?: string; count?: string } = $props();
  let error = $state<unknown>();
  let busy = $state(false);
  async function take(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    error = undefined;
    busy = true;
    try {
      for (const file of field.files ?? []) {
        const kept: Schemas['AttachmentView'] = await attach(arrival, file, count);
        pictures = [...pictures, kept];
      }
    } catch (problem) {
      error = problem;
    } finally {
      busy = false;
      field.value = '';
    }
  }
</script>

<div class="pictures">
  <label class="button"
    >{busy ? 'One moment' : word}<input
      type="file"
      name="picture"
      accept="image/*"
      capture="environment"
      class="sr-only"
      onchange={take}
      disabled={busy}
    /></label
  >
  {#each pictures as p (p.id)}<a href="/api/{session.site}/road/attachments/{p.id}" target="_blank" rel="noopener"
      ><img src="/api/{session.site}/road/attachments/{p.id}" alt={p.name} /></a
    >{/each}
  <ProblemNote {error} />
</div>

<style>
  .pictures {
    display: flex;
    gap: 8px;
    align-items: center;
    flex-wrap: wrap;
  }
  .button:focus-within {
    outline: 3px solid var(--lamp);
  }
  img {
    width: 48px;
    height: 48px;
    object-fit: cover;
    border-radius: 2px;
    border: 1px solid var(--stone-3);
  }
</style>
