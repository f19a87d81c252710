<script lang="ts">
  /** The week from afar: a column a day, a row a door; each load a short bar where it stands in the day. */
  import { ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { dayName, minuteOf } from './board';
  let { date, onday }: { date: string; onday: (date: string) => void } = $props();
  const week = createQuery(() => ({
    queryKey: ['road', 'week', session.site, date],
    queryFn: () => ask('/api/{site}/road/week', { date }),
    placeholderData: keepPreviousData,
  }));
  const left = (iso: string) => Math.max(0, Math.min(96, ((minuteOf(iso) - 360) / 720) * 100));
</script>

{#if week.data}
  <div class="week" style="--doors:{week.data.doors.length}">
    {#each week.data.days as d (d.date)}
      <section>
        <button class="name" onclick={() => onday(d.date)}>
          <b>{dayName(d.date)}</b>
          <span class="quiet">{d.arrivals} arrivals{d.withoutDoor ? `, ${d.withoutDoor} without a door` : ''}</span>
          <span class="quiet c">{d.bookedHours} of {d.openHours} h</span>
          {#if d.holiday}<span class="quiet">{d.holiday}</span>{/if}
        </button>
        {#each week.data.doors as door (door)}
          <div class="lane" aria-label="Door {door}">
            {#each week.data.blocks.filter((b) => b.door === door && b.start.slice(0, 10) === d.date) as b (b.card.number)}
              <a
                href="/road/arrivals/{b.card.number}"
                class="bit {b.card.state}"
                class:broken={b.broken.some((r) => !r.overruled)}
                style="left:{left(b.start)}%;width:{Math.max(4, left(b.end) - left(b.start))}%"
                title="{b.card.number} {b.card.vendors.join(', ')}"><span class="sr-only">{b.card.number}</span></a
              >
            {/each}
          </div>
        {/each}
      </section>
    {/each}
  </div>
  <p class="pad quiet">Each lane is a door from 06 to 18 h, the first at the top. Press a day to plan it.</p>
{/if}

<style>
  .week {
    display: grid;
    grid-template-columns: repeat(6, minmax(0, 1fr));
    border-bottom: 2px solid var(--wall);
  }
  section {
    border-right: 1px solid var(--stone-2);
  }
  .name {
    display: flex;
    flex-direction: column;
    text-align: left;
    width: 100%;
    padding: 8px 10px;
    font-size: 13px;
    line-height: 1.35;
    min-height: 88px;
  }
  .name:hover {
    background: var(--stone-1);
  }
  .lane {
    position: relative;
    height: 46px;
    border-top: 1px solid var(--stone-2);
  }
  .bit {
    position: absolute;
    top: 9px;
    height: 26px;
    min-width: 24px;
    border: 1.5px solid var(--load-line);
    border-left-width: 4px;
    border-radius: 5px 2px 2px 5px;
    background: var(--paper);
  }
  .bit.CountedIn,
  .bit.AtDoor {
    background: var(--load);
  }
  .bit.broken {
    background: var(--late-w);
    border-color: var(--late);
  }
  @media (max-width: 700px) {
    .week {
      grid-template-columns: repeat(3, minmax(0, 1fr));
    }
  }
</style>
