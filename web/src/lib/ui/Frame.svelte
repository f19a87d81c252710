<script lang="ts" module>
  /** Which part a phone shows. */
  export type Part = 'queue' | 'work' | 'trail';
</script>

<script lang="ts">
  /** Every room has the same three parts: queue, work, trail. On a phone they are three taps. */
  import PanelRightClose from '@lucide/svelte/icons/panel-right-close';
  import PanelRightOpen from '@lucide/svelte/icons/panel-right-open';
  import type { Snippet } from 'svelte';
  let {
    queueTitle,
    queueCount = '',
    workTitle,
    trailTitle = 'Trail',
    trailCount = '',
    part = $bindable('work'),
    queue,
    work,
    trail,
    foot,
  }: {
    queueTitle: string;
    queueCount?: string | number;
    workTitle: string;
    trailTitle?: string;
    trailCount?: string | number;
    part?: Part;
    queue: Snippet;
    work: Snippet;
    trail?: Snippet;
    foot?: Snippet;
  } = $props();
  let folded = $state(localStorage.getItem('trail') === 'folded');
  function fold() {
    folded = !folded;
    localStorage.setItem('trail', folded ? 'folded' : 'open');
  }
</script>

<div class="parts" role="tablist" aria-label="Parts of the room">
  <button role="tab" aria-selected={part === 'queue'} onclick={() => (part = 'queue')}
    >Queue <span class="c">{String(queueCount).split(' ')[0]}</span></button
  >
  <button role="tab" aria-selected={part === 'work'} onclick={() => (part = 'work')}>{workTitle}</button>
  {#if trail}
    <button role="tab" aria-selected={part === 'trail'} onclick={() => (part = 'trail')}
      >{trailTitle} <span class="c">{trailCount}</span></button
    >
  {/if}
</div>
<div class="frame" class:folded={folded || !trail} data-part={part}>
  <section class="queue" aria-label={queueTitle}>
    <header>
      <h2>{queueTitle}</h2>
      <span>{queueCount}</span>
    </header>
    <div class="scroll">{@render queue()}</div>
  </section>
  <main class="work" id="work">
    <div class="scroll">{@render work()}</div>
    {#if foot}<div class="foot">{@render foot()}</div>{/if}
  </main>
  {#if trail}
    <aside class="trail" aria-label={trailTitle}>
      <header>
        {#if !folded}<h2>{trailTitle}</h2>{/if}
        <button
          class="fold"
          onclick={fold}
          aria-expanded={!folded}
          aria-label={folded ? 'Open the trail' : 'Fold the trail'}
        >
          {#if folded}<PanelRightOpen size={18} />{:else}<PanelRightClose size={18} />{/if}
        </button>
      </header>
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <div class="scroll inside" tabindex="0" role="region" aria-label="{trailTitle}, its parts">{@render trail()}</div>
    </aside>
  {/if}
</div>

<style>
  .parts {
    display: none;
  }
  .frame {
    display: grid;
    grid-template-columns: 264px minmax(0, 1fr) 286px;
    min-height: 0;
    flex: 1;
  }
  .frame.folded {
    grid-template-columns: 264px minmax(0, 1fr) 40px;
  }
  .frame.folded:not(:has(.trail)) {
    grid-template-columns: 264px minmax(0, 1fr);
  }
  .folded .inside {
    display: none;
  }
  .queue,
  .trail,
  .work {
    min-height: 0;
    min-width: 0;
    display: flex;
    flex-direction: column;
  }
  .queue {
    border-right: 2px solid var(--wall);
  }
  .trail {
    border-left: 2px solid var(--wall);
  }
  .work {
    background: var(--paper);
  }
  .scroll {
    overflow-y: auto;
    min-height: 0;
    flex: 1;
    position: relative;
  }
  header {
    padding: 13px 12px 9px 16px;
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 8px;
    min-height: 48px;
  }
  header span {
    font-size: 13px;
    color: var(--peat-2);
  }
  .folded .trail header {
    padding: 8px 3px;
  }
  .fold {
    width: 32px;
    height: 32px;
    display: grid;
    place-items: center;
    border-radius: 4px;
    margin-left: auto;
  }
  .fold:hover {
    background: var(--stone-1);
  }
  .foot {
    border-top: 2px solid var(--wall);
    padding: 10px 18px;
    background: var(--paper);
  }
  @media (max-width: 1000px) {
    .parts {
      display: grid;
      grid-auto-flow: column;
      grid-auto-columns: 1fr;
      flex: none;
      height: 44px;
      background: var(--paper);
      border-bottom: 1px solid var(--stone-2);
    }
    .parts button {
      color: var(--peat-2);
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      padding: 0 6px;
    }
    .parts button[aria-selected='true'] {
      color: var(--peat);
      font-weight: 650;
      box-shadow: inset 0 -3px 0 var(--peat);
    }
    .frame,
    .frame.folded {
      grid-template-columns: 220px minmax(0, 1fr);
    }
    .trail,
    .frame[data-part='trail'] .work {
      display: none;
    }
    .frame[data-part='trail'] .trail {
      display: flex;
    }
    .folded .inside {
      display: block;
    }
    .fold {
      display: none;
    }
  }
  @media (max-width: 700px) {
    .parts {
      height: 48px;
    }
    .parts button {
      font-size: 16px;
    }
    .frame,
    .frame.folded {
      display: flex;
    }
    .queue,
    .work,
    .trail {
      display: none;
      flex: 1;
      border: 0;
    }
    .frame[data-part='queue'] .queue,
    .frame[data-part='work'] .work,
    .frame[data-part='trail'] .trail {
      display: flex;
    }
    .folded .inside {
      display: block;
    }
    .fold {
      display: none;
    }
    header {
      display: none;
    }
    .foot {
      padding: 8px 14px;
    }
  }
</style>
