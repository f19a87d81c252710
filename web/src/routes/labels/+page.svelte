<script lang="ts">
  import DateField from '$lib/ui/DateField.svelte';
  import { act, ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import LabelSheet from '$lib/ui/LabelSheet.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  const client = useQueryClient();
  const house = createQuery(() => ({ queryKey: ['house', session.site], queryFn: () => ask('/api/{site}/house') }));
  const channel = new BroadcastChannel('mud-room-scanner');
  let at = $state('');
  let error = $state<unknown>();
  let pressed = $state('');
  function press(text: string) {
    channel.postMessage(text);
    pressed = text;
  }
  async function set() {
    error = undefined;
    try {
      await act('/api/{site}/demo/clock', { at: `${at}:00` });
      await client.invalidateQueries();
    } catch (problem) {
      error = problem;
    }
  }
</script>

<svelte:head><title>Label sheet · Mud Room</title></svelte:head>
<main class="page" id="work">
  <h1>Label sheet</h1>
  <p class="quiet">Lay this window beside Mud Room. A press scans the label there, as a scanner would type it.</p>
  <div class="row clock">
    <DateField
      label={`Demo clock, now ${house.data?.now.slice(0, 16).replace('T', ' ') ?? ''}`}
      withTime
      bind:value={at}
    />
    <button class="button" onclick={set} disabled={!at}>Set the clock</button>
    {#if pressed}<span class="c">scanned {pressed.replaceAll('\u001d', '␝')}</span>{/if}
  </div>
  <ProblemNote {error} />
  <LabelSheet onpress={press} />
</main>

<style>
  .page {
    flex: 1;
    overflow-y: auto;
    padding: 16px 20px;
    background: var(--paper);
  }
  .clock {
    align-items: flex-end;
    margin: 10px 0;
  }
</style>
