<script lang="ts">
  /** How a vendor is reached, and how long their goods must keep when they come in. */
  import Field from '$lib/ui/Field.svelte';
  import { act, type Schemas } from '$lib/api/client';
  import ProblemNote from '$lib/ui/ProblemNote.svelte';
  import { inSight } from '$lib/ui/inSight';
  let { vendor, ondone }: { vendor: Schemas['VendorRow']; ondone: () => void } = $props();
  let open = $state(false);
  let days = $state('');
  let contact = $state('');
  let telephone = $state('');
  let mail = $state('');
  let gln = $state('');
  let error = $state<unknown>();
  let said = $state('');
  function show() {
    days = String(vendor.minimumRemainingDays ?? '');
    [contact, telephone, mail, gln] = [
      vendor.contact ?? '',
      vendor.telephone ?? '',
      vendor.mail ?? '',
      vendor.gln ?? '',
    ];
    open = true;
  }
  async function keep() {
    error = undefined;
    try {
      const body = {
        code: vendor.code,
        contact: contact || null,
        telephone: telephone || null,
        mail: mail || null,
        gln: gln || null,
        minimumRemainingDays: days === '' ? null : Number(days),
      };
      said = (await act('/api/{site}/site/vendor', body)).sentence;
      open = false;
      ondone();
    } catch (problem) {
      error = problem;
    }
  }
</script>

{#if open}
  <form
    {@attach inSight}
    onsubmit={(e) => {
      e.preventDefault();
      void keep();
    }}
  >
    <Field label="Days that must remain; blank for the items' own rules"
      ><input
        class="c"
        type="number"
        min="0"
        max="36500"
        step="1"
        name="vendor-days"
        bind:value={() => days, (value) => (days = String(value ?? ''))}
      /></Field
    >
    <Field label="Who to call"><input name="vendor-contact" bind:value={contact} maxlength="120" /></Field>
    <Field label="Telephone"><input class="c" name="vendor-telephone" bind:value={telephone} maxlength="120" /></Field>
    <Field label="Mail"><input name="vendor-mail" bind:value={mail} maxlength="120" /></Field>
    <Field label="GLN, by which messages name them"
      ><input class="c" name="vendor-gln" bind:value={gln} maxlength="13" inputmode="numeric" /></Field
    >
    <div class="row">
      <button class="button go">Keep it</button>
      <button type="button" class="button" onclick={() => (open = false)}>Leave it</button>
    </div>
    <ProblemNote {error} />
  </form>
{:else}
  <button class="link" onclick={show}>Change</button>
  {#if said}<span role="status">{said}</span>{/if}
{/if}

<style>
  form {
    display: flex;
    flex-direction: column;
    gap: 6px;
    min-width: 220px;
  }
</style>
