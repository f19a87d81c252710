<script lang="ts" generics="T">
  /**
   * The one list of the house: columns that a person keeps, order, looking in it, pages, a file, and all by keyboard. A list that
   * the server gives page by page says how many rows there are in all; without that, all rows are here, and the device orders them
   * and looks in them.
   */
  import Field from '$lib/ui/Field.svelte';
  import type { Snippet } from 'svelte';
  import { untrack } from 'svelte';
  import { on } from 'svelte/events';
  import { createTable } from '@tanstack/svelte-table';
  import { cards } from './cards';
  import ColumnChoice from './ColumnChoice.svelte';
  import { Columns } from './columns.svelte';
  import { number } from '$lib/ui/format';
  import { features } from './features';
  import { compare, csv, fits, type ListColumn, type ListValue } from './list';
  import Pages from './Pages.svelte';

  let {
    name,
    label,
    columns,
    rows,
    key,
    empty,
    pending = false,
    total,
    pageSize = 100,
    page = $bindable(1),
    sort = $bindable(''),
    file,
    tools,
    under,
    isOn,
    looks = 'Show only',
    counted = ['row', 'rows'],
  }: {
    /** By which a person's columns are kept. */
    name: string;
    /** What it is a list of, for who cannot see it. */
    label: string;
    columns: readonly ListColumn<T>[];
    rows: readonly T[] | undefined;
    key: (row: T) => string | number;
    /** Said where there is no row. */
    empty: string;
    pending?: boolean;
    /** Rows in all, where they come page by page. */
    total?: number;
    pageSize?: number;
    page?: number;
    /** The server's name of the order; empty for its own. */
    sort?: string;
    /** Address of the whole list as a file; where all rows are here, the device makes it, by this name. */
    file?: string;
    /** What else stands above it. */
    tools?: Snippet;
    /** What opens below a row. */
    under?: Snippet<[T]>;
    /** True for the row that is looked at. */
    isOn?: (row: T) => boolean;
    /** The word of the field to look by. */
    looks?: string;
    /** What its rows are, one and several. */
    counted?: readonly [one: string, several: string];
  } = $props();

  const remote = $derived(total !== undefined);
  const kept = untrack(
    () =>
      new Columns(
        name,
        columns.filter((c) => !c.fixed).map((c) => [c.key, c.word] as const),
      ),
  );
  let looked = $state('');
  let order = $state<{ id: string; desc: boolean }[]>([]);
  const shown = $derived(columns.filter((c) => c.fixed || kept.shows(c.key)));
  const values = (row: T): ListValue[] => columns.map((c) => c.value?.(row));
  const nothing: T[] = [];

  const table = untrack(() =>
    createTable<typeof features, T & object>({
      features,
      get columns() {
        return columns.map((c) => ({
          id: c.key,
          header: c.word,
          accessorFn: (row: T & object) => c.value?.(row) ?? null,
          enableSorting: c.value !== undefined,
          sortDescFirst: false,
          sortFn: (a: { original: T }, b: { original: T }) => compare(c.value?.(a.original), c.value?.(b.original)),
        }));
      },
      get data() {
        return (rows ?? nothing) as (T & object)[];
      },
      getRowId: (row) => String(key(row)),
      get manualSorting() {
        return remote;
      },
      get manualFiltering() {
        return remote;
      },
      get manualPagination() {
        return remote;
      },
      get rowCount() {
        return total ?? undefined;
      },
      globalFilterFn: (row, _, text: string) => fits(values(row.original), text),
      getColumnCanGlobalFilter: () => true,
      autoResetPageIndex: false,
      state: {
        get sorting() {
          return order;
        },
        get globalFilter() {
          return looked;
        },
        get pagination() {
          return { pageIndex: page - 1, pageSize };
        },
      },
    }),
  );
  const seen = $derived(table.getRowModel().rows.map((r) => r.original as T));
  const fitting = $derived(remote ? (total ?? 0) : table.getFilteredRowModel().rows.length);

  type Way = 'ascending' | 'descending';
  const isSorted = (c: ListColumn<T>): Way | undefined => {
    if (remote)
      return sort === ''
        ? undefined
        : sort === c.sorts?.up
          ? 'ascending'
          : sort === c.sorts?.down
            ? 'descending'
            : undefined;
    const by = order[0];
    return by?.id === c.key ? (by.desc ? 'descending' : 'ascending') : undefined;
  };
  const sorts = (c: ListColumn<T>): boolean => (remote ? c.sorts !== undefined : c.value !== undefined);

  /** Upwards, downwards, and as it was. */
  function turn(c: ListColumn<T>) {
    const now = isSorted(c);
    if (remote) {
      const ways = [c.sorts?.up, c.sorts?.down].filter((w) => w !== undefined);
      sort = ways[now === undefined ? 0 : ways.indexOf(sort) + 1] ?? '';
    } else
      order = now === undefined ? [{ id: c.key, desc: false }] : now === 'ascending' ? [{ id: c.key, desc: true }] : [];
    page = 1;
  }

  let at = $state(0);
  const walk = (body: HTMLElement) => on(body, 'keydown', keys);
  /** Arrows go from row to row, Enter opens what the row names, Page Up and Page Down turn the page. */
  function keys(event: KeyboardEvent) {
    const row = event.target as HTMLElement;
    if (row.tagName !== 'TR') return;
    const all = [...row.parentElement!.querySelectorAll<HTMLElement>('tr[data-row]')];
    const i = all.indexOf(row);
    const to = { ArrowDown: i + 1, ArrowUp: i - 1, Home: 0, End: all.length - 1 }[event.key];
    if (to !== undefined) all[Math.max(0, Math.min(all.length - 1, to))]?.focus();
    else if (event.key === 'Enter') row.querySelector<HTMLElement>('a, button')?.click();
    else if (event.key === 'PageDown' && page * pageSize < fitting) page++;
    else if (event.key === 'PageUp' && page > 1) page--;
    else return;
    event.preventDefault();
  }

  function save() {
    const address = URL.createObjectURL(
      new Blob(
        [
          csv(
            columns,
            table.getPrePaginatedRowModel().rows.map((r) => r.original as T),
          ),
        ],
        { type: 'text/csv' },
      ),
    );
    const link = Object.assign(document.createElement('a'), { href: address, download: file });
    link.click();
    URL.revokeObjectURL(address);
  }
</script>

<div class="pad row tools">
  {@render tools?.()}
  {#if !remote && ((rows?.length ?? 0) > 8 || looked)}
    <Field label={looks} class="grow"
      ><input type="search" name="looked" bind:value={looked} oninput={() => (page = 1)} /></Field
    >
  {/if}
  <span class="grow quiet count" aria-live="polite"
    >{#if rows && !(remote && fitting === 0)}{number(fitting)} {counted[fitting === 1 ? 0 : 1]}{/if}</span
  >
  <ColumnChoice columns={kept} />
  {#if file && remote}<a class="button" href={file} download>CSV</a>{:else if file}<button class="button" onclick={save}
      >CSV</button
    >{/if}
</div>
<div class="wide">
  <table class="list" aria-label={label} {@attach cards}>
    <thead>
      <tr>
        {#each shown as c (c.key)}
          <th class:number={c.number} aria-sort={isSorted(c)}>
            {#if sorts(c)}<button class="sort" onclick={() => turn(c)} data-sort={c.key}
                >{c.word}<span class="way" aria-hidden="true"
                  >{isSorted(c) === 'ascending' ? '↑' : isSorted(c) === 'descending' ? '↓' : ''}</span
                ></button
              >{:else}{c.word}{/if}
          </th>
        {/each}
      </tr>
    </thead>
    <tbody {@attach walk}>
      {#each seen as row, i (key(row))}
        <tr
          data-row={key(row)}
          class:on={isOn?.(row)}
          tabindex={i === Math.min(at, seen.length - 1) ? 0 : -1}
          onfocus={() => (at = i)}
        >
          {#each shown as c (c.key)}<td class:number={c.number}>{@render c.cell(row)}</td>{/each}
        </tr>
        {@render under?.(row)}
      {:else}
        <tr
          ><td colspan={shown.length} class="empty">{pending ? 'One moment.' : looked ? 'Nothing fits.' : empty}</td
          ></tr
        >
      {/each}
    </tbody>
  </table>
</div>
<Pages bind:page total={fitting} {pageSize} />

<style>
  .wide {
    overflow-x: auto;
  }
  .tools {
    align-items: flex-end;
  }
  .count {
    padding-bottom: 8px;
    white-space: nowrap;
  }
  th:has(.sort) {
    padding-block: 0;
  }
  .sort {
    font: inherit;
    font-weight: 600;
    min-height: 32px;
    text-align: inherit;
  }
  .sort:hover {
    text-decoration: underline;
  }
  .way {
    display: inline-block;
    width: 1.1em;
  }
  tr.on td {
    background: var(--lit-faint);
  }
  tr[data-row]:focus-visible {
    outline: 2px solid var(--peat);
    outline-offset: -2px;
  }
</style>
