<script lang="ts">
  import { page } from '$app/state';
</script>

<main class="empty">
  <h1>There is no such page</h1>
  <p>{page.url.pathname} is no room of this house. Choose a room above.</p>
</main>

<style>
  /* What is read by scanning stays at the foot of the window. */
  main {
    flex: 1;
  }
</style>
