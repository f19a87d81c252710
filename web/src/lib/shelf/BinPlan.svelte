<script lang="ts">
  /** The store from above, drawn from the site's own data, one level at a time; the proposal as a way from the door. */
  import type { Schemas } from '$lib/api/client';
  let {
    plan,
    best = [],
    level = 1,
    from,
  }: { plan: Schemas['PlanAnswer']; best?: Schemas['Candidate'][]; level?: number; from?: string } = $props();
  const shownBins = $derived(plan.bins.filter((b) => b.level === level || b.level === 0 || b.function === 'Staging'));
  const maxX = $derived(Math.max(1, ...plan.bins.map((b) => b.x)) + 3);
  const maxY = $derived(Math.max(1, ...plan.bins.map((b) => b.y)) + 3);
  const scale = $derived(Math.min(720 / maxX, 330 / maxY));
  const x = (v: number) => 12 + v * scale;
  const y = (v: number) => (maxY - v) * scale + 8;
  const size = $derived(Math.max(8, Math.min(2.2 * scale, 17)));
  const rank = $derived(new Map(best.map((b, i) => [b.address, i + 1])));
  const target = $derived(plan.bins.find((b) => b.address === best[0]?.address));
  const start = $derived(plan.bins.find((b) => b.address === from));
  const aisles = $derived(
    [...new Set(plan.bins.filter((b) => b.aisle.length === 1).map((b) => b.aisle))].map((name) => {
      const bins = plan.bins.filter((b) => b.aisle === name);
      return { name, x: bins[0]!.x, y: Math.max(...bins.map((b) => b.y)) };
    }),
  );
  const rooms = $derived(
    [...new Set(plan.bins.filter((b) => b.aisle.length > 1).map((b) => b.zone))].map((name) => {
      const bins = plan.bins.filter((b) => b.zone === name);
      return { name, x: Math.min(...bins.map((b) => b.x)), y: Math.max(...bins.map((b) => b.y)) };
    }),
  );
  const fit = (b: Schemas['PlanBin']) => (b.blocked ? 'blocked' : (b.said ?? `${Math.round(b.fill * 100)} % full`));
</script>

<svg
  viewBox="0 0 {maxX * scale + 24} {maxY * scale + 34}"
  role="img"
  aria-label="Plan of the store, level {level}{target ? `, proposed ${target.address}` : ''}"
>
  <defs>
    <pattern id="hatch" width="4" height="4" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <rect width="4" height="4" fill="var(--load)" /><path d="M0 0V4" stroke="var(--stone-3)" stroke-width="1" />
    </pattern>
  </defs>
  <rect
    x="4"
    y="4"
    width={maxX * scale + 14}
    height={maxY * scale + 6}
    fill="none"
    stroke="var(--wall)"
    stroke-width="3"
  />
  {#each plan.doors as door (door.number)}
    <path d="M{x(door.x) - 16} {maxY * scale + 10}h32" stroke="var(--paper)" stroke-width="5" />
    <text x={x(door.x)} y={maxY * scale + 26}>Door {door.number}</text>
  {/each}
  {#each aisles as a (a.name)}<text x={x(a.x)} y={y(a.y) - size / 2 - 4} class="aisle">{a.name}</text>{/each}
  {#each rooms as room (room.name)}<text x={x(room.x) - size / 2} y={y(room.y) - size / 2 - 4} class="room"
      >{room.name}</text
    >{/each}
  {#each shownBins as b (b.address)}
    <g>
      <title>{b.address}, {fit(b)}</title>
      <rect
        x={x(b.x) - size / 2}
        y={y(b.y) - size / 2}
        width={size}
        height={size}
        fill="var(--paper)"
        stroke="var(--stone-3)"
      />
      <rect
        x={x(b.x) - size / 2}
        y={y(b.y) + size / 2 - size * b.fill}
        width={size}
        height={size * b.fill}
        fill="url(#hatch)"
      />
      {#if b.blocked || b.said}<path
          d="M{x(b.x) - size / 2} {y(b.y) - size / 2}l{size} {size}m0 {-size}l{-size} {size}"
          stroke="var(--disc)"
          stroke-width="1.6"
        />{/if}
    </g>
  {/each}
  {#if target && start}
    <path
      class="way"
      d="M{x(start.x)} {y(start.y)}V{y(7)}H{x(target.x) + size}V{y(target.y)}H{x(target.x) + size / 2}"
    />
  {/if}
  {#each plan.bins.filter((b) => rank.has(b.address)).reverse() as b (b.address)}
    <rect
      x={x(b.x) - size / 2 - 3}
      y={y(b.y) - size / 2 - 3}
      width={size + 6}
      height={size + 6}
      class="best"
      class:first={rank.get(b.address) === 1}
    />
    <text x={x(b.x)} y={y(b.y) + 4} class="rank" class:first={rank.get(b.address) === 1}>{rank.get(b.address)}</text>
  {/each}
</svg>

<style>
  svg {
    width: 100%;
    max-height: 400px;
    display: block;
  }
  text {
    font: 600 11px var(--word);
    text-anchor: middle;
    fill: var(--peat);
  }
  .room {
    text-anchor: start;
    font-size: 11px;
  }
  .aisle {
    font-size: 13px;
  }
  .best {
    fill: var(--lit-faint);
    stroke: var(--wall);
    stroke-width: 1.6;
  }
  .best.first {
    fill: var(--lamp);
    stroke-width: 2.4;
  }
  .rank {
    font-weight: 800;
    font-family: var(--code);
  }
  .rank.first {
    fill: var(--on-lamp);
  }
  .way {
    fill: none;
    stroke: var(--peat);
    stroke-width: 3;
    stroke-linejoin: round;
  }
</style>
