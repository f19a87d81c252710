<script lang="ts">
  /** The demo's labels: pressing one types it as a scanner would. */
  import Field from '$lib/ui/Field.svelte';
  import { ask, type Schemas } from '$lib/api/client';
  import { typedBy } from '$lib/door/codes';
  import { scanner } from '$lib/scanner.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  import Symbol from './Symbol.svelte';
  let {
    arrival = '',
    onpress,
    draw = true,
  }: { arrival?: string; onpress: (text: string) => void; draw?: boolean } = $props();
  let chosen = $state('');
  let filter = $state('');
  let byTaught = $state(false);
  const taught = $derived(scanner.settings.prefix + scanner.settings.suffix + scanner.settings.separator !== '');
  const press = (text: string) => onpress(byTaught && taught ? typedBy(text, scanner.settings) : text);
  const number = $derived(chosen || arrival);
  const labels = createQuery(() => ({
    queryKey: ['labels', 'shelf', number],
    queryFn: () => ask('/api/{site}/demo/labels', { arrival: number }),
  }));
  const groups = $derived.by(() => {
    const made: [string, Schemas['Label'][]][] = [];
    for (const label of labels.data?.labels ?? []) {
      if (filter && !`${label.title} ${label.detail}`.toLowerCase().includes(filter.toLowerCase())) continue;
      const last = made.find((g) => g[0] === label.group);
      if (last) last[1].push(label);
      else made.push([label.group, [label]]);
    }
    return made;
  });
</script>

<div class="row tools">
  <Field label="Labels of arrival">
    <select bind:value={chosen}>
      {#if arrival}<option value="">{arrival}</option>{/if}
      {#each labels.data?.arrivals ?? [] as a (a)}{#if a !== arrival}<option value={a}>{a}</option>{/if}{/each}
    </select></Field
  >
  <Field label="Show only"><input bind:value={filter} placeholder="item, pack, bin" /></Field>
  {#if taught}
    <label class="taught"><input type="checkbox" bind:checked={byTaught} /> as this site’s own scanner types it</label>
  {/if}
</div>
{#each groups as [group, list] (group)}
  <h2>{group}</h2>
  <div class="labels">
    {#each list.slice(0, group === 'Bins' && !filter ? 24 : 400) as label, i (label.text + i)}
      <button class="label" onclick={() => press(label.text)} data-scan={label.text}>
        {#if draw}<Symbol symbol={label.symbol} text={label.draw} />{/if}
        <span><b>{label.title}</b><br /><span class="quiet">{label.detail}</span></span>
      </button>
    {/each}
  </div>
  {#if group === 'Bins' && !filter && list.length > 24}<p class="quiet more">
      {list.length - 24} more bins: type a part of the address above.
    </p>{/if}
{:else}
  <p class="empty">No labels. When an arrival is open, the labels of its goods, papers and bins are here.</p>
{/each}

<style>
  .taught {
    display: flex;
    align-items: center;
    gap: 8px;
    min-height: 44px;
    align-self: flex-end;
  }
  .tools {
    padding: 4px 0 10px;
  }
  h2 {
    margin: 10px 0 6px;
  }
  .labels {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
    gap: 8px;
  }
  .label {
    display: flex;
    gap: 10px;
    align-items: center;
    text-align: left;
    padding: 8px;
    background: #fff;
    color: #231d15;
    border: 1.5px solid var(--stone-3);
    border-radius: 4px;
    min-height: 56px;
    font-size: 13px;
    line-height: 1.3;
  }
  .label .quiet {
    color: #494236;
  }
  .label:active {
    background: var(--lit);
  }
  .more {
    padding: 6px 0;
  }
</style>
