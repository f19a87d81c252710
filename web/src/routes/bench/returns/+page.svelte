<script lang="ts">
  import ReturnsFrame from '$lib/bench/ReturnsFrame.svelte';
  const wide = matchMedia('(min-width: 701px)').matches;
</script>

<svelte:head><title>Customer returns · Bench · Mud Room</title></svelte:head>
<ReturnsFrame workTitle="Returns" part={wide ? 'work' : 'queue'}>
  <p class="empty">Take a return from the list.</p>
</ReturnsFrame>
