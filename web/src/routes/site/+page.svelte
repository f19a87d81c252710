<script lang="ts">
  import { ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import VendorForm from '$lib/site/VendorForm.svelte';
  import BadgeForm from '$lib/site/BadgeForm.svelte';
  import ResetPassword from '$lib/site/ResetPassword.svelte';
  import Frame, { type Part } from '$lib/ui/Frame.svelte';
  import { number } from '$lib/ui/format';
  import { createQuery } from '@tanstack/svelte-query';
  import List from '$lib/list/List.svelte';
  const site = createQuery(() => ({ queryKey: ['site', session.site], queryFn: () => ask('/api/{site}/site') }));
  const views = ['Items', 'Bins', 'Vendors', 'People', 'Rules'] as const;
  let view = $state<(typeof views)[number]>('Items');
  let part = $state<Part>('work');
  const s = $derived(site.data);
  type Site = NonNullable<typeof s>;
  type Item = Site['items'][number];
  type Bin = Site['bins'][number];
  type Vendor = Site['vendors'][number];
  type Person = Site['people'][number];
  const packsOf = (i: Item) => `${i.packs.map((p) => `${p.name} ${number(p.content)}`).join(', ')} ${i.unit}`;
  const standsOf = (i: Item) => i.storageClass.toLowerCase() + (i.homeZone ? `, ${i.homeZone}` : '');
</script>

{#snippet item(i: Item)}<a class="link" href="/site/items/{encodeURIComponent(i.code)}"><b>{i.name}</b></a>{/snippet}
{#snippet itemCode(i: Item)}<span class="c">{i.code}</span>{/snippet}
{#snippet packs(i: Item)}{packsOf(i)}{/snippet}
{#snippet asks(i: Item)}{i.asks.join(', ')}{/snippet}
{#snippet stands(i: Item)}{standsOf(i)}{/snippet}
{#snippet plan(i: Item)}{i.plan ?? ''}{/snippet}
{#snippet over(i: Item)}{i.overPercent} %{/snippet}
{#snippet bin(b: Bin)}<b class="c">{b.address}</b>{b.blocked ? ' blocked' : ''}{/snippet}
{#snippet zone(b: Bin)}{b.zone}{/snippet}
{#snippet function_(b: Bin)}{b.function.toLowerCase()}{/snippet}
{#snippet class_(b: Bin)}{b.storageClass.toLowerCase()}{/snippet}
{#snippet carries(b: Bin)}{number(b.maxMass)} kg{/snippet}
{#snippet holds(b: Bin)}{number(b.maxVolume)} L{/snippet}
{#snippet vendor(v: Vendor)}<b>{v.name}</b>{/snippet}
{#snippet vendorCode(v: Vendor)}<span class="c">{v.code}</span>{/snippet}
{#snippet country(v: Vendor)}{v.country}{/snippet}
{#snippet call(v: Vendor)}{v.contact ?? ''}
  {#if v.telephone}<a class="link c nowrap" href="tel:{v.telephone.replaceAll(' ', '')}">{v.telephone}</a>{/if}
  {v.mail ?? ''}{/snippet}
{#snippet life(v: Vendor)}{v.minimumRemainingDays === null || v.minimumRemainingDays === undefined
    ? 'as the item says'
    : `${number(v.minimumRemainingDays)} days`}{/snippet}
{#snippet changeVendor(v: Vendor)}<VendorForm vendor={v} ondone={() => void site.refetch()} />{/snippet}
{#snippet person(p: Person)}<b>{p.name}</b>{/snippet}
{#snippet signsIn(p: Person)}<span class="c">{p.signInName}</span>{/snippet}
{#snippet roles(p: Person)}{p.roles.join(', ')}{/snippet}
{#snippet sites(p: Person)}{p.sites.join(', ')}{/snippet}
{#snippet badge(p: Person)}<BadgeForm name={p.signInName} /> <ResetPassword name={p.signInName} />{/snippet}

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
    <p class="pad"><a class="link" href="/site/cage">How goods are held and decided over</a></p>
    <p class="pad"><a class="link" href="/site/standings">What goods may be used for</a></p>
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
    {#if s && view === 'Items'}
      <List
        name="items"
        label="Items"
        counted={['item', 'items']}
        rows={s.items}
        key={(i) => i.code}
        file="items.csv"
        empty="There is no item yet. Bring a file in."
        columns={[
          { key: 'item', word: 'Item', cell: item, fixed: true, value: (i) => i.name },
          { key: 'code', word: 'Code', cell: itemCode, value: (i) => i.code },
          { key: 'packs', word: 'Packs', cell: packs, value: packsOf },
          { key: 'asks', word: 'Asks for', cell: asks, value: (i) => i.asks.join(', ') },
          { key: 'stands', word: 'Stands', cell: stands, value: standsOf },
          { key: 'plan', word: 'Inspection', cell: plan, value: (i) => i.plan },
          { key: 'over', word: 'Over', cell: over, number: true, value: (i) => i.overPercent },
        ]}
      />
    {:else if s && view === 'Bins'}
      <List
        name="bins"
        label="Bins"
        counted={['bin', 'bins']}
        rows={s.bins}
        key={(b) => b.address}
        file="bins.csv"
        empty="There is no bin yet. Bring a file in."
        columns={[
          { key: 'bin', word: 'Bin', cell: bin, fixed: true, value: (b) => b.address },
          { key: 'zone', word: 'Zone', cell: zone, value: (b) => b.zone },
          { key: 'function', word: 'Function', cell: function_, value: (b) => b.function.toLowerCase() },
          { key: 'class', word: 'Class', cell: class_, value: (b) => b.storageClass.toLowerCase() },
          { key: 'carries', word: 'Carries', cell: carries, number: true, value: (b) => b.maxMass },
          { key: 'holds', word: 'Holds', cell: holds, number: true, value: (b) => b.maxVolume },
        ]}
      />
    {:else if s && view === 'Vendors'}
      <List
        name="vendors"
        label="Vendors"
        counted={['vendor', 'vendors']}
        rows={s.vendors}
        key={(v) => v.code}
        file="vendors.csv"
        empty="There is no vendor yet. Bring a file in."
        columns={[
          { key: 'vendor', word: 'Vendor', cell: vendor, fixed: true, value: (v) => v.name },
          { key: 'code', word: 'Code', cell: vendorCode, value: (v) => v.code },
          { key: 'country', word: 'Country', cell: country, value: (v) => v.country },
          { key: 'call', word: 'Who to call', cell: call, value: (v) => `${v.contact ?? ''} ${v.telephone ?? ''}` },
          { key: 'life', word: 'Must keep', cell: life, number: true, value: (v) => v.minimumRemainingDays },
          ...(session.may('SetUp') ? [{ key: 'change', word: 'Change', cell: changeVendor, fixed: true }] : []),
        ]}
      />
    {:else if s && view === 'People'}
      <List
        name="people"
        label="People"
        counted={['person', 'people']}
        rows={s.people}
        key={(p) => p.signInName}
        file="people.csv"
        empty="There is nobody yet."
        columns={[
          { key: 'name', word: 'Name', cell: person, fixed: true, value: (p) => p.name },
          { key: 'signs', word: 'Signs in as', cell: signsIn, value: (p) => p.signInName },
          { key: 'roles', word: 'Roles', cell: roles, value: (p) => p.roles.join(', ') },
          { key: 'sites', word: 'Sites', cell: sites, value: (p) => p.sites.join(', ') },
          ...(session.may('SetUp') ? [{ key: 'badge', word: 'Badge, password', cell: badge, fixed: true }] : []),
        ]}
      />
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
