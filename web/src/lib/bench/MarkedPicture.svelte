<script lang="ts">
  /** A picture by which something is judged, with numbered marks; where it may be changed, a press on it sets one. */
  import { session } from '$lib/session.svelte';
  type Mark = { x: number; y: number; text: string };
  let {
    id,
    of,
    marks = $bindable(),
    mark,
  }: {
    id: number;
    /** What it shows, in words. */
    of: string;
    marks: Mark[];
    /** Told where a mark is wanted; none may be set without it. */
    mark?: (x: number, y: number) => void;
  } = $props();
  const address = $derived(`/api/${session.site}/bench/pictures/${id}`);
  function press(event: MouseEvent) {
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    // A key presses in the middle.
    const [x, y] =
      event.detail === 0
        ? [50, 50]
        : [((event.clientX - box.left) / box.width) * 100, ((event.clientY - box.top) / box.height) * 100];
    mark?.(Math.round(x), Math.round(y));
  }
</script>

<figure>
  <span class="picture">
    {#if mark}<button type="button" onclick={press} aria-label="Set a mark on the picture of {of}"
        ><img src={address} alt="" /></button
      >{:else}<a href={address} target="_blank" rel="noopener"><img src={address} alt="How {of} is judged" /></a>{/if}
    {#each marks as m, i (i)}<span class="mark c" style:left="{m.x}%" style:top="{m.y}%" aria-hidden="true"
        >{i + 1}</span
      >{/each}
  </span>
  {#if marks.length && !mark}
    <ol>
      {#each marks as m, i (i)}<li>{m.text}</li>{/each}
    </ol>
  {/if}
</figure>

<style>
  figure {
    margin: 6px 0 0;
    max-width: 340px;
  }
  .picture {
    position: relative;
    display: block;
  }
  .picture button {
    display: block;
    padding: 0;
    border: 0;
    width: 100%;
    cursor: crosshair;
  }
  img {
    display: block;
    width: 100%;
    border: 1px solid var(--stone-3);
  }
  .mark {
    position: absolute;
    translate: -50% -50%;
    width: 24px;
    height: 24px;
    line-height: 22px;
    text-align: center;
    font-weight: 700;
    background: var(--paper);
    color: var(--peat);
    border: 2px solid var(--peat);
    pointer-events: none;
  }
  ol {
    margin: 4px 0 0;
    padding-left: 22px;
  }
</style>
