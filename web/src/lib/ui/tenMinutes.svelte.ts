/** The ten minutes of a newcomer to the demo: whether they are open, and signing in as somebody by one press. */
import { ask, type Schemas } from '$lib/api/client';
import { session } from '$lib/session.svelte';

class TenMinutes {
  isOpen = $state(localStorage.getItem('ten minutes') === 'open');

  show(open: boolean) {
    this.isOpen = open;
    if (open) localStorage.setItem('ten minutes', 'open');
    else localStorage.removeItem('ten minutes');
  }
}

export const tenMinutes = new TenMinutes();

export const demoPeople = (): Promise<Schemas['DemoCard'][]> => ask('/api/demo/people', {});

/** Somebody else works on, as if they had signed in by hand. */
export async function become(signInName: string, people: readonly Schemas['DemoCard'][]) {
  const person = people.find((p) => p.signInName === signInName);
  if (person) await session.signIn(person.signInName, person.password);
}
