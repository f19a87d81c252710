/**
 * The device's own database: what was scanned, what is in hand, what waits to be sent, what is kept for dead spots,
 * numbers reserved for it, who may work on it today.
 */
import { openDB, type IDBPDatabase, type IDBPTransaction } from 'idb';

let opened: Promise<IDBPDatabase> | undefined;

/** The device's own database. One that could not be opened is tried anew the next time. */
export const database = (): Promise<IDBPDatabase> =>
  (opened ??= open().catch((failure: unknown) => {
    opened = undefined;
    throw failure;
  }));

const open = () =>
  openDB('mud-room', 4, {
    async upgrade(db, from, _to, tx) {
      if (from < 1) {
        db.createObjectStore('waiting', { keyPath: 'seq', autoIncrement: true });
        db.createObjectStore('kept', { keyPath: 'arrival' });
      }
      if (from < 2) {
        db.createObjectStore('blocks', { keyPath: 'key', autoIncrement: true });
        db.createObjectStore('batches', { keyPath: 'key' });
        db.createObjectStore('people', { keyPath: 'badge' });
      }
      if (from < 3) {
        db.createObjectStore('scans', { keyPath: 'seq', autoIncrement: true });
        db.createObjectStore('inhand', { keyPath: 'key' });
      }
      if (from < 4) {
        db.createObjectStore('tasks', { keyPath: 'site' });
        if (db.objectStoreNames.contains('jobs')) db.deleteObjectStore('jobs');
        // Steps that wait to be sent name their task as it was called before.
        const waiting = tx.objectStore('waiting');
        for (let at = await waiting.openCursor(); at; at = await at.continue()) {
          const body = at.value.step?.body;
          if (body?.job) {
            body.task = body.job;
            delete body.job;
            await at.update(at.value);
          }
        }
      }
    },
    // Another tab brings a newer version: this one lets go, and opens again when it is asked.
    blocking(_current, _blocked, event) {
      (event.target as IDBDatabase).close();
      opened = undefined;
    },
  });

/** What was scanned, what is in hand and what waits: they change together. */
const counting = ['scans', 'inhand', 'waiting'] as const;
export type Laying = IDBPTransaction<unknown, [...typeof counting], 'readwrite'>;

/** One piece of writing over scans, what is in hand and what waits: all of it or nothing, and on the disk when it returns. */
export async function lay<T>(work: (tx: Laying) => Promise<T>): Promise<T> {
  const tx = (await database()).transaction([...counting], 'readwrite', { durability: 'strict' }) as unknown as Laying;
  const result = await work(tx);
  await tx.done;
  return result;
}
