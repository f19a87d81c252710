<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import DateField from '$lib/ui/DateField.svelte';
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { act, ask, Problem } from '$lib/api/client';
  import PromiseForm from '$lib/road/PromiseForm.svelte';
  import RoadFrame from '$lib/road/RoadFrame.svelte';
  import { session } from '$lib/session.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { day, number, when } from '$lib/ui/format';
  import { inSight } from '$lib/ui/inSight';
  import { createQuery } from '@tanstack/svelte-query';
  import { cards } from '$lib/list/cards';
  const which = $derived(page.params['number'] ?? '');
  const order = createQuery(() => ({
    queryKey: ['road', 'order', which, session.site],
    queryFn: () => ask('/api/{site}/road/orders/{number}', { number: which }),
  }));
  let planned = $state('');
  let container = $state('');
  let notIso = $state(false);
  let chosen = $state<number[]>([]);
  let error = $state<unknown>();
  let said = $state('');
  let changing = $state<number>();
  let quantity = $state('');
  let due = $state('');
  let reason = $state('');
  let calling = $state(false);
  let cancelling = $state(false);
  let cancelWhy = $state('');
  const mustConfirm = $derived(error instanceof Problem && error.code === 'cancel-confirm');
  const open = $derived(order.data?.state === 'Open' || order.data?.state === 'PartlyReceived');
  const late = $derived(
    (order.data?.lines ?? [])
      .flatMap((l) => l.parts)
      .filter((p) => p.here && p.open > 0 && (p.state === 'Late' || p.state === 'FallsLate')),
  );
  const words: Record<string, string> = {
    Draft: 'draft',
    Open: 'open for receiving',
    PartlyReceived: 'partly received',
    Complete: 'complete',
    ClosedShort: 'closed short',
    Cancelled: 'cancelled',
    Purchase: 'purchase order',
    Transfer: 'transfer between own sites',
    CustomerReturn: 'customer return',
  };
  async function run(work: () => Promise<{ sentence: string }>) {
    error = undefined;
    said = '';
    try {
      said = (await work()).sentence;
      changing = undefined;
      reason = '';
      await order.refetch();
    } catch (problem) {
      error = problem;
    }
  }
  async function make(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    try {
      const made = await act('/api/{site}/road/arrivals', {
        orders: [which],
        planned: planned ? `${planned}:00` : null,
        vehicle: container ? 'container' : 'truck',
        container: container || null,
        seal: null,
        plate: null,
        haulier: null,
        door: null,
        atOnce: false,
        number: null,
        notIso6346: notIso,
        parts: chosen.length > 0 ? chosen : null,
        unplanned: false,
      });
      await goto(`/road/arrivals/${made.number}`);
    } catch (problem) {
      error = problem;
    }
  }
</script>

<svelte:head><title>{which} · Mud Room</title></svelte:head>
<RoadFrame workTitle={which}>
  {#if order.error}<div class="pad"><ProblemNote error={order.error} /></div>{/if}
  {#if order.data}
    <div class="head">
      <h1><span class="c">{order.data.number}</span> {order.data.vendor}</h1>
      {#if order.data.kind === 'CustomerReturn' && order.data.state !== 'Draft'}<p>
          <a class="link" href="/cage/returns/{encodeURIComponent(order.data.number)}">The whole way of this return</a>
        </p>{/if}
      <p><a class="link" href="/book?text={order.data.number}">All that happened to {order.data.number}</a></p>
      <p>
        <b>{words[order.data.state]}</b> · {words[order.data.kind]} of {day(order.data.orderDate)} · {order.data
          .contact ?? ''}
        {#if order.data.telephone}<a class="link c" href="tel:{order.data.telephone.replaceAll(' ', '')}"
            >{order.data.telephone}</a
          >{/if}
      </p>
      <div class="row">
        <a class="link" href="/api/{session.site}/road/orders/{which}/print" target="_blank" rel="noreferrer"
          >Print as PDF</a
        >
        {#if late.length > 0 && session.may('KeepPromises')}<button class="link" onclick={() => (calling = !calling)}
            >Note a call</button
          >{/if}
        {#if session.may('KeepOrders') && order.data.state === 'Draft'}
          <button
            class="button go"
            onclick={() => run(() => act('/api/{site}/road/orders/open', { order: which, reason: null }))}
            >Open for receiving</button
          >
        {/if}
        {#if session.may('KeepOrders') && (open || order.data.state === 'Draft')}
          <button class="link" onclick={() => (cancelling = !cancelling)}>Cancel what has not come</button>
        {/if}
        {#if session.may('KeepOrders') && order.data.cancelledWhy}
          <button
            class="link"
            onclick={() => run(() => act('/api/{site}/road/orders/cancel/back', { order: which, reason: null }))}
            >Take the cancellation back</button
          >
        {/if}
      </div>
      {#if order.data.cancelledWhy}<p>What had not come was cancelled: {order.data.cancelledWhy}</p>{/if}
      {#if cancelling}
        <form
          class="row cancel"
          {@attach inSight}
          onsubmit={(e) => {
            e.preventDefault();
            const confirmed = mustConfirm;
            void run(() => act('/api/{site}/road/orders/cancel', { order: which, reason: cancelWhy, confirmed })).then(
              () => {
                if (!error) cancelling = false;
              },
            );
          }}
        >
          <Field label={`Why what has not come of ${which} is cancelled`}
            ><input name="cancel-reason" bind:value={cancelWhy} required maxlength="200" /></Field
          >
          <button class="button go">{mustConfirm ? 'Cancel it all the same' : `Cancel ${which}`}</button>
          <button class="button" type="button" onclick={() => ((cancelling = false), (error = undefined))}
            >Leave it open</button
          >
        </form>
      {/if}
      {#if calling}<PromiseForm
          parts={late.map((p) => p.id)}
          contact={order.data.contact}
          ondone={() => {
            calling = false;
            void order.refetch();
          }}
        />{/if}
      <ProblemNote {error} />
      {#if said}<p class="good" role="status">{said}</p>{/if}
    </div>
    <table class="list" {@attach cards}>
      <thead
        ><tr
          ><th>Line</th><th>Item</th><th>Due</th><th class="number">Ordered</th><th class="number">Received</th><th
            class="number">Open</th
          ><th>Comes, waits</th>{#if session.may('SeePrices')}<th class="number">Price</th>{/if}</tr
        ></thead
      >
      <tbody>
        {#each order.data.lines as line (line.number)}
          {#each line.parts as part, i (part.due + i)}
            <tr>
              <td class="c nowrap"
                >{#if open && part.here && part.open > 0 && session.may('PlanArrivals')}<input
                    type="checkbox"
                    value={part.id}
                    bind:group={chosen}
                    aria-label="Line {line.number} due {part.due} onto an arrival"
                  />{/if}
                {i === 0 ? line.number : ''}</td
              >
              <td
                >{#if i === 0}<b>{line.itemName}</b>
                  <span class="c quiet">{line.itemCode}</span>
                  {#if line.returnReason}<br />“{line.returnReason}”{/if}
                  {#if line.asksInspection}<br /><Mark kind="inspect" word="to be inspected" />{/if}
                  {#if session.may('KeepOrders') && order.data.state !== 'Cancelled'}<br /><button
                      class="link"
                      aria-label="Line {line.number}: {line.asksInspection
                        ? 'ask for no inspection'
                        : 'have it inspected'}"
                      onclick={() =>
                        void run(() =>
                          act('/api/{site}/road/orders/ask-inspection', {
                            order: which,
                            line: line.number,
                            asks: !line.asksInspection,
                          }),
                        )}>{line.asksInspection ? 'Ask for no inspection' : 'Have it inspected'}</button
                    >{/if}{/if}{#if !part.here}<br /><span class="quiet">for {part.site}</span>{/if}</td
              >
              <td>
                {#if part.open === 0}<Mark kind="done" word={part.closedShort ? 'closed short' : 'complete'} />
                  {#if part.received > part.ordered}<br /><Mark
                      kind="disc"
                      word="{number(part.received - part.ordered)} over"
                    />{/if}
                {:else if part.state === 'Late'}<Mark kind="late" word="late {part.daysLate} d, {day(part.due)}" />
                {:else if part.state === 'FallsLate'}<Mark
                    kind="falls"
                    word="falls late {part.daysLate} d, {day(part.due)}"
                  />
                {:else if part.state === 'DueToday'}<Mark kind="today" word="due today" />
                {:else}<Mark kind="ontime" word={day(part.due)} />{/if}
              </td>
              <td class="number">{number(part.ordered)} {line.unit}</td>
              <td class="number">{number(part.received)}</td>
              <td class="number">{number(part.open)}</td>
              <td>
                {#each part.arrivals as a (a)}<a class="link c" href="/road/arrivals/{a}">{a}</a>&nbsp;{/each}
                {#if part.waiting > 0}<br />{number(part.waiting)} {line.unit} for {part.waitingFor}{/if}
                {#if part.promise}<br /><span class="quiet"
                    >Promised{part.promise.for ? ` for ${day(part.promise.for)}` : ''}: {part.promise.text}</span
                  >{/if}
                {#if session.may('KeepOrders') && part.here && order.data.state !== 'Cancelled'}<button
                    class="link"
                    onclick={() => {
                      changing = part.id;
                      quantity = String(part.ordered);
                      due = part.due;
                    }}>Change</button
                  >{/if}
              </td>
              {#if session.may('SeePrices')}<td class="number">{line.price ?? ''}</td>{/if}
            </tr>
            {#if changing === part.id}
              <tr
                ><td colspan="9">
                  <form
                    class="row"
                    onsubmit={(e) => {
                      e.preventDefault();
                      void run(() =>
                        act('/api/{site}/road/orders/change', { part: part.id, quantity, due, reason: reason || null }),
                      );
                    }}
                  >
                    <Field label={`Ordered, ${line.unit}`}><input name="quantity" bind:value={quantity} /></Field>
                    <DateField label="Due" name="due" bind:value={due} />
                    <Field label="Why" class="grow"><input bind:value={reason} /></Field>
                    <button class="button go">Change it</button>
                    <button class="button" type="button" onclick={() => (changing = undefined)}>Leave it</button>
                  </form>
                </td></tr
              >
            {/if}
          {/each}
        {/each}
      </tbody>
    </table>
    {#if open && session.may('PlanArrivals')}
      <form class="pad row" onsubmit={make}>
        <DateField label="Planned for" name="planned" withTime bind:value={planned} />
        <Field label="Container, if it is one"><input name="container" bind:value={container} class="c" /></Field>
        <label class="who"><input type="checkbox" bind:checked={notIso} /> not an ISO 6346 number</label>
        <button class="button go"
          >{chosen.length > 0 ? `Make an arrival of ${chosen.length} lines` : 'Make an arrival of what is open'}</button
        >
      </form>
    {/if}
  {/if}
  {#snippet trail()}
    <section class="trail-part">
      <h2>Receipts</h2>
      {#each order.data?.receipts ?? [] as r (r.number)}
        <p>
          <a class="link c" href="/door/receipts/{r.number}">{r.number}</a> delivery note
          <span class="c">{r.deliveryNote}</span><br />
          {#each r.quantities as q (q)}{q}<br />{/each}
          <span class="quiet"
            ><a class="link c" href="/road/arrivals/{r.arrival}">{r.arrival}</a>, {when(r.postedAt)}, {r.postedBy}</span
          >
        </p>
      {:else}
        <p class="quiet">No receipt is posted yet.</p>
      {/each}
    </section>
    <section class="trail-part">
      <h2>Changes</h2>
      {#each order.data?.changes ?? [] as c, i (i)}
        <p>{c.sentence}<br /><span class="quiet">{c.by}, {when(c.at)}, {c.source}</span></p>
      {:else}
        <p class="quiet">Nothing was changed since it was made.</p>
      {/each}
    </section>
    <section class="trail-part">
      <h2>Approvals</h2>
      {#each order.data?.approvals ?? [] as p, i (i)}
        <p>{p.by}, {day(p.on)}{p.note ? `: ${p.note}` : ''}</p>
      {:else}
        <p class="quiet">None came with the order.</p>
      {/each}
    </section>
  {/snippet}
</RoadFrame>

<style>
  .cancel {
    margin: 6px 0 10px;
  }
  form {
    align-items: flex-end;
  }
  .who {
    display: inline-flex;
    gap: 6px;
    min-height: 36px;
    align-items: center;
  }
</style>
