<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { act, ask } from '$lib/api/client';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import LoadBar from '$lib/ui/LoadBar.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { day, number, when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const which = $derived(page.params['number'] ?? '');
  const arrival = createQuery(() => ({
    queryKey: ['road', `arrival:${which}`, session.site],
    queryFn: () => ask('/api/{site}/road/arrivals/{number}', { number: which }),
  }));
  const a = $derived(arrival.data?.card);
  let error = $state<unknown>();
  let spot = $state('');
  $effect(() =>
    scanLine.use(async (text) => {
      const reading = await ask('/api/{site}/scan', { text });
      if (reading.arrival) await goto(`/road/arrivals/${reading.arrival}`);
      return { words: reading.words, next: reading.problem?.next, tone: reading.problem ? 'refused' : 'look' };
    }),
  );
  async function toDoor(door: number) {
    error = undefined;
    try {
      await act('/api/{site}/road/at-door', { arrival: which, door });
      await goto(`/door/${which}`);
    } catch (problem) {
      error = problem;
    }
  }
  async function letIn() {
    error = undefined;
    try {
      await act('/api/{site}/yard/let-in', { arrival: which, spot });
      await arrival.refetch();
    } catch (problem) {
      error = problem;
    }
  }
</script>

<svelte:head><title>{which} · Mud Room</title></svelte:head>
<RoadFrame current={which} workTitle={which}>
  {#if arrival.error}<div class="pad"><ProblemNote error={arrival.error} /></div>{/if}
  {#if a && arrival.data}
    <div class="head">
      <div class="row">
        <h1><span class="c">{a.number}</span> {a.vendors.join(', ')}</h1>
        {#if a.rank === 0}<Mark kind="late" word="late" />{/if}
      </div>
      <p class="quiet">
        {a.vehicle}{a.container ? ` ${a.container}` : ''}
        {arrival.data.haulier ? `· ${arrival.data.haulier}` : ''}
        {arrival.data.seal ? `· seal ${arrival.data.seal}` : ''} · planned {when(a.planned)}
        {a.expected ? `· thought to come ${when(a.expected)}` : ''}
      </p>
      <LoadBar
        share={a.share}
        notches={a.notches}
        open={a.state === 'AtDoor'}
        ribbed={a.vehicle === 'container'}
        label="{Math.round(a.share * 100)} % counted"
      />
      <p>{a.why}</p>
    </div>
    {#if a.state === 'AtDoor'}
      <div class="pad"><a class="button go" href="/door/{a.number}">Count at door {a.door}</a></div>
    {:else if a.state !== 'CountedIn'}
      <div class="pad bring">
        {#if session.may('PlanArrivals')}
          <div class="row">
            <b>At door</b>
            {#each arrival.data.doors as door (door.number)}
              <button
                class="button"
                class:go={door.number === a.door}
                disabled={!!door.standsThere}
                title={door.equipment}
                onclick={() => toDoor(door.number)}
              >
                {door.number}{door.standsThere ? ` · ${door.standsThere}` : ''}
              </button>
            {/each}
          </div>
        {/if}
        {#if session.may('KeepGate') && a.state === 'Expected'}
          <form
            class="row"
            onsubmit={(e) => {
              e.preventDefault();
              void letIn();
            }}
          >
            <label class="field"
              ><span>Let in, yard spot</span><input bind:value={spot} name="spot" maxlength="20" /></label
            >
            <button class="button">Let in</button>
          </form>
        {/if}
        <ProblemNote {error} />
      </div>
    {/if}
    <table class="list">
      <caption class="sr-only">Manifest</caption>
      <thead
        ><tr><th>Order · line</th><th>Item</th><th class="number">Aboard</th><th>Due</th><th>Waited for</th></tr></thead
      >
      <tbody>
        {#each arrival.data.manifest as m (m.id)}
          <tr>
            <td
              ><a class="link c" href="/road/orders/{m.order}">{m.order}</a> · {m.line}<br /><span class="quiet"
                >{m.vendor}</span
              ></td
            >
            <td><b>{m.itemName}</b><br /><span class="c quiet">{m.itemCode}</span></td>
            <td class="number">{number(m.expected)} {m.unit}<br /><span class="quiet">{m.inPacks}</span></td>
            <td>
              {#if m.dueState === 'Late'}<Mark kind="late" word="late {m.daysLate} d" />
              {:else if m.dueState === 'DueToday'}<Mark kind="today" word="today" />
              {:else}<Mark kind="ontime" word={day(m.due)} />{/if}
            </td>
            <td>{m.waiting > 0 ? `${number(m.waiting)} ${m.unit}: ${m.waitingFor}` : ''}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
</RoadFrame>

<style>
  .bring {
    display: flex;
    flex-direction: column;
    gap: 10px;
  }
  form {
    align-items: flex-end;
  }
</style>
