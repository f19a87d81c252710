import { QueryClient, QueryObserver } from '@tanstack/svelte-query';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { place } from './place';

/** A sheet as the server has it, and the readings of it that are on their way. */
class Sheet {
  found = ['piece 1'];
  private readings: (() => void)[] = [];
  read = () => {
    const then = [...this.found];
    return new Promise<string[]>((arrive) => this.readings.push(() => arrive(then)));
  };
  get onTheirWay() {
    return this.readings.length;
  }
  async arrive() {
    this.readings.shift()!();
    await new Promise((settled) => setTimeout(settled, 5));
  }
}

const queryKey = ['sheet', 'I-0024'];
let client: QueryClient;
let sheet: Sheet;
let stop: () => void;
const shown = () => client.getQueryData<string[]>(queryKey);

beforeEach(async () => {
  client = new QueryClient();
  sheet = new Sheet();
  stop = new QueryObserver(client, { queryKey, queryFn: sheet.read }).subscribe(() => undefined);
  await sheet.arrive();
});
afterEach(() => stop());

describe('an answer that is put in place', () => {
  it('is shown at once, and the whole is not asked for', async () => {
    sheet.found.push('piece 2');
    await place<string[]>(client, queryKey, (old) => [...old, 'piece 2']);
    expect(shown()).toEqual(['piece 1', 'piece 2']);
    expect(sheet.onTheirWay).toBe(0);
  });

  it('is not taken off again by a reading from before it', async () => {
    void client.invalidateQueries({ queryKey });
    expect(sheet.onTheirWay).toBe(1);
    sheet.found.push('piece 2');
    const placed = place<string[]>(client, queryKey, (old) => [...old, 'piece 2']);
    expect(shown()).toEqual(['piece 1', 'piece 2']);
    await sheet.arrive();
    expect(shown()).toEqual(['piece 1', 'piece 2']);
    await sheet.arrive();
    await placed;
    expect(shown()).toEqual(['piece 1', 'piece 2']);
  });

  it('waits where nothing is shown yet: the first reading shows it', async () => {
    client.removeQueries({ queryKey });
    await place<string[]>(client, queryKey, (old) => [...old, 'piece 2']);
    expect(shown()).toBeUndefined();
  });
});
