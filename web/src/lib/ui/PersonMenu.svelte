<script lang="ts">
  /** Who is here: their sites, the light, leaving. */
  import { scheme } from '$lib/scheme.svelte';
  import { session } from '$lib/session.svelte';
  import OwnPassword from './OwnPassword.svelte';
  import { Popover, Portal } from '@skeletonlabs/skeleton-svelte';
  import { useQueryClient } from '@tanstack/svelte-query';
  const client = useQueryClient();
  const first = $derived(session.state?.name?.split(' ')[0] ?? '');
  const rest = $derived((session.state?.name ?? '').slice(first.length));
  let cues = $state(localStorage.getItem('cues') !== 'off');
  $effect(() => localStorage.setItem('cues', cues ? 'on' : 'off'));
  function go(code: string) {
    session.choose(code);
    void client.invalidateQueries();
  }
</script>

<Popover positioning={{ placement: 'bottom-end' }}>
  <Popover.Trigger class="link person">{first}<span class="rest">{rest}</span></Popover.Trigger>
  <Portal>
    <Popover.Positioner class="z-20">
      <Popover.Content class="menu">
        <p class="quiet">{session.state?.roles.join(', ')}</p>
        {#if (session.state?.sites.length ?? 0) > 1}
          <div class="choices">
            {#each session.state?.sites ?? [] as site (site.code)}
              <button class="button" aria-pressed={site.code === session.site} onclick={() => go(site.code)}>
                {site.code === session.site ? '✓ ' : ''}{site.name}
              </button>
            {/each}
          </div>
        {/if}
        <button class="button" onclick={() => scheme.turn()}>{scheme.isDark ? 'Light scheme' : 'Dark scheme'}</button>
        <button class="button" onclick={() => (cues = !cues)}>{cues ? 'Sound off' : 'Sound on'}</button>
        {#if session.state?.isDemo}<a class="button" href="/labels">Label sheet and clock</a>{/if}
        <OwnPassword />
        <button class="button" onclick={() => session.signOut()}>Sign out</button>
        <p class="quiet">Signing out ends every session of yours, on all devices.</p>
      </Popover.Content>
    </Popover.Positioner>
  </Portal>
</Popover>

<style>
  .rest {
    white-space: pre;
  }
  @media (max-width: 700px) {
    .rest {
      position: absolute;
      width: 1px;
      height: 1px;
      overflow: hidden;
      clip-path: inset(50%);
    }
    :global(.person) {
      min-height: 32px;
      min-width: 48px;
    }
  }
  :global(.menu) {
    background: var(--paper);
    color: var(--peat);
    border: 2px solid var(--wall);
    border-radius: 4px;
    padding: 12px;
    display: flex;
    flex-direction: column;
    gap: 8px;
    box-shadow: var(--lift);
    min-width: 210px;
  }
  .choices {
    display: grid;
    gap: 6px;
  }
</style>
