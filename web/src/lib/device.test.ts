import 'fake-indexeddb/auto';
import { openDB } from 'idb';
import { expect, it } from 'vitest';
import { database } from './device';

it('brings what a device of the version before has kept along', async () => {
  const before = await openDB('mud-room', 3, {
    upgrade(db) {
      for (const store of ['waiting', 'scans']) db.createObjectStore(store, { keyPath: 'seq', autoIncrement: true });
      for (const store of ['kept', 'inhand', 'blocks', 'batches', 'people']) db.createObjectStore(store);
      db.createObjectStore('jobs', { keyPath: 'site' });
    },
  });
  const path = '/api/{site}/shelf/put-down';
  await before.add('waiting', { id: 'count', request: { item: 'SP-DG' } });
  await before.add('waiting', { id: 'step', step: { path, body: { job: 7, bin: 'A-01' } } });
  before.close();

  const now = await database();
  expect([...now.objectStoreNames]).toContain('tasks');
  expect([...now.objectStoreNames]).not.toContain('jobs');
  const waiting = await now.getAll('waiting');
  expect(waiting[0].request).toEqual({ item: 'SP-DG' });
  expect(waiting[1].step).toEqual({ path, body: { bin: 'A-01', task: 7 } });
});
