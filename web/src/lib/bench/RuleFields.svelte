<script lang="ts">
  /** A sample rule in fields: its kind, then what that kind asks. */
  import type { Schemas } from '$lib/api/client';
  import Field from '$lib/ui/Field.svelte';
  type Rule = Schemas['RuleText'];
  let {
    rule = $bindable(),
    of,
    none,
    values = false,
    aqls,
    changed,
  }: {
    rule: Rule | null;
    /** What it is the rule of: "Major", "Gap at the tip". */
    of: string;
    /** What no rule of its own means: "with the majors". */
    none: string;
    /** Whether values may be judged. */
    values?: boolean;
    aqls: number[];
    changed: () => void;
  } = $props();
  const kinds: [Schemas['RuleKind'], string][] = [
    ['Standard', 'ISO 2859-1, by AQL'],
    ['Fixed', 'a fixed number'],
    ['Share', 'a share of the lot'],
    ['All', 'all pieces'],
    ['Zero', 'none may fail'],
    ['Portions', 'portions of a mass'],
    ['OneByOne', 'one by one (sequential)'],
    ['Variables', 'by values (k-method)'],
  ];
  const levels: Schemas['InspectionLevel'][] = ['S1', 'S2', 'S3', 'S4', 'I', 'II', 'III'];
  const blank: Record<Schemas['RuleKind'], Partial<Rule>> = {
    Standard: { aql: '2.5' },
    Fixed: { size: '5', ac: '0' },
    Share: { percent: '10', least: '5', most: '50', ac: '0' },
    All: { ac: '0' },
    Zero: { quality: '5', risk: '10' },
    Portions: { grams: '200', from: '5', size: '4', ac: '0' },
    Variables: { good: '1', alpha: '5', bad: '6', beta: '10' },
    OneByOne: { good: '1', alpha: '5', bad: '10', beta: '10' },
  };
  const empty = { level: 'II' as const, isDouble: false, perHundred: false };
  function choose(kind: string) {
    rule = kind ? ({ ...empty, ...blank[kind as Schemas['RuleKind']], kind } as Rule) : null;
    changed();
  }
  const twoPoints: [keyof Rule, string][] = [
    ['good', 'Good, %'],
    ['alpha', 'rejected, %'],
    ['bad', 'Bad, %'],
    ['beta', 'accepted, %'],
  ];
  const numbers: Record<Schemas['RuleKind'], [keyof Rule, string][]> = {
    Standard: [],
    Fixed: [
      ['size', 'Pieces'],
      ['ac', 'At most nonconforming'],
    ],
    Share: [
      ['percent', 'Percent'],
      ['least', 'At least'],
      ['most', 'At most'],
      ['ac', 'Nonconforming'],
    ],
    All: [['ac', 'At most nonconforming']],
    Zero: [
      ['quality', 'Limiting quality, %'],
      ['risk', 'Risk, %'],
    ],
    Portions: [
      ['grams', 'Grams'],
      ['from', 'From packages'],
      ['size', 'Portions'],
      ['ac', 'Nonconforming'],
    ],
    Variables: [...twoPoints, ['sigma', 'Known spread']],
    OneByOne: twoPoints,
  };
</script>

<div class="rule">
  <Field label="Sample rule of {of}" hidden>
    <select value={rule?.kind ?? ''} onchange={(e) => choose(e.currentTarget.value)}>
      <option value="">{none}</option>
      {#each kinds.filter(([k]) => values || k !== 'Variables') as [kind, word] (kind)}<option value={kind}
          >{word}</option
        >{/each}
    </select>
  </Field>
  {#if rule?.kind === 'Standard'}
    <Field label="Level">
      <select bind:value={rule.level} onchange={changed}>
        {#each levels as l (l)}<option value={l}>{l.replace('S', 'S-')}</option>{/each}
      </select>
    </Field>
    <Field label="AQL">
      <select bind:value={rule.aql} onchange={changed}>
        {#each aqls as a (a)}<option value={String(a)}>{a}</option>{/each}
      </select>
    </Field>
    <label class="tick"><input type="checkbox" bind:checked={rule.isDouble} onchange={changed} /> double</label>
    <label class="tick"
      ><input type="checkbox" bind:checked={rule.perHundred} onchange={changed} /> nonconformities per 100</label
    >
  {:else if rule}
    {#each numbers[rule.kind] as [field, label] (field)}
      <Field {label}
        ><input class="c short" inputmode="decimal" bind:value={rule[field] as string} onchange={changed} /></Field
      >
    {/each}
  {/if}
</div>

<style>
  .rule {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 10px;
    align-items: end;
  }
  .short {
    width: 74px;
  }
  .tick {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    min-height: 32px;
  }
</style>
