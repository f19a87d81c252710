/** Which columns of a table a person wants to see; kept on this device for each person and table. */
import { session } from '$lib/session.svelte';

export class Columns {
  hidden = $state<string[]>([]);
  readonly #name: string;

  constructor(
    table: string,
    readonly all: readonly (readonly [key: string, word: string])[],
  ) {
    this.#name = `columns ${table} ${session.state?.personId ?? ''}`;
    const kept = localStorage.getItem(this.#name);
    if (kept) this.hidden = kept.split(',').filter((key) => all.some(([known]) => known === key));
  }

  shows = (key: string): boolean => !this.hidden.includes(key);

  /** Shows or hides one; the last that is left stays. */
  turn(key: string) {
    const next = this.hidden.includes(key) ? this.hidden.filter((h) => h !== key) : [...this.hidden, key];
    if (next.length >= this.all.length) return;
    this.hidden = next;
    localStorage.setItem(this.#name, next.join(','));
  }
}
