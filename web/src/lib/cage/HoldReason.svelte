<script lang="ts">
  /** Why goods are held: a reason from the site's list, a sentence, or both. */
  import { ask } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Field from '$lib/ui/Field.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  let {
    because = $bindable(),
    why = $bindable(),
    hint,
    most = 500,
  }: { because: string; why: string; hint?: string | undefined; most?: number } = $props();
  const choices = createQuery(() => ({
    queryKey: ['cage', 'choices', session.site],
    queryFn: () => ask('/api/{site}/cage/choices'),
    staleTime: Infinity,
  }));
</script>

{#if choices.data?.reasons.length}
  <Field label="Reason"
    ><select name="hold-because" bind:value={because}
      ><option value="">another one</option>{#each choices.data.reasons as r (r)}<option value={r}>{r}</option
        >{/each}</select
    ></Field
  >
{/if}
<Field label={because ? 'What more is to be known' : 'Why'} {hint}
  ><input name="hold-why" bind:value={why} maxlength={most} autocomplete="off" /></Field
>
