<script lang="ts">
  /** Says plainly what a device cannot do that was opened without HTTPS, and how to get it. */
  let closed = $state(sessionStorage.getItem('insecure seen') === 'yes');
  function close() {
    closed = true;
    sessionStorage.setItem('insecure seen', 'yes');
  }
</script>

{#if !window.isSecureContext && !closed}
  <p class="insecure" role="status">
    <span
      ><b>Opened without HTTPS:</b> this device cannot scan by camera, cannot keep counts through a dead spot, and
      cannot be installed. Open it as <b class="c">https://{location.host}</b>; the administrator starts the server with
      --host and a certificate.</span
    >
    <button class="button" onclick={close}>Understood</button>
  </p>
{/if}

<style>
  .insecure {
    flex: none;
    display: flex;
    gap: 12px;
    align-items: center;
    justify-content: space-between;
    padding: 6px 16px;
    background: var(--disc-w);
    border-bottom: 2px solid var(--disc);
  }
</style>
