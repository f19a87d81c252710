<script lang="ts">
  /** Who is here when: a week, person by person. */
  import { act, ask, type Schemas } from '$lib/api/client';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { day } from '$lib/ui/format';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  let date = $state<string | null>(null);
  let error = $state<unknown>();
  let said = $state('');
  let cell = $state<{ person: number; day: string; from: string; to: string } | null>(null);
  const week = createQuery(() => ({
    queryKey: ['road', 'roster', session.site, date],
    queryFn: () => ask('/api/{site}/road/roster', { day: date }),
    placeholderData: keepPreviousData,
  }));
  const words: Partial<Record<Schemas['Role'], string>> = { GateHand: 'gate hand' };
  const role = (r: Schemas['Role']) => words[r] ?? r.toLowerCase();
  const hour = (clock: string | null | undefined) => clock?.slice(0, 5) ?? '';
  function weeks(by: number) {
    date = new Date(Date.parse(`${week.data!.monday}T12:00:00Z`) + by * 7 * 86_400_000).toISOString().slice(0, 10);
    cell = null;
  }
  async function run(work: () => Promise<{ sentence: string }>) {
    error = undefined;
    said = '';
    try {
      said = (await work()).sentence;
      cell = null;
      await week.refetch();
    } catch (problem) {
      error = problem;
    }
  }
  const keep = (from: string | null, to: string | null) =>
    run(() =>
      act('/api/{site}/road/roster', {
        personId: cell!.person,
        day: cell!.day,
        from: from && `${from}:00`,
        to: to && `${to}:00`,
      }),
    );
</script>

<svelte:head><title>Roster · Mud Room</title></svelte:head>
<RoadFrame workTitle="Roster">
  {#if week.data}
    <div class="pad row">
      <button class="button" onclick={() => weeks(-1)}>Week before</button>
      <h1 class="grow">Week from {day(week.data.monday)}</h1>
      <button
        class="button"
        onclick={() => run(() => act('/api/{site}/road/roster/copy', { monday: week.data!.monday }))}
        >As the week before</button
      >
      <button class="button" onclick={() => weeks(1)}>Next week</button>
    </div>
    <div class="pad">
      <ProblemNote {error} />{#if said}<p class="good" role="status">{said}</p>{/if}
    </div>
    <div class="wide">
      <table class="list">
        <thead
          ><tr
            ><th>Who</th>{#each week.data.people[0]?.days ?? [] as d (d.day)}<th
                aria-current={d.day === week.data.today ? 'date' : undefined}>{day(d.day)}</th
              >{/each}</tr
          ></thead
        >
        <tbody>
          {#each week.data.people as p (p.personId)}
            <tr>
              <td
                ><b>{p.name}</b><br /><span class="quiet">{p.roles.map(role).join(', ')}</span>
                {#each p.lapsing as lapse (lapse)}<br /><Mark kind="falls" word={lapse} />{/each}</td
              >
              {#each p.days as d (d.day)}
                <td class:today={d.day === week.data.today}>
                  {#if cell?.person === p.personId && cell.day === d.day}
                    <form
                      class="hours"
                      onsubmit={(e) => {
                        e.preventDefault();
                        void keep(cell!.from, cell!.to);
                      }}
                    >
                      <span class="field"><input type="time" bind:value={cell.from} aria-label="from" required /></span>
                      <span class="field"><input type="time" bind:value={cell.to} aria-label="to" required /></span>
                      <button class="button go">Keep</button>
                      <button class="button" type="button" onclick={() => keep(null, null)}>Not here</button>
                      <button class="link" type="button" onclick={() => (cell = null)}>Leave it</button>
                    </form>
                  {:else}
                    <button
                      class="slot"
                      aria-label="{p.name}, {day(d.day)}: {d.from ? `${hour(d.from)} to ${hour(d.to)}` : 'not here'}"
                      onclick={() =>
                        (cell = {
                          person: p.personId,
                          day: d.day,
                          from: hour(d.from) || '06:00',
                          to: hour(d.to) || '14:00',
                        })}
                      >{#if d.from}<b class="c">{hour(d.from)}</b><br /><span class="c">{hour(d.to)}</span>{:else}<span
                          class="quiet">not here</span
                        >{/if}</button
                    >
                  {/if}
                </td>
              {/each}
            </tr>
          {:else}
            <tr><td class="empty">Nobody works at this site yet. The administrator brings people in.</td></tr>
          {/each}
        </tbody>
      </table>
    </div>
  {/if}
</RoadFrame>

<style>
  .wide {
    overflow-x: auto;
  }
  .slot {
    min-height: 44px;
    min-width: 64px;
    text-align: left;
  }
  .today {
    background: var(--lit-faint);
  }
  .hours {
    display: flex;
    flex-direction: column;
    gap: 4px;
    align-items: flex-start;
  }
</style>
