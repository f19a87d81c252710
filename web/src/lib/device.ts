/** The device's own database: what waits to be sent, what is kept for dead spots, numbers reserved for it, who may work on it today. */
import { openDB, type IDBPDatabase } from 'idb';

let opened: Promise<IDBPDatabase> | undefined;

export const database = (): Promise<IDBPDatabase> =>
  (opened ??= openDB('mud-room', 2, {
    upgrade(db, from) {
      if (from < 1) {
        db.createObjectStore('waiting', { keyPath: 'seq', autoIncrement: true });
        db.createObjectStore('kept', { keyPath: 'arrival' });
      }
      if (from < 2) {
        db.createObjectStore('blocks', { keyPath: 'key', autoIncrement: true });
        db.createObjectStore('batches', { keyPath: 'key' });
        db.createObjectStore('people', { keyPath: 'badge' });
        db.createObjectStore('jobs', { keyPath: 'site' });
      }
    },
    // Another tab brings a newer version: this one lets go, and opens again when it is asked.
    blocking(_current, _blocked, event) {
      (event.target as IDBDatabase).close();
      opened = undefined;
    },
  }));
