<script lang="ts">
  /**
   * Doors by hours. A load is moved by dragging it, or by keyboard: Enter takes it up, arrows move it by five minutes or a door,
   * Enter puts it down, Escape leaves it where it was. What a move would break is asked from the server.
   */
  import type { Schemas } from '$lib/api/client';
  import { time } from '$lib/ui/format';
  import { at, minuteOf, snap, span } from './board';
  let {
    day,
    movable,
    chosen = $bindable(''),
    onmove,
  }: {
    day: Schemas['DayAnswer'];
    movable: boolean;
    chosen?: string;
    onmove: (block: Schemas['DayBlock'], door: number, start: string) => void;
  } = $props();
  const rowHeight = 64;
  let width = $state(0);
  let plane = $state<HTMLElement>();
  const hours = $derived(
    span(
      [
        ...day.doors.flatMap((d) => (d.from && d.to ? [{ from: d.from, to: d.to }] : [])),
        ...day.blocks.filter((b) => b.door !== null).map((b) => ({ from: b.start, to: b.end })),
      ],
      day.date,
    ),
  );
  const perMinute = $derived((width || 800) / (hours.to - hours.from));
  const x = (minute: number) => (minute - hours.from) * perMinute;
  const now = $derived(day.now.slice(0, 10) === day.date ? minuteOf(day.now) : null);
  const onBoard = $derived(day.blocks.filter((b) => b.door !== null));
  const without = $derived(
    day.blocks.filter((b) => b.door === null && (b.card.state === 'Expected' || b.card.state === 'InYard')),
  );
  const rowOf = (door: number | null) => day.doors.findIndex((d) => d.number === door);
  const canMove = (b: Schemas['DayBlock']) => movable && (b.card.state === 'Expected' || b.card.state === 'InYard');

  /** The load in the hand: by pointer or by keyboard. */
  let hand = $state<{
    block: Schemas['DayBlock'];
    row: number;
    minute: number;
    grab: number;
    by: 'pointer' | 'keys';
    /** True once the pointer has gone some way: a press alone moves nothing. */
    moved: boolean;
  }>();
  let said = $state('');

  function down(event: PointerEvent, block: Schemas['DayBlock']) {
    if (!canMove(block) || event.button !== 0) return;
    const box = plane!.getBoundingClientRect();
    hand = {
      block,
      row: Math.max(0, rowOf(block.door)),
      minute: minuteOf(block.start),
      // A load without a door is taken by its left edge.
      grab: block.door === null ? 0 : event.clientX - box.left - x(minuteOf(block.start)),
      by: 'pointer',
      moved: false,
    };
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  }
  function move(event: PointerEvent) {
    if (hand?.by !== 'pointer') return;
    const box = plane!.getBoundingClientRect();
    hand.moved = true;
    hand.minute = snap((event.clientX - box.left - hand.grab) / perMinute + hours.from);
    hand.row = Math.max(0, Math.min(day.doors.length - 1, Math.floor((event.clientY - box.top) / rowHeight)));
  }
  function up(event: PointerEvent) {
    if (hand?.by !== 'pointer') return;
    const { block, row, minute, moved } = hand;
    const under = event.clientY > plane!.getBoundingClientRect().bottom;
    hand = undefined;
    chosen = block.card.number;
    if (!moved || (under && block.door === null)) return;
    if (row !== rowOf(block.door) || minute !== minuteOf(block.start)) put(block, row, minute);
  }
  function keys(event: KeyboardEvent, block: Schemas['DayBlock']) {
    if (event.key === 'Enter' && !hand) {
      event.preventDefault();
      chosen = block.card.number;
      if (!canMove(block)) return;
      hand = {
        block,
        row: Math.max(0, rowOf(block.door)),
        minute: snap(Math.max(minuteOf(block.start), now ?? 0)),
        grab: 0,
        by: 'keys',
        moved: true,
      };
      tell();
    } else if (hand?.by === 'keys') {
      if (event.key === 'ArrowLeft') hand.minute = Math.max(hours.from, hand.minute - (event.shiftKey ? 30 : 5));
      else if (event.key === 'ArrowRight')
        hand.minute = Math.min(hours.to - 5, hand.minute + (event.shiftKey ? 30 : 5));
      else if (event.key === 'ArrowUp') hand.row = Math.max(0, hand.row - 1);
      else if (event.key === 'ArrowDown') hand.row = Math.min(day.doors.length - 1, hand.row + 1);
      else if (event.key === 'Escape') {
        hand = undefined;
        said = 'Left where it was.';
        event.preventDefault();
        return;
      } else if (event.key === 'Enter') {
        const { row, minute } = hand;
        hand = undefined;
        put(block, row, minute);
      } else return;
      event.preventDefault();
      if (hand) tell();
    }
  }
  function tell() {
    if (hand)
      said = `${hand.block.card.number}, door ${day.doors[hand.row]!.number}, ${time(at(day.date, hand.minute))}`;
  }
  function put(block: Schemas['DayBlock'], row: number, minute: number) {
    onmove(block, day.doors[row]!.number, at(day.date, minute));
  }
  function shape(b: Schemas['DayBlock']) {
    const held = hand?.block.card.number === b.card.number ? hand : undefined;
    const begin = held ? held.minute : minuteOf(b.start);
    const length = Math.max(12, minuteOf(b.end) - minuteOf(b.start));
    const top = (held ? held.row : rowOf(b.door)) * rowHeight + 3;
    return `left:${x(begin)}px;top:${top}px;width:${Math.max(26, length * perMinute)}px;height:${rowHeight - 16}px`;
  }
  /** Pixels beside a load too short for its words; 0 where they stand in it, or where the next load is too near. */
  function beside(b: Schemas['DayBlock']) {
    const end = Math.max(x(minuteOf(b.end)), x(minuteOf(b.start)) + 26);
    if (end - x(minuteOf(b.start)) >= 86) return 0;
    const next = Math.min(
      width,
      ...onBoard.filter((o) => o.door === b.door && o.start > b.start).map((o) => x(minuteOf(o.start))),
      ...pushed.filter((o) => o.door === b.door && o.card.planned > b.end).map((o) => x(minuteOf(o.card.planned))),
    );
    const room = Math.min(130, next - end - 8);
    return room < 56 ? 0 : room;
  }
  /** Pixels for the words of a load that is too short for them and has no room beside it: over its end, up to the next. */
  function over(b: Schemas['DayBlock']) {
    const begin = x(minuteOf(b.start));
    const next = Math.min(
      width,
      ...onBoard.filter((o) => o.door === b.door && o.start > b.start).map((o) => x(minuteOf(o.start))),
    );
    return beside(b) === 0 && x(minuteOf(b.end)) - begin < 86 ? next - begin - 8 : 0;
  }
  const pushed = $derived(onBoard.filter((b) => b.card.state === 'Expected' && b.card.planned < b.start));
</script>

<div class="board" style="--row:{rowHeight}px">
  <div class="names">
    <div class="axis"></div>
    {#each day.doors as d (d.number)}
      <div class="door"><b>Door {d.number}</b><span class="quiet">{d.equipment}</span></div>
    {/each}
  </div>
  <div class="middle">
    <div class="axis" bind:clientWidth={width}>
      {#each Array.from({ length: (hours.to - hours.from) / 60 }, (_, i) => hours.from + i * 60) as hour (hour)}
        <span class="c" class:behind={now !== null && Math.abs(x(hour) - x(now)) < 38} style="left:{x(hour)}px"
          >{String(hour / 60).padStart(2, '0')}</span
        >
      {/each}
      {#if now !== null && now >= hours.from && now <= hours.to}<b class="now c" style="left:{x(now)}px"
          >{time(day.now)}</b
        >{/if}
    </div>
    <!-- svelte-ignore a11y_no_static_element_interactions -->
    <div
      class="plane"
      bind:this={plane}
      style="height:{day.doors.length * rowHeight}px"
      onpointermove={move}
      onpointerup={up}
    >
      {#each day.doors as d, row (d.number)}
        <div class="lane" style="top:{row * rowHeight}px"></div>
        {#if d.from && d.to}
          <div class="shut" style="top:{row * rowHeight}px;left:0;width:{Math.max(0, x(minuteOf(d.from)))}px"></div>
          <div class="shut" style="top:{row * rowHeight}px;left:{x(minuteOf(d.to))}px;right:0"></div>
        {:else}<div class="shut" style="top:{row * rowHeight}px;left:0;right:0"></div>{/if}
        {#if d.clear}
          <div
            class="whisker"
            style="top:{(row + 1) * rowHeight - 8}px;left:{x(minuteOf(d.clear.early))}px;width:{Math.max(
              2,
              x(minuteOf(d.clear.late)) - x(minuteOf(d.clear.early)),
            )}px"
          >
            <i style="left:{x(minuteOf(d.clear.likely)) - x(minuteOf(d.clear.early))}px"></i>
          </div>
        {/if}
      {/each}
      {#if now !== null}
        <div class="past" style="width:{Math.max(0, x(now))}px"></div>
        <div class="nowline" style="left:{x(now)}px"></div>
      {/if}
      {#each pushed as b (b.card.number)}
        <div
          class="ghost"
          style="left:{x(minuteOf(b.card.planned))}px;top:{rowOf(b.door) * rowHeight + 8}px;width:{Math.max(
            98,
            60 * perMinute,
          )}px;height:{rowHeight - 26}px"
        >
          <span class="c">{b.card.number}</span><span>planned {time(b.card.planned)}</span>
        </div>
        <div
          class="arrow"
          style="left:{x(minuteOf(b.card.planned)) + Math.max(98, 60 * perMinute)}px;top:{rowOf(b.door) * rowHeight +
            rowHeight / 2}px;width:{Math.max(
            0,
            x(minuteOf(b.start)) - x(minuteOf(b.card.planned)) - Math.max(98, 60 * perMinute),
          )}px"
        ></div>
      {/each}
      {#each onBoard as b (b.card.number)}
        {@const broken = b.broken.some((r) => !r.overruled)}
        {@const room = beside(b) || over(b)}
        <button
          class="load {b.card.state}"
          class:broken
          class:on={chosen === b.card.number}
          class:held={hand?.block.card.number === b.card.number}
          class:movable={canMove(b)}
          class:beside={beside(b) > 0}
          class:over={over(b) > 0}
          style={shape(b)}
          data-number={b.card.number}
          onpointerdown={(e) => down(e, b)}
          onclick={() => (chosen = b.card.number)}
          onkeydown={(e) => keys(e, b)}
        >
          <span class="fill" style="width:{b.card.share * 100}%"></span>
          <span class="text" style:width={room > 0 ? `${room}px` : undefined}>
            <b class="c"
              >{b.card.number}{room > 0 && b.card.state === 'AtDoor' ? ` · ${Math.round(b.card.share * 100)} %` : ''}</b
            >
            <span>{b.card.vendors.join(', ') || 'orders not named'}</span>
            <span class="crew"
              >{#if b.card.state === 'CountedIn'}✓{/if}
              {#if broken}<em>{b.broken.find((r) => !r.overruled)!.rule === 'Skill' ? 'no ticket' : 'rule broken'}</em
                >{:else}{b.crewNames.map((n) => n.split(' ')[0]).join(', ') || 'no crew'}{/if}</span
            >
            <span class="sr-only">
              , door {b.door}, {time(b.start)} to {time(b.end)}, {b.crewNames.join(' and ') || 'nobody named'}, {Math.round(
                b.card.share * 100,
              )} percent counted{broken ? ', a rule is broken' : ''}{canMove(b) ? '. Enter takes it up' : ''}
            </span>
          </span>
        </button>
        {#if b.card.state === 'AtDoor' && room === 0}
          <b class="percent c" style="left:{x(minuteOf(b.end)) + 6}px;top:{rowOf(b.door) * rowHeight + 24}px"
            >{Math.round(b.card.share * 100)} %</b
          >
        {/if}
      {/each}
      {#if hand?.moved && hand.block.door === null}
        <div class="load held" style={shape(hand.block)}>
          <span class="text"><b class="c">{hand.block.card.number}</b></span>
        </div>
      {/if}
    </div>
  </div>
  <div class="clear">
    <div class="axis quiet">{day.forecast ? 'clear' : ''}</div>
    {#each day.doors as d (d.number)}
      <div class="door">
        {#if d.clear}
          <b class="c">{time(d.clear.likely)}</b>
          <span class="c quiet">{time(d.clear.early)}–{time(d.clear.late)}</span>
          {#if d.clear.pastShift >= 0.05}<span class="past-shift"
              >{Math.round(d.clear.pastShift * 100)} in 100 late</span
            >{/if}
        {:else if day.forecast}<span class="quiet">clear</span>{/if}
      </div>
    {/each}
  </div>
  <p class="sr-only" aria-live="assertive">{said}</p>
</div>
{#if without.length > 0}
  <!-- svelte-ignore a11y_no_static_element_interactions -->
  <div class="strip row" aria-label="No door yet" onpointermove={move} onpointerup={up}>
    <div><b>No door yet</b></div>
    {#each without as b (b.card.number)}
      <button
        class="waiting"
        class:on={chosen === b.card.number}
        class:movable={canMove(b)}
        data-number={b.card.number}
        onpointerdown={(e) => down(e, b)}
        onclick={() => (chosen = b.card.number)}
        onkeydown={(e) => keys(e, b)}
      >
        <b class="c">{b.card.number}</b>
        <span>{b.card.vendors.join(', ') || 'orders not named'}</span>
        <span class="quiet">{b.card.state === 'InYard' ? `yard spot ${b.card.spot}` : `booked ${time(b.booked)}`}</span>
        {#if canMove(b)}<span class="sr-only">. Enter takes it up</span>{/if}
      </button>
    {/each}
    {#if movable}<span class="quiet">drag it to a door</span>{/if}
  </div>
{/if}

<style>
  .board {
    display: grid;
    grid-template-columns: 92px minmax(0, 1fr) 104px;
    border-bottom: 2px solid var(--wall);
    user-select: none;
  }
  .axis {
    height: 26px;
    position: relative;
    font-size: 13px;
    padding-left: 10px;
  }
  .middle .axis {
    padding: 0;
  }
  .axis span {
    position: absolute;
    transform: translateX(-50%);
    top: 4px;
    color: var(--peat-2);
  }
  .axis .behind {
    visibility: hidden;
  }
  .axis .now {
    position: absolute;
    transform: translateX(-50%);
    top: 2px;
    background: var(--peat);
    color: var(--paper);
    padding: 1px 6px;
    border-radius: 2px;
    z-index: 2;
  }
  .door {
    height: var(--row);
    padding: 4px 4px 2px 10px;
    border-top: 1px solid var(--stone-2);
    display: flex;
    flex-direction: column;
    font-size: 12px;
    line-height: 1.3;
    overflow: hidden;
  }
  .door b {
    font-size: 14px;
  }
  .clear .c {
    white-space: nowrap;
  }
  .past-shift {
    color: var(--late);
    font-weight: 600;
    font-size: 12px;
    white-space: nowrap;
  }
  .plane {
    position: relative;
    border-left: 3px solid var(--wall);
    border-right: 1px solid var(--stone-2);
    overflow: hidden;
    touch-action: pan-y;
  }
  .lane {
    position: absolute;
    left: 0;
    right: 0;
    height: var(--row);
    border-top: 1px solid var(--stone-2);
  }
  .shut {
    position: absolute;
    height: var(--row);
    background: repeating-linear-gradient(135deg, var(--stone-2) 0 1px, var(--stone-1) 1px 6px);
  }
  .past {
    position: absolute;
    inset: 0 auto 0 0;
    background: var(--stone-1);
    opacity: 0.55;
    pointer-events: none;
  }
  .nowline {
    position: absolute;
    top: 0;
    bottom: 0;
    width: 2px;
    background: var(--peat);
    pointer-events: none;
    z-index: 3;
  }
  .load {
    position: absolute;
    text-align: left;
    background: var(--paper);
    border: 1.6px solid var(--load-line);
    border-left-width: 4px;
    border-radius: 6px 2px 2px 6px;
    padding: 0;
    z-index: 1;
  }
  .load.movable {
    cursor: grab;
    touch-action: none;
  }
  .load.AtDoor {
    border-right-style: dotted;
  }
  .load.CountedIn {
    background: var(--load);
  }
  .load.broken {
    background: var(--late-w);
    border-color: var(--late);
  }
  .load.on {
    outline: 3px solid var(--lamp);
    outline-offset: 1px;
    z-index: 4;
  }
  .load.held {
    cursor: grabbing;
    z-index: 6;
    box-shadow: var(--lift);
    opacity: 0.92;
  }
  .load:focus-visible {
    outline: 3px solid var(--lamp);
    z-index: 5;
  }
  .fill {
    position: absolute;
    inset: 0 auto 0 0;
    background: var(--load);
  }
  .text {
    position: relative;
    display: flex;
    flex-direction: column;
    font-size: 12px;
    line-height: 1.25;
    padding: 2px 6px;
    white-space: nowrap;
    width: max-content;
    max-width: 100%;
  }
  .beside .text {
    position: absolute;
    left: calc(100% + 1px);
    top: 0;
    max-width: none;
    text-align: left;
  }
  .over .text {
    max-width: none;
  }
  .text span {
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .text b {
    font-size: 13px;
  }
  .text em {
    font-style: normal;
    font-weight: 700;
    color: var(--disc);
  }
  .ghost {
    position: absolute;
    border: 1.5px dashed var(--late);
    border-radius: 5px;
    color: var(--late);
    font-size: 12px;
    line-height: 1.3;
    padding: 3px 6px;
    display: flex;
    flex-direction: column;
    white-space: nowrap;
    overflow: hidden;
  }
  .arrow {
    position: absolute;
    border-top: 2px dotted var(--late);
  }
  .arrow::after {
    content: '';
    position: absolute;
    right: -2px;
    top: -7px;
    border: 6px solid transparent;
    border-left-color: var(--late);
    border-right: 0;
  }
  .whisker {
    position: absolute;
    height: 1.5px;
    background: var(--peat-3);
    z-index: 2;
    pointer-events: none;
  }
  .whisker::before,
  .whisker::after,
  .whisker i {
    content: '';
    position: absolute;
    top: -3px;
    height: 7px;
    width: 1.5px;
    background: var(--peat-3);
  }
  .whisker::after {
    right: 0;
  }
  .whisker i {
    top: -5px;
    height: 11px;
    width: 3px;
    background: var(--peat);
  }
  .strip {
    padding: 5px 14px;
    border-bottom: 1px solid var(--stone-2);
  }
  .waiting {
    display: flex;
    flex-direction: column;
    text-align: left;
    border: 1.6px dashed var(--peat);
    border-radius: 5px;
    padding: 3px 10px;
    font-size: 13px;
    line-height: 1.3;
    min-width: 140px;
    background: var(--paper);
  }
  .waiting.on {
    outline: 3px solid var(--lamp);
  }
  .waiting.movable {
    cursor: grab;
    touch-action: none;
  }
  .percent {
    position: absolute;
    z-index: 2;
    font-size: 13px;
    background: var(--paper);
    padding: 0 3px;
  }
  @media (max-width: 900px) {
    .board {
      grid-template-columns: 62px minmax(0, 1fr) 66px;
    }
    .door {
      padding-left: 6px;
    }
    .door .quiet {
      display: none;
    }
  }
</style>
