<script lang="ts">
  import { scheme } from '$lib/scheme.svelte';
  import '../app.css';
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import Camera from '@lucide/svelte/icons/camera';
  import Footprints from '@lucide/svelte/icons/footprints';
  import Tags from '@lucide/svelte/icons/tags';
  import Answers from '$lib/door/Answers.svelte';
  import WaitingBar from '$lib/door/WaitingBar.svelte';
  import { waiting } from '$lib/door/waiting.svelte';
  import { journal } from '$lib/journal.svelte';
  import { listen } from '$lib/live';
  import { Problem } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import { scanLine } from '$lib/scan.svelte';
  import BadgeDialog from '$lib/ui/BadgeDialog.svelte';
  import CameraReader from '$lib/ui/Camera.svelte';
  import Insecure from '$lib/ui/Insecure.svelte';
  import HouseStrip from '$lib/ui/HouseStrip.svelte';
  import Keys from '$lib/ui/Keys.svelte';
  import LabelDrawer from '$lib/ui/LabelDrawer.svelte';
  import ScanSill from '$lib/ui/ScanSill.svelte';
  import SignIn from '$lib/ui/SignIn.svelte';
  import TenMinutes from '$lib/ui/TenMinutes.svelte';
  import { tenMinutes } from '$lib/ui/tenMinutes.svelte';
  import { QueryClient, QueryClientProvider } from '@tanstack/svelte-query';
  let { children } = $props();

  const rooms = ['road', 'yard', 'door', 'bench', 'cage', 'shelf', 'book', 'site'];
  const client = new QueryClient({
    defaultOptions: {
      queries: {
        staleTime: 1000,
        retry: (count, error) => count < 2 && error instanceof Problem && error.status === 0,
      },
    },
  });
  let keys = $state(false);
  let labels = $state(false);
  let camera = $state(false);

  $effect.pre(() => {
    document.documentElement.dataset.scheme = scheme.isDark ? 'dark' : 'light';
  });
  let silent = $state(false);
  /**
   * Asks who is here until somebody answers: a device that starts in a dead spot, or before the server does, is not
   * left with an empty page.
   */
  async function begin() {
    await Promise.all([waiting.load(), journal.load()]).catch(() => undefined);
    try {
      waiting.reachable = await session.load();
      silent = false;
    } catch {
      silent = true;
      setTimeout(() => void begin(), 2000);
    }
  }
  void begin();
  // What waits is sent when the network is back; until then it is looked for every few seconds.
  $effect(() => {
    const again = async () => {
      if (waiting.reachable && waiting.onTheirWay.length === 0) return;
      try {
        waiting.reachable = await session.load();
        if (!waiting.reachable) return;
        await waiting.sendAll();
        if (waiting.onTheirWay.length === 0) await client.invalidateQueries();
      } catch {
        waiting.reachable = false;
      }
    };
    const timer = setInterval(() => void again(), 3000);
    window.addEventListener('online', again);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', again);
    };
  });

  // What one person was shown is not another's to see.
  let before: number | null | undefined;
  $effect(() => {
    const person = session.state?.personId;
    if (before !== undefined && before !== person) {
      client.removeQueries({ type: 'inactive' });
      void client.resetQueries();
    }
    before = person;
  });
  $effect(() => {
    if (session.state?.signedIn && session.site) return listen(client, session.site);
  });
  $effect(() => {
    const again = () => void session.load();
    window.addEventListener('session-ended', again);
    return () => window.removeEventListener('session-ended', again);
  });
  // How scanners type, and what the pages have of the set-up, may be another now.
  $effect(() => {
    const anew = () => {
      if (session.state?.signedIn) void session.load();
      void client.invalidateQueries();
    };
    window.addEventListener('set-up-changed', anew);
    return () => window.removeEventListener('set-up-changed', anew);
  });
  $effect(() => {
    const channel = new BroadcastChannel('mud-room-scanner');
    channel.onmessage = (event: MessageEvent<string>) => {
      if (document.visibilityState === 'visible' && !location.pathname.startsWith('/labels'))
        void scanLine.scan(event.data);
    };
    return () => channel.close();
  });

  function onkeydown(event: KeyboardEvent) {
    if (event.altKey && event.key >= '1' && event.key <= '8') {
      event.preventDefault();
      void goto(`/${rooms[Number(event.key) - 1]}`);
    } else if (event.key === 'F1') {
      event.preventDefault();
      keys = !keys;
    }
  }
</script>

<svelte:window {onkeydown} />

<QueryClientProvider {client}>
  {#if session.state?.signedIn && session.site}
    <div class="app">
      <a class="skip" href="#work">To the work</a>
      <HouseStrip />
      <Insecure />
      {#key session.site}{@render children()}{/key}
      <LabelDrawer open={labels} />
      <Answers />
      <WaitingBar />
      {#if camera}<CameraReader onclose={() => (camera = false)} />{/if}
      {#if session.state.isDemo}<TenMinutes />{/if}
      <ScanSill>
        {#snippet tools()}
          <button class="button" id="camera" aria-pressed={camera} onclick={() => (camera = !camera)}>
            <Camera size={16} /> Camera
          </button>
          {#if session.state?.isDemo}
            <button
              class="button"
              id="ten-minutes"
              aria-expanded={tenMinutes.isOpen}
              aria-label="Ten minutes in Mud Room"
              onclick={() => tenMinutes.show(!tenMinutes.isOpen)}
            >
              <Footprints size={16} /> <span class="desk">Ten minutes</span>
            </button>
          {/if}
          {#if session.state?.isDemo && !page.url.pathname.startsWith('/labels')}
            <button class="button" id="labels-tab" aria-expanded={labels} onclick={() => (labels = !labels)}>
              <Tags size={16} /> <span class="desk">Demo</span> labels
            </button>
          {/if}
        {/snippet}
      </ScanSill>
    </div>
    <Keys bind:open={keys} />
    <BadgeDialog />
  {:else if session.state?.signedIn}
    <p class="empty">You are signed in, but no site is set for you yet. Ask the administrator.</p>
  {:else if session.state}
    <SignIn />
  {:else if silent}
    <p class="empty" role="status">The server does not answer. It is asked again every two seconds.</p>
  {/if}
</QueryClientProvider>

<style>
  .app {
    display: flex;
    flex-direction: column;
    height: 100dvh;
  }
  .skip {
    position: absolute;
    left: -999px;
    background: var(--lamp);
    color: var(--on-lamp);
    padding: 8px 12px;
    z-index: 30;
  }
  .skip:focus {
    left: 8px;
    top: 8px;
  }
</style>
