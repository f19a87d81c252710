<script lang="ts">
  import { ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import VendorForm from '$lib/site/VendorForm.svelte';
  import BadgeForm from '$lib/site/BadgeForm.svelte';
  import ResetPassword from '$lib/site/ResetPassword.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import { number } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  import { cards } from '$lib/ui/cards';
  const site = createQuery(() => ({ queryKey: ['site', session.site], queryFn: () => ask('/api/{site}/site') }));
  const views = ['Items', 'Bins', 'Vendors', 'People', 'Rules'] as const;
  let view = $state<(typeof views)[number]>('Items');
  let filter = $state('');
  let part = $state<Part>('work');
  const fits = (words: string) => words.toLowerCase().includes(filter.toLowerCase());
  const s = $derived(site.data);
</script>

<svelte:head><title>Site · Mud Room</title></svelte:head>
<Frame queueTitle={s?.name ?? 'Site'} workTitle={view} bind:part>
  {#snippet queue()}
    {#each views as v (v)}
      <button
        class="view"
        class:on={v === view}
        aria-pressed={v === view}
        onclick={() => {
          view = v;
          filter = '';
          part = 'work';
        }}
      >
        <b>{v}</b>
        <span class="c"
          >{{
            Items: s?.items.length,
            Bins: s?.binsInAll,
            Vendors: s?.vendors.length,
            People: s?.people.length,
            Rules: s?.holdRules.length,
          }[v] ?? ''}</span
        >
      </button>
    {/each}
    {#if session.may('SetUp')}<p class="pad">
        <a class="link" href="/site/files">Bring files in, take them out</a>
      </p>{/if}
    {#if session.may('SetUp')}<p class="pad"><a class="link" href="/site/health">Health of the server</a></p>{/if}
    <p class="pad"><a class="link" href="/site/house">The house: name, clock, numbers, yard</a></p>
    <p class="pad"><a class="link" href="/site/door">How goods are counted</a></p>
    <p class="pad"><a class="link" href="/site/scanner">Teach a scanner</a></p>
    <p class="pad"><a class="link" href="/site/planning">How days are planned</a></p>
    <p class="pad quiet">
      Time zone {s?.timeZone}. Goods up to {s?.horizonDays} days before their due date are not early.
    </p>
  {/snippet}
  {#snippet work()}
    {#if s && s.warnings.length > 0}
      <ul class="pad said" aria-label="What is missing">
        {#each s.warnings as w (w)}<li>{w}</li>{/each}
      </ul>
    {/if}
    <div class="pad"><label class="field"><span>Show only</span><input bind:value={filter} /></label></div>
    {#if s && view === 'Items'}
      <table class="list" {@attach cards}>
        <thead
          ><tr
            ><th>Item</th><th>Packs</th><th>Asks for</th><th>Stands</th><th>Inspection</th><th class="number">Over</th
            ></tr
          ></thead
        >
        <tbody>
          {#each s.items.filter((i) => fits(`${i.code} ${i.name}`)) as i (i.code)}
            <tr
              ><td
                ><a class="link" href="/site/items/{encodeURIComponent(i.code)}"><b>{i.name}</b></a><br /><span
                  class="c quiet">{i.code}</span
                ></td
              ><td>{i.packs.map((p) => `${p.name} ${number(p.content)}`).join(', ')} {i.unit}</td><td
                >{i.asks.join(', ')}</td
              ><td>{i.storageClass.toLowerCase()}{i.homeZone ? `, ${i.homeZone}` : ''}</td><td>{i.plan ?? ''}</td><td
                class="number">{i.overPercent} %</td
              ></tr
            >
          {/each}
        </tbody>
      </table>
    {:else if s && view === 'Bins'}
      <table class="list" {@attach cards}>
        <thead
          ><tr
            ><th>Bin</th><th>Zone</th><th>Function</th><th>Class</th><th class="number">Carries</th><th class="number"
              >Holds</th
            ></tr
          ></thead
        >
        <tbody>
          {#each s.bins.filter((b) => fits(`${b.address} ${b.zone}`)) as b (b.address)}
            <tr
              ><td class="c"><b>{b.address}</b>{b.blocked ? ' blocked' : ''}</td><td>{b.zone}</td><td
                >{b.function.toLowerCase()}</td
              ><td>{b.storageClass.toLowerCase()}</td><td class="number">{number(b.maxMass)} kg</td><td class="number"
                >{number(b.maxVolume)} L</td
              ></tr
            >
          {/each}
        </tbody>
      </table>
    {:else if s && view === 'Vendors'}
      <table class="list" {@attach cards}>
        <thead
          ><tr
            ><th>Vendor</th><th>Country</th><th>Who to call</th><th class="number">Must keep</th
            >{#if session.may('SetUp')}<th><span class="sr-only">Change</span></th>{/if}</tr
          ></thead
        >
        <tbody>
          {#each s.vendors.filter((v) => fits(v.name)) as v (v.code)}
            <tr
              ><td><b>{v.name}</b> <span class="c quiet">{v.code}</span></td><td>{v.country}</td><td
                >{v.contact ?? ''} <span class="c">{v.telephone ?? ''}</span> {v.mail ?? ''}</td
              ><td class="number"
                >{v.minimumRemainingDays === null || v.minimumRemainingDays === undefined
                  ? 'as the item says'
                  : `${number(v.minimumRemainingDays)} days`}</td
              >{#if session.may('SetUp')}<td><VendorForm vendor={v} ondone={() => void site.refetch()} /></td>{/if}</tr
            >
          {/each}
        </tbody>
      </table>
    {:else if s && view === 'People'}
      <table class="list" {@attach cards}>
        <thead
          ><tr
            ><th>Name</th><th>Signs in as</th><th>Roles</th><th>Sites</th>{#if session.may('SetUp')}<th
                >Badge, password</th
              >{/if}</tr
          ></thead
        >
        <tbody>
          {#each s.people.filter((p) => fits(p.name)) as p (p.signInName)}
            <tr
              ><td><b>{p.name}</b></td><td class="c">{p.signInName}</td><td>{p.roles.join(', ')}</td><td
                >{p.sites.join(', ')}</td
              >{#if session.may('SetUp')}<td><BadgeForm name={p.signInName} /> <ResetPassword name={p.signInName} /></td
                >{/if}</tr
            >
          {/each}
        </tbody>
      </table>
    {:else if s}
      <ul class="pad">
        {#each s.holdRules as r (r)}<li>{r}</li>{:else}<li class="quiet">No hold rules.</li>{/each}
      </ul>
    {/if}
  {/snippet}
</Frame>

<style>
  .view {
    display: flex;
    justify-content: space-between;
    width: 100%;
    padding: 10px 16px;
    border-top: 1px solid var(--stone-2);
    min-height: 44px;
  }
  .view.on {
    background: var(--paper);
  }
</style>
