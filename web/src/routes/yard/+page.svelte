<script lang="ts">
  import { act, ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import { scanLine } from '$lib/scan.svelte';
  import { when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const board = createQuery(() => ({
    queryKey: ['road', 'yard', session.site],
    queryFn: () => ask('/api/{site}/road/board'),
  }));
  const inYard = $derived((board.data?.arrivals ?? []).filter((a) => a.state === 'InYard'));
  const coming = $derived((board.data?.arrivals ?? []).filter((a) => a.state === 'Expected'));
  let chosen = $state('');
  let spot = $state('');
  let error = $state<unknown>();
  let part = $state<Part>('work');
  const current = $derived([...inYard, ...coming].find((a) => a.number === chosen) ?? inYard[0] ?? coming[0]);
  $effect(() =>
    scanLine.use(async (text) => {
      const reading = await ask('/api/{site}/scan', { text });
      if (reading.arrival) {
        chosen = reading.arrival;
        part = 'work';
      }
      return {
        words: reading.words,
        next: reading.problem?.next ?? 'let it in, or send it to a door',
        tone: reading.problem ? 'refused' : 'look',
      };
    }),
  );
  async function run(work: () => Promise<unknown>) {
    error = undefined;
    try {
      await work();
      await board.refetch();
    } catch (problem) {
      error = problem;
    }
  }
</script>

<svelte:head><title>Yard · Mud Room</title></svelte:head>
<Frame
  queueTitle="At the gate and in the yard"
  queueCount={inYard.length}
  workTitle={current?.number ?? 'Yard'}
  bind:part
>
  {#snippet queue()}
    {#each [...inYard, ...coming] as a, i (a.number)}
      <QueueCard
        onpress={() => {
          chosen = a.number;
          part = 'work';
        }}
        current={a.number === current?.number}
        code={a.number}
        title={a.vendors.join(', ')}
        why={a.why}
        order={i}
      >
        {#snippet mark()}{#if a.state === 'InYard'}<Mark kind="open" word="spot {a.spot}" />{:else if a.rank === 0}<Mark
              kind="late"
              word="late"
            />{/if}{/snippet}
      </QueueCard>
    {:else}
      <p class="empty">The yard is empty and nothing is on its way.</p>
    {/each}
  {/snippet}
  {#snippet work()}
    {#if current}
      <div class="head">
        <h1><span class="c">{current.number}</span> {current.vendors.join(', ')}</h1>
        <p class="quiet">
          {current.vehicle}{current.container ? ` ${current.container}` : ''} · planned {when(
            current.planned,
          )}{current.door ? ` · door ${current.door}` : ' · no door yet'}
        </p>
        <p>{current.why}</p>
      </div>
      <div class="pad steps">
        {#if current.state === 'Expected' && session.may('KeepGate')}
          <form
            onsubmit={(e) => {
              e.preventDefault();
              void run(() => act('/api/{site}/yard/let-in', { arrival: current!.number, spot }));
            }}
          >
            <label class="field"
              ><span>Yard spot where it stands</span><input name="spot" bind:value={spot} maxlength="20" /></label
            >
            <button class="button go big">Let {current.number} in</button>
          </form>
        {/if}
        {#if session.may('PlanArrivals')}
          <h2>Call it to a door</h2>
          <div class="row">
            {#each board.data?.doors ?? [] as door (door.number)}
              <button
                class="button"
                class:go={door.number === current.door && current.state === 'InYard'}
                disabled={!!door.standsThere}
                onclick={() =>
                  run(() => act('/api/{site}/road/at-door', { arrival: current!.number, door: door.number }))}
              >
                Door {door.number}{door.standsThere ? ` · ${door.standsThere}` : ''}
              </button>
            {/each}
          </div>
        {/if}
        {#if current.state === 'InYard' && !session.may('PlanArrivals')}
          <p>It stands at spot <b class="c">{current.spot}</b>. A supervisor calls it to a door.</p>
        {/if}
        <ProblemNote {error} />
      </div>
    {:else}
      <p class="empty">
        Nothing stands in the yard. Vehicles stand here from the gate until they are called to a door.
      </p>
    {/if}
  {/snippet}
</Frame>

<style>
  .steps,
  form {
    display: flex;
    flex-direction: column;
    gap: 12px;
  }
</style>
