<script lang="ts">
  import ReturnsFrame from '$lib/cage/ReturnsFrame.svelte';
  const wide = matchMedia('(min-width: 701px)').matches;
</script>

<svelte:head><title>Customer returns · Cage · Mud Room</title></svelte:head>
<ReturnsFrame workTitle="Returns" part={wide ? 'work' : 'queue'}>
  <p class="empty">Take a return from the list.</p>
</ReturnsFrame>
