<script lang="ts">
  /** What was photographed at the door of these goods, seen where they are judged. */
  import { ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  let { arrival, item }: { arrival: string; item: string } = $props();
  const pictures = createQuery(() => ({
    queryKey: ['pictures', `arrival:${arrival}`, session.site, item],
    queryFn: () => ask('/api/{site}/road/pictures/{number}', { number: arrival, item }),
    enabled: arrival !== '',
  }));
</script>

{#if pictures.data?.length}
  <section class="trail-part">
    <h2>Photographed at the door <span>{pictures.data.length}</span></h2>
    <div class="all">
      {#each pictures.data as p (p.id)}<a
          href="/api/{session.site}/road/attachments/{p.id}"
          target="_blank"
          rel="noopener"
          ><img src="/api/{session.site}/road/attachments/{p.id}" alt="{p.name}, {p.by}" /><span
            >{p.item ?? 'the arrival'}, {p.by.split(' ')[0]}</span
          ></a
        >{/each}
    </div>
  </section>
{/if}

<style>
  .all {
    display: flex;
    gap: 8px;
    flex-wrap: wrap;
  }
  a {
    width: 116px;
    font-size: 12px;
  }
  img {
    width: 116px;
    height: 84px;
    object-fit: cover;
    border-radius: 2px;
    border: 1px solid var(--stone-3);
  }
</style>
