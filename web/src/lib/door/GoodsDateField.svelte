<script lang="ts">
  /**
   * A date of goods at the count, typed as the label says it: 31.03.27, MAR 2027, 2027-03-31. What was understood stands beside it; what
   * was not is sent as it is typed, and refused with a sentence.
   */
  import Field from '$lib/ui/Field.svelte';
  import { readGoodsDate } from '$lib/ui/dateText';
  import type { Schemas } from '$lib/api/client';
  let {
    label: words,
    name,
    value = $bindable(),
    bad,
    settings,
    placeholder = '',
    oninput,
  }: {
    label: string;
    name: string;
    value: string;
    bad: boolean;
    settings: Pick<Schemas['CountSettings'], 'today' | 'dateForm'> | undefined;
    placeholder?: string;
    oninput: () => void;
  } = $props();
  let typed = $state('');
  // What a scan or a press brings is shown, wherever the cursor is; what is being typed is left alone.
  let made = '';
  $effect(() => {
    if (value !== made) typed = made = value;
  });
  const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' });
  const month = new Intl.DateTimeFormat('en-GB', { month: 'long', year: 'numeric', timeZone: 'UTC' });
  const meant = $derived(
    /^\d{4}-\d{2}-\d{2}$/.test(value)
      ? day.format(new Date(`${value}T12:00:00Z`))
      : /^\d{4}-\d{2}$/.test(value)
        ? month.format(new Date(`${value}-01T12:00:00Z`))
        : '',
  );
  function take(text: string) {
    typed = text;
    const read = settings && readGoodsDate(text, { today: settings.today, form: settings.dateForm });
    value = made = read ?? text;
    oninput();
  }
</script>

<Field {bad}
  >{#snippet label()}{words}{#if meant}<span class="meant">{meant}</span>{/if}{/snippet}<input
    class="c"
    {name}
    {placeholder}
    value={typed}
    autocomplete="off"
    oninput={(e) => take(e.currentTarget.value)}
    onblur={() => (typed = value)}
  /></Field
>

<style>
  .meant {
    color: var(--peat);
    font-weight: 600;
    margin-left: 6px;
  }
</style>
