<script lang="ts">
  import { goto } from '$app/navigation';
  import { session } from '$lib/session.svelte';
  // Everybody begins in the room where they stand.
  const first: Record<string, string> = {
    Supervisor: '/road',
    Receiver: '/door',
    GateHand: '/yard',
    Inspector: '/bench',
    Driver: '/shelf',
    Buyer: '/road/due',
    Administrator: '/site',
  };
  void goto(first[session.state?.roles[0] ?? ''] ?? '/road', { replaceState: true });
</script>
