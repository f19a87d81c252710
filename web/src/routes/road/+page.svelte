<script lang="ts">
  import { ask } from '$lib/api/client';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import { session } from '$lib/session.svelte';
  import LoadBar from '$lib/ui/LoadBar.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const board = createQuery(() => ({
    queryKey: ['road', 'board', 'door', session.site],
    queryFn: () => ask('/api/{site}/road/board'),
  }));
  const arrivals = $derived([...(board.data?.arrivals ?? [])].sort((a, b) => a.planned.localeCompare(b.planned)));
  const count = (state: string) => arrivals.filter((a) => a.state === state).length;
</script>

<svelte:head><title>Road · Mud Room</title></svelte:head>
<RoadFrame workTitle="Today">
  <div class="head row">
    <h1>Arrivals of the day</h1>
    <span class="quiet">
      <b>{count('CountedIn')}</b> done · <b>{count('AtDoor')}</b> at doors · <b>{count('InYard')}</b> in the yard ·
      <b>{count('Expected')}</b> to come
    </span>
  </div>
  <ul class="doors" aria-label="Doors">
    {#each board.data?.doors ?? [] as door (door.number)}
      <li class:taken={door.standsThere}>
        <b>Door {door.number}</b> <span class="quiet">{door.equipment}</span>
        {#if door.standsThere}<a class="link c" href="/door/{door.standsThere}">{door.standsThere}</a>{:else}<span
            class="quiet">free</span
          >{/if}
      </li>
    {/each}
  </ul>
  <ol class="day">
    {#each arrivals as a (a.number)}
      <li>
        <a
          href={a.state === 'AtDoor' ? `/door/${a.number}` : `/road/arrivals/${a.number}`}
          class:done={a.state === 'CountedIn'}
        >
          <span class="c at">{when(a.planned, board.data?.now)}</span>
          <span class="who"><b class="c">{a.number}</b> {a.vendors.join(', ')}</span>
          <span class="bar">
            <LoadBar
              share={a.share}
              notches={a.notches}
              open={a.state === 'AtDoor'}
              ribbed={a.vehicle === 'container'}
              label="{Math.round(a.share * 100)} % of {a.lines} lines counted"
            />
          </span>
          <span class="c share">{a.state === 'AtDoor' ? `${Math.round(a.share * 100)} %` : ''}</span>
          <span class="state">
            {#if a.state === 'CountedIn'}<Mark kind="done" word="counted in" />
            {:else if a.state === 'AtDoor'}<Mark kind="today" word="at door {a.door}" />
            {:else if a.state === 'InYard'}<Mark kind="open" word="yard spot {a.spot}" />
            {:else if a.rank === 0}<Mark kind="late" word="late" />
            {:else if a.minutesLate > 0}<Mark kind="falls" word="falls late" />
            {:else}<Mark kind="ontime" word={a.door ? `door ${a.door}` : 'no door yet'} />{/if}
          </span>
        </a>
      </li>
    {:else}
      <li class="empty">No arrivals today. Make one from an order: Orders, then an order, then Make an arrival.</li>
    {/each}
  </ol>
</RoadFrame>

<style>
  .doors {
    display: flex;
    flex-wrap: wrap;
    border-bottom: 1px solid var(--stone-2);
  }
  .doors li {
    padding: 7px 14px;
    border-right: 1px solid var(--stone-2);
    display: flex;
    flex-direction: column;
    font-size: 13px;
    flex: 1 1 120px;
    min-height: 68px;
  }
  .doors .taken {
    background: var(--stone-1);
  }
  .day a {
    display: grid;
    grid-template-columns: 92px minmax(0, 1.3fr) minmax(90px, 1fr) 52px 130px;
    gap: 12px;
    align-items: center;
    padding: 5px 18px;
    border-bottom: 1px solid var(--stone-2);
    min-height: 46px;
  }
  .day a:hover {
    background: var(--stone-1);
  }
  .day .done {
    color: var(--peat-2);
  }
  .at {
    font-weight: 600;
    white-space: nowrap;
  }
  .share {
    text-align: right;
  }
  @media (max-width: 700px) {
    .day a {
      grid-template-columns: 1fr auto;
      padding: 8px 14px;
    }
    .who {
      grid-column: 1/-1;
      grid-row: 1;
      font-size: 16px;
    }
    .share {
      display: none;
    }
    .bar {
      grid-column: 1/-1;
    }
  }
</style>
