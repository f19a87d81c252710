<script lang="ts">
  /** The gate and the yard: let in, park, call, at door, empty, out. Made for a phone in one hand. */
  import Field from '$lib/ui/Field.svelte';
  import { attach } from '$lib/api/attach';
  import { act, ask, Problem, type Schemas } from '$lib/api/client';
  import { scanLine } from '$lib/scan.svelte';
  import { session } from '$lib/session.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import QueueCard from '$lib/ui/QueueCard.svelte';
  import { time, when } from '$lib/ui/format';
  import ToDoor from '$lib/road/ToDoor.svelte';
  import YardPlan from '$lib/yard/YardPlan.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  import { tick } from 'svelte';
  const yard = createQuery(() => ({
    queryKey: ['road', 'yard', 'door', session.site],
    queryFn: () => ask('/api/{site}/yard'),
  }));
  const vehicles = $derived(yard.data?.vehicles ?? []);
  let chosen = $state('');
  let part = $state<Part>('work');
  let error = $state<unknown>();
  let said = $state('');
  let unplanned = $state(false);
  const current = $derived(vehicles.find((v) => v.card.number === chosen) ?? vehicles[0]);
  const inYard = $derived(vehicles.filter((v) => v.card.state === 'InYard'));
  const plain = (text: string | null | undefined) => (text ?? '').replace(/[^A-Za-z0-9]/g, '').toUpperCase();
  let spot = $state('');
  let container = $state('');
  let plate = $state('');
  let seal = $state('');
  let gateWord = $state('');
  let away = $state(false);
  let awayWhy = $state('');
  let pictures = $state(0);
  let visit = $state({
    vehicle: 'truck',
    plate: '',
    container: '',
    haulier: '',
    seal: '',
    spot: '',
    orders: '',
    word: '',
  });
  const same = (a: string | null | undefined, b: string) => plain(a) === plain(b);
  /** Something was read, and it is not what was planned: a word is wanted, of a seal a picture too. */
  const sealDiffers = $derived(!!current?.seal && seal.trim() !== '' && !same(current.seal, seal));
  const wantsWord = $derived(
    sealDiffers ||
      (!!current?.plate && plate.trim() !== '' && !same(current.plate, plate)) ||
      (!!current?.card.container && container.trim() !== '' && !same(current.card.container, container)) ||
      (error instanceof Problem && ['gate-differs', 'plate-on-site'].includes(error.code)),
  );
  $effect(() => {
    // Another vehicle in hand: the form begins anew, with the proposed spot filled in.
    const number = current?.card.number;
    spot = vehicles.find((v) => v.card.number === number)?.proposal?.spot ?? '';
    container = plate = seal = gateWord = awayWhy = '';
    away = false;
    pictures = 0;
  });
  function choose(number: string) {
    chosen = number;
    part = 'work';
    unplanned = false;
    error = undefined;
    said = '';
  }
  $effect(() =>
    scanLine.use(async (text) => {
      const typed = plain(text);
      const found = vehicles.find((v) =>
        [v.card.number, v.card.container, v.plate].some((x) => x && plain(x) === typed),
      );
      if (found) {
        choose(found.card.number);
        if (found.card.container && plain(found.card.container) === typed) await tick().then(() => (container = text));
        return {
          words: `${found.card.number}, ${found.card.vendors.join(', ') || 'orders not named'}`,
          next: 'let it in',
          tone: 'look',
        };
      }
      const reading = await ask('/api/{site}/scan', { text });
      if (reading.arrival) choose(reading.arrival);
      return {
        words: reading.words,
        next: reading.problem?.next ?? 'let it in, or take it in as unplanned',
        tone: reading.problem ? 'refused' : 'look',
      };
    }),
  );
  async function run(work: () => Promise<{ sentence?: string; number?: string }>) {
    error = undefined;
    said = '';
    try {
      const done = await work();
      said = done.sentence ?? (done.number ? `${done.number} is taken in.` : '');
      if (done.number) choose(done.number);
      await yard.refetch();
    } catch (problem) {
      error = problem;
    }
  }
  const step = (what: Schemas['YardStep']) =>
    run(() => act('/api/{site}/yard/step', { arrival: current!.card.number, step: what }));
  async function picture(files: FileList | null) {
    const file = files?.[0];
    if (!file || !current) return;
    const arrival = current.card.number;
    await run(() =>
      attach(arrival, file).then(() => {
        pictures++;
        return { sentence: `${file.name} is attached.` };
      }),
    );
  }
  const steps = $derived(
    current
      ? ([
          ['let in', current.gateIn],
          ['called', current.called],
          ['at door', current.atDoor],
          ['unloaded', current.unloaded],
          ['counted in', current.countedIn],
          ['empty', current.empty],
          ['gate-out', current.gateOut],
        ] as const)
      : [],
  );
  const word: Record<string, Schemas['YardStep']> = {
    Call: 'Call',
    Unloaded: 'Unloaded',
    Empty: 'Empty',
    GateOut: 'GateOut',
    AtDoor: 'AtDoor',
  };
  const says: Record<string, string> = {
    Call: 'Call it to its door',
    Unloaded: 'It is unloaded',
    Empty: 'Empty, off the door',
    GateOut: 'Out of the gate',
    AtDoor: 'It is at its door',
  };
</script>

<svelte:head><title>Yard · Mud Room</title></svelte:head>
<Frame
  queueTitle="At the gate and in the yard"
  queueCount={inYard.length}
  workTitle={current?.card.number ?? 'Yard'}
  bind:part
>
  {#snippet queue()}
    {#if session.may('KeepGate')}
      <div class="pad">
        <button class="button wide" onclick={() => ((unplanned = true), (part = 'work'))}>A visit nobody planned</button
        >
      </div>
    {/if}
    {#each vehicles as v, i (v.card.number)}
      <QueueCard
        onpress={() => choose(v.card.number)}
        current={v.card.number === current?.card.number}
        code={v.card.container ?? v.plate ?? v.card.number}
        title="{v.card.container || v.plate ? `${v.card.number} ` : ''}{v.card.vendors.join(', ') ||
          'orders not named'}"
        why="{v.card.state === 'InYard' ? `Waits ${v.waits} min at spot ${v.card.spot}.` : v.card.why}{v.detention
          ? ` ${v.detention.sentence}`
          : ''}"
        order={i}
      >
        {#snippet mark()}
          {#if v.detention && v.detention.daysLeft <= 0}<Mark
              kind="disc"
              word={v.detention.daysLeft < 0 ? 'costs money' : 'last free day'}
            />
          {:else if v.card.state === 'InYard'}<Mark kind="open" word="spot {v.card.spot}" />
          {:else if v.card.state === 'AtDoor'}<Mark kind="today" word="door {v.card.door}" />
          {:else if v.card.state === 'CountedIn'}<Mark kind="done" word="counted in" />
          {:else if v.card.state === 'Withdrawn'}<Mark kind="held" word="sent away" />
          {:else if v.card.rank === 0}<Mark kind="late" word="late" />{/if}
        {/snippet}
      </QueueCard>
    {:else}
      <p class="empty">The yard is empty and nothing is on its way.</p>
    {/each}
  {/snippet}
  {#snippet work()}
    {#if unplanned}
      <form
        class="pad steps"
        onsubmit={(e) => {
          e.preventDefault();
          const orders = visit.orders.split(/[\s,;]+/).filter(Boolean);
          void run(() => act('/api/{site}/yard/unplanned', { ...visit, orders: orders.length > 0 ? orders : null }));
        }}
      >
        <h1>A visit nobody planned</h1>
        <Field label="What stands at the gate"
          ><select bind:value={visit.vehicle} name="vehicle"
            >{#each ['truck', 'container', 'van', 'parcel'] as v (v)}<option>{v}</option>{/each}</select
          ></Field
        >
        <Field label="Plate"><input class="c" name="plate" bind:value={visit.plate} /></Field>
        <Field label="Container number"><input class="c" name="container" bind:value={visit.container} /></Field>
        <Field label="Haulier"><input bind:value={visit.haulier} /></Field>
        <Field label="Orders its papers name, if any"
          ><input class="c" name="orders" bind:value={visit.orders} placeholder="PO-4455" /></Field
        >
        <Field label="Seal"><input class="c" name="visit-seal" bind:value={visit.seal} /></Field>
        <Field label="Yard spot; blank for the first that is free and fits"
          ><input class="c" name="spot" bind:value={visit.spot} /></Field
        >
        {#if visit.word || (error instanceof Problem && error.code === 'plate-on-site')}
          <Field label="Why its plate is on site already"
            ><input name="visit-word" bind:value={visit.word} maxlength="200" /></Field
          >
        {/if}
        <ProblemNote {error} />
        <button class="button go big">Take it in</button>
        <button class="button" type="button" onclick={() => (unplanned = false)}>Back to the list</button>
      </form>
    {:else if current}
      <div class="head">
        <h1><span class="c">{current.card.number}</span> {current.card.vendors.join(', ') || 'orders not named'}</h1>
        <p>
          {current.card.vehicle}
          {#if current.card.container}<b class="c big">{current.card.container}</b>{/if}
          {#if current.plate}<b class="c big">{current.plate}</b>{/if}
          {current.haulier ?? ''}
        </p>
        <p class="quiet">
          planned {when(current.card.planned, yard.data?.now)}{current.card.door
            ? ` · door ${current.card.door}`
            : ' · no door yet'}
          {current.unplanned ? ' · nobody had planned it' : ''}
        </p>
        {#if current.detention}<p>
            <Mark kind={current.detention.daysLeft <= 0 ? 'disc' : 'ontime'} word={current.detention.sentence} />
          </p>{/if}
      </div>
      <div class="pad steps">
        {#if current.next === 'LetIn' && session.may('KeepGate')}
          <form
            class="steps"
            onsubmit={(e) => {
              e.preventDefault();
              void run(() =>
                act('/api/{site}/yard/let-in', {
                  arrival: current!.card.number,
                  spot,
                  container: container || null,
                  plate: plate || null,
                  seal: seal || null,
                  word: gateWord || null,
                }),
              );
            }}
          >
            {#if current.card.container}
              <Field
                >{#snippet label()}Container number as it stands there; planned is <b class="c"
                    >{current.card.container}</b
                  >{/snippet}<input class="c" name="container" bind:value={container} /></Field
              >
            {/if}
            <Field
              >{#snippet label()}Plate{#if current.plate}; planned is <b class="c">{current.plate}</b
                  >{/if}{/snippet}<input class="c" name="plate" bind:value={plate} /></Field
            >
            {#if current.seal}
              <Field
                >{#snippet label()}Seal; the papers name <b class="c">{current.seal}</b>{/snippet}<input
                  class="c"
                  name="seal"
                  bind:value={seal}
                /></Field
              >
              {#if sealDiffers}
                <Field
                  >{#snippet label()}Picture of the seal{pictures > 0 ? `, ${pictures} attached` : ''}{/snippet}<input
                    type="file"
                    accept="image/*"
                    capture="environment"
                    onchange={(e) => void picture(e.currentTarget.files)}
                  /></Field
                >
              {/if}
            {/if}
            {#if wantsWord}
              <p class="said">
                <b>It is not as planned.</b> Say why{sealDiffers ? ', and take a picture of the seal' : ''}.
              </p>
              <Field label="Why"><input name="word" bind:value={gateWord} required maxlength="200" /></Field>
            {/if}
            <Field label="Yard spot"
              ><input class="c spot" name="spot" bind:value={spot} maxlength="20" required /></Field
            >
            {#if current.proposal}<p class="quiet">{current.proposal.reason}</p>{/if}
            <ProblemNote {error} />
            <button class="button go big">Let it in</button>
          </form>
        {/if}
        {#if current.card.state === 'InYard' && session.may('KeepGate')}
          <p class="where">
            Spot <b class="c">{current.card.spot}</b> <span class="quiet">for {current.waits} min</span>
          </p>
          <form
            class="row"
            onsubmit={(e) => {
              e.preventDefault();
              void run(() => act('/api/{site}/yard/stands-at', { arrival: current!.card.number, spot }));
            }}
          >
            <Field label="Stands at another spot" class="grow"
              ><input class="c" name="otherSpot" bind:value={spot} /></Field
            >
            <button class="button">Record</button>
          </form>
        {/if}
        {#if current.next && word[current.next] && session.may('KeepGate') && (current.next !== 'AtDoor' || current.called)}
          <button class="button go big" onclick={() => step(word[current!.next!]!)}>{says[current.next]}</button>
        {/if}
        {#if (current.card.state === 'InYard' || current.card.state === 'Expected') && session.may('PlanArrivals')}
          {#key current.card.number}
            <ToDoor
              arrival={current.card.number}
              doors={yard.data?.doors ?? []}
              planned={current.card.door}
              ondone={async (sentence) => {
                said = sentence;
                await yard.refetch();
              }}
            />
          {/key}
        {/if}
        {#if session.may('KeepGate') && (current.card.state === 'InYard' || current.card.state === 'Expected')}
          {#if away}
            <form
              class="steps"
              onsubmit={(e) => {
                e.preventDefault();
                void run(() => act('/api/{site}/yard/turn-away', { arrival: current!.card.number, reason: awayWhy }));
              }}
            >
              <Field label="Why it is sent away"
                ><input name="away" bind:value={awayWhy} required maxlength="200" /></Field
              >
              <button class="button go">Send {current.card.number} away</button>
              <button class="button" type="button" onclick={() => (away = false)}>Leave it</button>
            </form>
          {:else}<button class="button" onclick={() => (away = true)}>Send it away</button>{/if}
        {/if}
        {#if current.card.state === 'InYard' && current.next === null}
          <p>It has no door yet. The supervisor plans one on the board.</p>
        {/if}
        {#if current.next !== 'LetIn' || !session.may('KeepGate')}<ProblemNote {error} />{/if}
        {#if said}<p class="good" role="status">{said}</p>{/if}
        <ol class="made" aria-label="Steps">
          {#each steps as [name, at] (name)}<li class:done={at}>
              <span>{name}</span> <b class="c">{at ? time(at) : '–'}</b>
            </li>{/each}
        </ol>
        {#if current.canTakeBack && session.may('KeepGate')}
          <button
            class="link"
            onclick={() =>
              run(() => act('/api/{site}/yard/take-back', { arrival: current!.card.number, reason: null }))}
            >Take the last step back</button
          >
        {/if}
      </div>
      {#if yard.data && yard.data.spots.length > 0}
        <YardPlan
          spots={yard.data.spots}
          doors={yard.data.doors}
          wanted={current.proposal?.spot ?? current.card.spot}
          onpick={(s) => (spot = s)}
        />
      {/if}
    {:else}
      <p class="empty">
        Nothing stands in the yard. Vehicles stand here from the gate until they are called to a door.
      </p>
    {/if}
  {/snippet}
</Frame>

<style>
  .steps {
    display: flex;
    flex-direction: column;
    gap: 12px;
  }
  .big {
    font-size: 20px;
    margin-right: 8px;
  }
  .where b {
    font-size: 28px;
  }
  .where {
    font-size: 18px;
  }
  .spot {
    font-size: 24px;
    font-weight: 700;
  }
  .wide {
    width: 100%;
  }
  .row {
    align-items: flex-end;
  }
  .made {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(86px, 1fr));
    border: 1px solid var(--stone-2);
  }
  .made li {
    display: flex;
    flex-direction: column;
    padding: 5px 9px;
    font-size: 13px;
    border-right: 1px solid var(--stone-2);
    color: var(--peat-2);
  }
  .made li.done {
    background: var(--load);
    color: var(--peat);
  }
</style>
