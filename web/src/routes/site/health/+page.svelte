<script lang="ts">
  /** How the server is, piece by piece: the truth, asked anew every few seconds. */
  import { ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Frame from '$lib/ui/Frame.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { counted, when } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  const health = createQuery(() => ({
    queryKey: ['health', session.site],
    queryFn: () => ask('/api/{site}/site/health'),
    refetchInterval: 5000,
  }));
  const ill = $derived(health.data?.pieces.filter((p) => !p.isWell) ?? []);
</script>

<svelte:head><title>Health · Site · Mud Room</title></svelte:head>
<Frame queueTitle="Site" workTitle="Health">
  {#snippet queue()}
    <p class="pad"><a class="link" href="/site">Back to the set-up</a></p>
    <p class="pad quiet">
      Machines ask <span class="c">/health</span>: it answers well, or ill with status 503. A piece that fails is tried
      again by itself; none of them ends the server.
    </p>
  {/snippet}
  {#snippet work()}
    <div class="pad">
      {#if health.error}<ProblemNote error={health.error} />{/if}
      {#if health.data}
        <h1>
          {ill.length === 0
            ? 'All of it works'
            : `${ill.length} of ${health.data.pieces.length} ${ill.length === 1 ? 'does' : 'do'} not work`}
        </h1>
        <table class="list">
          <thead><tr><th>What</th><th>How it is</th><th>Since</th></tr></thead>
          <tbody>
            {#each health.data.pieces as p (p.name)}
              <tr
                ><td><b>{p.name}</b></td><td
                  ><Mark kind={p.isWell ? 'done' : 'disc'} word={p.isWell ? 'works' : 'does not work'} />
                  {p.sentence}</td
                ><td class="c">{when(p.since)}</td></tr
              >
            {/each}
          </tbody>
        </table>
        {#if health.data.mixed.length > 0}
          <h2>Goods that could not be told apart</h2>
          <p class="quiet">
            They stood here before there were lots, under several holds or inspections that read alike. Each lot is free
            only when all of them are settled.
          </p>
          <ul class="mixed">
            {#each health.data.mixed as m (m.lot)}
              <li>
                {counted(m.quantity, m.unit)} of {m.item}{#if m.batch}, <span class="c">{m.batch}</span>{/if}: under
                <span class="c">{m.said.join(', ')}</span>
              </li>
            {/each}
          </ul>
        {/if}
      {/if}
    </div>
  {/snippet}
</Frame>

<style>
  h2 {
    margin: 24px 0 4px;
  }
  .mixed {
    list-style: disc;
    padding-left: 20px;
  }
  h1 {
    margin-bottom: 0.75rem;
  }
</style>
