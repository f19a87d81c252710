<script lang="ts">
  /** A posted receipt: what of it stands where, and what goes back to its vendor. */
  import Field from '$lib/ui/Field.svelte';
  import { page } from '$app/state';
  import { act, ask, type Schemas } from '$lib/api/client';
  import DoorQueue from '$lib/door/DoorQueue.svelte';
  import { session } from '$lib/session.svelte';
  import Frame from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import StandingMark from '$lib/ui/StandingMark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { day, number, time } from '$lib/ui/format';
  import { inSight } from '$lib/ui/inSight';
  import { createQuery } from '@tanstack/svelte-query';
  import { cards } from '$lib/list/cards';
  const which = $derived(page.params['number'] ?? '');
  const receipt = createQuery(() => ({
    queryKey: ['receipt', 'door', session.site, which],
    queryFn: () => ask('/api/{site}/door/receipts/{number}', { number: which }),
  }));
  const r = $derived(receipt.data);
  let from = $state<{ line: Schemas['ReceiptLine']; at: Schemas['GoodsAt'] }>();
  let quantity = $state('');
  let reason = $state('');
  let error = $state<unknown>();
  let said = $state('');
  async function run(work: () => Promise<{ sentence: string }>) {
    error = undefined;
    said = '';
    try {
      said = (await work()).sentence;
      from = undefined;
      [quantity, reason] = ['', ''];
      await receipt.refetch();
    } catch (problem) {
      error = problem;
    }
  }
</script>

<svelte:head><title>{which} · Door · Mud Room</title></svelte:head>
<Frame queueTitle="At the doors" workTitle={which}>
  {#snippet queue()}<DoorQueue current={r?.arrival ?? ''} />{/snippet}
  {#snippet work()}
    {#if receipt.error}<div class="pad"><ProblemNote error={receipt.error} /></div>{/if}
    {#if r}
      <div class="head">
        <h1><span class="c">{r.number}</span> {r.vendor}</h1>
        <p><a class="link" href="/book?text={r.number}">All that happened to {r.number}</a></p>
        <p class="quiet">
          Delivery note <span class="c">{r.deliveryNote}</span>, arrival
          <a class="link c" href="/door/{r.arrival}">{r.arrival}</a>, posted {day(r.postedAt)}
          {time(r.postedAt)} by {r.postedBy}
        </p>
        <p>
          {#if r.reversedAt}<Mark kind="disc" word="reversed {day(r.reversedAt)}" />
          {:else if r.invoicedAt}<Mark kind="done" word="invoiced {day(r.invoicedAt)}" /> What goes back now wants a credit.
          {:else}<Mark kind="open" word="not invoiced yet" /> What goes back now is not to be invoiced; its order is open
            for it again.
            {#if session.may('KeepOrders')}<button
                class="button"
                onclick={() => run(() => act('/api/{site}/door/receipts/invoiced', { receipt: which }))}
                >It is invoiced</button
              >{/if}
          {/if}
        </p>
      </div>
      <div class="pad">
        <ProblemNote {error} />
        {#if said}<p class="good" role="status">{said}</p>{/if}
      </div>
      <table class="list" {@attach cards}>
        <thead
          ><tr><th>Goods</th><th class="number">Received</th><th class="number">Gone back</th><th>Stands now</th></tr
          ></thead
        >
        <tbody>
          {#each r.lines as l, i (i)}
            <tr>
              <td
                ><b>{l.item}</b><br /><span class="quiet"
                  >{#if l.order}<span class="c">{l.order}-{l.line}</span>{:else}on no order{/if}{l.batch
                    ? `, batch ${l.batch}`
                    : ''}{l.sourceBatch ? `, source ${l.sourceBatch}` : ''}</span
                >{#if l.acceptFirst.length > 0}<br /><span class="unpaid"
                    >not to be paid before accepted:
                    {#each l.acceptFirst as by, i (by)}{i > 0 ? ', ' : ''}<a
                        class="link c"
                        href={by.startsWith('I') ? `/bench/${by}` : `/cage?hold=${by}`}>{by}</a
                      >{/each}</span
                  >{/if}</td
              >
              <td class="number"
                >{number(l.received)}
                {l.unit}{#if l.aside > 0}<br /><span class="quiet">{number(l.aside)} aside</span>{/if}</td
              >
              <td class="number">{l.returned > 0 ? number(l.returned) : ''}</td>
              <td>
                {#each l.stands as s (s.balance)}
                  <p class="stands">
                    <span class="c">{s.place}</span>
                    {#if s.serial}<span class="c">{s.serial}</span>{/if}
                    <b class="c">{number(s.quantity)}</b>
                    <StandingMark standing={s.standing} />
                    {#if session.may('Decide') && l.left > 0 && !r.reversedAt && s.standing.kind !== 'ToInspect'}<button
                        class="link"
                        onclick={() => {
                          from = { line: l, at: s };
                          quantity = String(Math.min(l.left, s.quantity));
                        }}>Back to the vendor</button
                      >{/if}
                  </p>
                {:else}<span class="quiet">none of it stands here</span>{/each}
                {#if !l.isToldApart && l.stands.length > 0}<p class="quiet">
                    all of the item: neither batch nor serial tells this receipt's from others
                  </p>{/if}
              </td>
            </tr>
          {/each}
        </tbody>
      </table>
      {#if from}
        {#key from}<form
            class="pad return"
            {@attach inSight}
            onsubmit={(e) => {
              e.preventDefault();
              const goods = from!;
              void run(() =>
                act('/api/{site}/door/receipts/return', {
                  receipt: which,
                  balance: goods.at.balance,
                  quantity,
                  reason,
                }),
              );
            }}
          >
            <h2>{from.line.item} out of {from.at.place} back to {r.vendor}</h2>
            <div class="row">
              <Field label={`How many ${from.line.unit}, at most ${number(Math.min(from.line.left, from.at.quantity))}`}
                ><input class="c" name="return-quantity" bind:value={quantity} inputmode="decimal" required /></Field
              >
              <Field label="Why" class="grow"
                ><input name="return-reason" bind:value={reason} maxlength="200" required /></Field
              >
              <button class="button go">Send it back</button>
              <button type="button" class="button" onclick={() => (from = undefined)}>Leave it</button>
            </div>
          </form>{/key}
      {/if}
    {/if}
  {/snippet}
  {#snippet trail()}
    {#if r}
      <section class="trail-part">
        <h2>Gone back <span>{r.returns.length || ''}</span></h2>
        {#each r.returns as x (x.number)}<p>
            <a
              class="link c"
              href="/api/{session.site}/door/return/{x.number.split('/')[0]}"
              target="_blank"
              rel="noopener">{x.number}</a
            >
            {number(x.quantity)}
            {x.unit} of {x.item}: {x.reason}. <b>{x.consequence}</b>
            <span class="quiet">{x.by.split(' ')[0]}, {day(x.at)}</span>
          </p>{:else}<p class="quiet">Nothing of it went back.</p>{/each}
        <p>
          <a class="link" href="/api/{session.site}/door/returns.csv" download>returns of the last 30 days as CSV</a>
        </p>
      </section>
      <section class="trail-part">
        <h2>To print</h2>
        <a class="link" href="/api/{session.site}/door/receipt/{which}" target="_blank" rel="noopener">the receipt</a>
      </section>
    {/if}
  {/snippet}
</Frame>

<style>
  .unpaid {
    color: var(--inspect);
    font-size: 14px;
  }
  .stands {
    display: flex;
    gap: 8px;
    align-items: center;
    flex-wrap: wrap;
  }
  .return {
    background: var(--lit-faint);
    border-block: 2px solid var(--wall);
  }
  .return .row {
    align-items: flex-end;
  }
</style>
