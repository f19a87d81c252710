<script lang="ts">
  /** A customer's return: the whole way of each line, done and still to come, and what is asked of who looks at it. */
  import { page } from '$app/state';
  import { ask } from '$lib/api/client';
  import ReturnedPart from '$lib/cage/ReturnedPart.svelte';
  import ReturnsFrame from '$lib/cage/ReturnsFrame.svelte';
  import Way from '$lib/cage/Way.svelte';
  import { session } from '$lib/session.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { day } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const code = $derived(page.params['number'] ?? '');
  const query = createQuery(() => ({
    queryKey: ['cage', 'return', session.site, code],
    queryFn: () => ask('/api/{site}/cage/returns/{number}', { number: code }),
  }));
  const back = $derived(query.data);
  const promises = { Nothing: 'nothing', Credit: 'credit', Replacement: 'a replacement', Repair: 'repair' } as const;
  let done = $state('');
  async function changed(sentence: string) {
    done = sentence;
    await query.refetch();
  }
  $effect(() => {
    void code;
    done = '';
  });
</script>

<svelte:head><title>{code} · Customer returns · Cage · Mud Room</title></svelte:head>
<ReturnsFrame current={code} workTitle={code}>
  {#if query.error}<div class="pad"><ProblemNote error={query.error} /></div>{/if}
  {#if back}
    <div class="head">
      <h1>{back.headline}</h1>
      <p>
        <a class="link c" href="/road/orders/{encodeURIComponent(back.number)}">{back.number}</a> from
        <b>{back.customer}</b>, {day(back.orderDate)}{back.contact ? ` · ${back.contact}` : ''}
        {#if back.telephone}<a class="link c" href="tel:{back.telephone.replaceAll(' ', '')}">{back.telephone}</a>{/if}
      </p>
      {#if done}<p class="good" role="status">{done}</p>{/if}
    </div>
    {#each back.lines as line (line.number)}
      <section class="line" aria-label="Line {line.number}">
        <h2>{line.itemName} <span class="c quiet">{line.itemCode}</span></h2>
        <p class="reason">
          “{line.reason}” <span class="quiet">{promises[line.promised]} was promised</span>
        </p>
        {#each line.holds as hold (hold.number)}<ReturnedPart {hold} {changed} />{/each}
        <Way way={line.way} />
      </section>
    {/each}
  {/if}
  {#snippet trail()}
    {#if back}
      <section class="trail-part">
        <h2>Papers</h2>
        <p>
          Order <a class="link c" href="/road/orders/{encodeURIComponent(back.number)}">{back.number}</a>
        </p>
        {#each back.arrivals as a (a)}<p>Arrival <a class="link c" href="/road/arrivals/{a}">{a}</a></p>{/each}
        {#each back.inspections as i (i)}<p>Inspection <a class="link c" href="/bench/{i}">{i}</a></p>{/each}
        <p>
          <a class="link" href="/book?text={encodeURIComponent(back.number)}">All that happened to {back.number}</a>
        </p>
      </section>
    {/if}
  {/snippet}
</ReturnsFrame>

<style>
  .line {
    padding: 10px 18px 14px;
    border-top: 1px solid var(--stone-2);
    display: grid;
    gap: 8px;
  }
  .reason {
    font-size: 17px;
  }
</style>
