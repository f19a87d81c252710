<script lang="ts">
  /** What a customer sends back and nobody has announced: a return is made of it here, and it is counted as any other goods. */
  import { act, ask, type Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Field from '$lib/ui/Field.svelte';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  let { arrival, ondone }: { arrival: string; ondone: (sentence: string) => void } = $props();
  let open = $state(false);
  const site = createQuery(() => ({
    queryKey: ['site', session.site],
    queryFn: () => ask('/api/{site}/site'),
    enabled: open,
  }));
  const blank = { customer: '', item: '', quantity: '', reason: '', promised: 'Nothing' as Schemas['ReturnPromise'] };
  let typed = $state({ ...blank });
  let busy = $state(false);
  let error = $state<unknown>();
  const unit = $derived(site.data?.items.find((i) => i.code === typed.item)?.unit ?? '');
  async function make(event: SubmitEvent) {
    event.preventDefault();
    error = undefined;
    busy = true;
    try {
      const made = await act('/api/{site}/door/returns', { arrival, ...typed });
      typed = { ...blank };
      open = false;
      ondone(made.sentence);
    } catch (problem) {
      error = problem;
    } finally {
      busy = false;
    }
  }
</script>

<details class="unannounced" bind:open>
  <summary>Nobody announced it</summary>
  <form onsubmit={make}>
    <Field label="Customer"
      ><select name="return-customer" bind:value={typed.customer} required
        ><option value=""></option>{#each site.data?.vendors ?? [] as v (v.code)}<option value={v.code}>{v.name}</option
          >{/each}</select
      ></Field
    >
    <Field label="Item"
      ><select name="return-item" bind:value={typed.item} required
        ><option value=""></option>{#each site.data?.items ?? [] as i (i.code)}<option value={i.code}>{i.name}</option
          >{/each}</select
      ></Field
    >
    <Field label={`How many ${unit}`}
      ><input class="c" name="return-quantity" inputmode="decimal" bind:value={typed.quantity} required /></Field
    >
    <Field label="Why they send it back"
      ><input name="return-reason" bind:value={typed.reason} maxlength="200" required autocomplete="off" /></Field
    >
    <Field label="What they were promised"
      ><select name="return-promised" bind:value={typed.promised}
        ><option value="Nothing">nothing known</option><option value="Credit">credit</option><option value="Replacement"
          >replacement</option
        ><option value="Repair">repair</option></select
      ></Field
    >
    <button class="button go" disabled={busy}>Make a return of it</button>
  </form>
  <ProblemNote {error} />
</details>

<style>
  form {
    display: grid;
    gap: 10px;
    margin-top: 8px;
  }
</style>
