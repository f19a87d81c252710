<script lang="ts">
  /** The house plan: rooms in the order in which goods walk through; the room you are in is lit. */
  import { page } from '$app/state';
  import { ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  import Menu from './PersonMenu.svelte';
  import { day, time } from './format';
  import { noticesOf } from './notices';

  const plain: Record<string, [string, string]> = {
    road: ['Road', 'expected'],
    yard: ['Yard', 'on site, not at a door'],
    door: ['Door', 'unloading and tally'],
    bench: ['Bench', 'inspection'],
    cage: ['Cage', 'on hold'],
    shelf: ['Shelf', 'put-away and stock'],
    book: ['Book', 'what happened'],
    site: ['Site', 'set-up'],
  };
  const order = Object.keys(plain);
  const house = createQuery(() => ({
    queryKey: ['house', session.site],
    queryFn: () => ask('/api/{site}/house'),
    refetchInterval: 20000,
  }));
  const notices = createQuery(() => noticesOf(session.site));
  const forYou = $derived(notices.data?.total ?? 0);
  const lit = $derived(order.find((room) => page.url.pathname.startsWith(`/${room}`)) ?? '');
  const rooms = $derived(
    order.map((room) => ({
      room,
      name: plain[room]![0],
      meaning: plain[room]![1],
      ...house.data?.rooms.find((r) => r.room === room),
    })),
  );
  const at = $derived(Math.max(0, order.indexOf(lit)));
  const weekday = $derived(
    house.data
      ? ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'][
          new Date(`${house.data.now.slice(0, 10)}T12:00:00Z`).getUTCDay()
        ]
      : '',
  );
</script>

<header class="house">
  <a class="brand" href="/road" aria-label="Mud Room">
    <svg viewBox="0 0 34 34" width="34" height="34" aria-hidden="true">
      <path d="M3 3H31V31H22" fill="none" stroke="var(--wall)" stroke-width="4" />
      <path d="M3 3V31H10" fill="none" stroke="var(--wall)" stroke-width="4" />
      <path d="M10 32.6V19A13 13 0 0 1 22 31" fill="var(--lamp)" stroke="var(--wall)" stroke-width="1.6" />
    </svg>
    <span>Mud<br />Room</span>
  </a>
  <nav aria-label="Rooms">
    {#each rooms as r, i (r.room)}
      <a
        href="/{r.room}"
        class="room {r.room}"
        class:lit={r.room === lit}
        class:near={Math.abs(i - at) === 1}
        class:here={i === at}
        class:aside={r.room === 'book'}
        aria-current={r.room === lit ? 'page' : undefined}
        title="Alt+{i + 1}"
      >
        <b>{r.name}</b><span class="n"><span class="c">{r.count ?? ''}</span> {r.noun ?? ''}</span>
        <i>{r.meaning}</i>
        <span class="o">{r.oldest ?? ''}</span>
      </a>
    {/each}
  </nav>
  <div class="me">
    <b><span class="where">{house.data?.siteName ?? ''}</span> <span class="c">{time(house.data?.now)}</span></b>
    <span class="second"
      >{#if forYou > 0}<a class="for-you" href="/notices"
          ><span class="c">{forYou}</span> <span class="words">for you</span></a
        >{/if}<span class="date">{weekday} {day(house.data?.now)}</span></span
    >
    <Menu />
  </div>
</header>

<style>
  .house {
    display: flex;
    height: 84px;
    flex: none;
    background: var(--ground);
  }
  .house > * {
    border-bottom: var(--wall-w) solid var(--wall);
  }
  .brand {
    display: flex;
    gap: 9px;
    padding: 18px 8px 0 12px;
    font-weight: 700;
    font-size: 17px;
    line-height: 1.02;
    flex: none;
  }
  nav {
    display: flex;
    border-bottom: 0;
    min-width: 0;
    flex: 1;
  }
  .room {
    position: relative;
    margin-top: 7px;
    /* At least as wide as name and number need, so that no number touches its wall. */
    flex: 1 1 0;
    min-width: max-content;
    padding: 6px 9px 0 9px;
    background: var(--stone-1);
    border-top: var(--wall-w) solid var(--wall);
    border-right: var(--wall-w) solid var(--wall);
    border-bottom: var(--wall-w) solid var(--wall);
    display: grid;
    grid-template-columns: 1fr auto;
    column-gap: 6px;
    align-content: start;
  }
  .room b {
    font-size: 16px;
    line-height: 20px;
  }
  .room .n {
    font-size: 12.5px;
    line-height: 20px;
    white-space: nowrap;
  }
  .room .n .c {
    font-weight: 600;
    font-size: 16px;
  }
  .room i,
  .room .o {
    grid-column: 1/-1;
    font-style: normal;
    font-size: 12.5px;
    line-height: 17px;
    color: var(--peat-2);
    width: 0;
    min-width: 100%;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .road {
    border-top: 2px dashed var(--stone-3);
    border-right: 3px dotted var(--wall);
    flex-grow: 1;
  }
  .yard {
    border-top: 3px dotted var(--wall);
    border-right-width: 6px;
    flex-grow: 1.36;
  }
  .cage {
    background-image: repeating-linear-gradient(90deg, var(--stone-2) 0 1.5px, transparent 1.5px 9px);
    background-size: 100% 4px;
    background-repeat: no-repeat;
  }
  /* What they mean is longer than that of their neighbours. */
  .door,
  .shelf {
    flex-grow: 1.25;
  }
  .aside {
    margin-left: 12px;
    border-left: var(--wall-w) solid var(--wall);
  }
  .site {
    flex-grow: 0.86;
  }
  .room.lit {
    background: var(--lit);
    border-bottom-color: var(--lit);
  }
  .room:focus-visible {
    z-index: 2;
  }
  .me {
    flex: none;
    padding: 9px 12px 0 10px;
    text-align: right;
    font-size: 13px;
    line-height: 1.3;
  }
  .me b {
    display: block;
    font-size: 15px;
  }
  .second {
    display: flex;
    justify-content: flex-end;
    align-items: center;
    gap: 8px;
    white-space: nowrap;
  }
  .date {
    color: var(--peat-2);
  }
  .for-you {
    display: inline-flex;
    gap: 4px;
    align-items: center;
    padding: 0 7px;
    min-height: 24px;
    min-width: 24px;
    justify-content: center;
    border: 1.5px solid var(--wall);
    border-radius: 12px;
    color: inherit;
    text-decoration: none;
    white-space: nowrap;
  }
  .where {
    font-weight: 650;
    font-family: var(--word);
  }
  @media (max-width: 1000px) {
    .brand {
      display: none;
    }
    .room .o,
    .room .n {
      display: none;
    }
    .house {
      height: 66px;
    }
    .date {
      display: none;
    }
  }
  @media (max-width: 700px) {
    .house {
      height: 60px;
    }
    .room {
      display: none;
      margin: 0;
      padding: 8px 10px 0;
      align-content: center;
    }
    .room.near {
      display: grid;
      flex: 0 0 74px;
    }
    .room.here {
      display: grid;
      flex: 1;
    }
    .room.near i,
    .room .n {
      display: none;
    }
    .room.here .n {
      display: inline;
    }
    .room.here b {
      font-size: 18px;
    }
    .aside {
      margin: 0;
      border-left: 0;
    }
    .for-you .words {
      position: absolute;
      width: 1px;
      height: 1px;
      overflow: hidden;
      clip-path: inset(50%);
    }
    .second {
      display: inline-flex;
    }
    .me {
      padding: 6px 8px 0;
      border-top: var(--wall-w) solid var(--wall);
      max-width: 104px;
      overflow: hidden;
      white-space: nowrap;
    }
    .where {
      display: none;
    }
    .room.near {
      flex: 0 0 58px;
      padding: 8px 6px 0;
    }
  }
</style>
