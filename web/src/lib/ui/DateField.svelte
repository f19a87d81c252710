<script lang="ts">
  /**
   * A date, or a date and time, typed as people say it: ISO, the site's own form, "10 Mar", "fri", "tomorrow". What was understood stands
   * under the field; up and down go by days. A calendar to press would be slower than either.
   */
  import Field from './Field.svelte';
  import { ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  import { plusDays, readDate, readDateTime } from './dateText';

  let {
    label,
    value = $bindable(''),
    withTime = false,
    name,
    required = false,
    disabled = false,
    onchange,
  }: {
    label: string;
    /** 2026-03-10, or 2026-03-10T09:30 with a time; empty for none. */
    value?: string | null | undefined;
    withTime?: boolean;
    name?: string;
    required?: boolean;
    disabled?: boolean;
    onchange?: () => void;
  } = $props();
  const id = $props.id();

  const house = createQuery(() => ({
    queryKey: ['house', session.site],
    queryFn: () => ask('/api/{site}/house'),
    enabled: session.site !== '',
  }));
  const today = $derived(house.data?.now.slice(0, 10) ?? new Date().toISOString().slice(0, 10));
  const form = $derived(session.state?.sites.find((s) => s.code === session.site)?.dateForm ?? 'DayMonthYear');
  const example = $derived(
    withTime ? 'tomorrow 9:30' : form === 'MonthDayYear' ? '3/31, fri or tomorrow' : '31.3., fri or tomorrow',
  );

  const shown = (iso: string | null | undefined) => (iso ?? '').slice(0, withTime ? 16 : 10).replace('T', ' ');
  let field = $state<HTMLInputElement>();
  let typed = $state('');
  let mistaken = $state(false);
  // What comes from outside is shown; what is being typed is left alone.
  $effect(() => {
    const text = shown(value);
    if (document.activeElement !== field) typed = text;
  });

  const weekday = new Intl.DateTimeFormat('en-GB', { weekday: 'short', timeZone: 'UTC' });
  const meant = $derived(value ? weekday.format(new Date(`${value.slice(0, 10)}T12:00:00Z`)) : '');

  function take(text: string) {
    typed = text;
    const base = { today, form };
    const read = withTime ? readDateTime(text, base) : readDate(text, base);
    mistaken = text.trim() !== '' && read === undefined;
    field?.setCustomValidity(mistaken ? `This is no date. Type 2026-03-31, ${example}.` : '');
    const next = read ?? '';
    if (next === (value ?? '')) return;
    value = next;
    onchange?.();
  }

  function onkeydown(event: KeyboardEvent) {
    const days = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
    if (days === 0) return;
    event.preventDefault();
    const from = value ? value.slice(0, 10) : plusDays(today, -days);
    take(shown(plusDays(from, days) + (withTime ? (value ? value.slice(10, 16) : 'T08:00') : '')));
  }
</script>

<Field {label} bad={mistaken} class="date"
  ><input
    bind:this={field}
    class="c"
    type="text"
    autocomplete="off"
    {name}
    {required}
    {disabled}
    value={typed}
    placeholder={withTime ? example : example.replace(' or tomorrow', '')}
    size={withTime ? 20 : 15}
    aria-describedby="{id}-meant"
    aria-invalid={mistaken}
    oninput={(e) => take(e.currentTarget.value)}
    onblur={() => {
      if (!mistaken) typed = shown(value);
    }}
    {onkeydown}
  /><span class="meant" id="{id}-meant">{mistaken ? `no date: ${example}` : meant}</span></Field
>

<style>
  :global(.field.date) {
    position: relative;
    min-width: 150px;
  }
  .meant {
    position: absolute;
    right: 8px;
    bottom: 9px;
    font-size: 13px;
    color: var(--peat-2);
    pointer-events: none;
    background: inherit;
  }
  :global(.field.bad) .meant {
    position: static;
    color: var(--disc);
  }
</style>
