/**
 * Every scan is on the device's disk before anything is asked of the network. It stays there until what became of it is on the disk
 * too: in hand, waiting to be sent, or answered. What a page that was closed has left is taken up again when its place is opened.
 */
import { newActId } from '$lib/api/client';
import { database, lay, type Laying } from '$lib/device';
import { session } from '$lib/session.svelte';

/** Who counts, at which site: what is scanned and in hand belongs to them, whoever takes the device next. */
export type Owner = { site: string; person: number; personName: string };

export const whoever = (): Owner => ({
  site: session.site,
  person: session.state?.personId ?? 0,
  personName: session.state?.name ?? '',
});

/** One scan as it came. */
export type Scanned = Owner & {
  seq?: number;
  /** What took scans when it came: "door A-2617", "shelf". */
  place: string;
  text: string;
  at: string;
  /** The opened page that it came to: as long as that lives, the scan is handled there and nowhere else. */
  page?: string;
};

const lockOf = (page: string) => `page ${page}`;

/** The pages of this device that are open now. Without a secure origin there are no locks to know others by. */
const openPages = async () => (await navigator.locks?.query())?.held?.map((lock) => lock.name) ?? [];

/** What is in hand at one place, of one person. */
export type InHand<T = unknown> = Owner & {
  key: string;
  place: string;
  /** Scans up to this one are in it, or done with. */
  through: number;
  /** In a few words; empty where nothing is in hand. */
  words: string;
  held: T | null;
};

const keyOf = (place: string, owner: Owner) => `${owner.site} ${place} ${owner.person}`;
const isOf = (one: Scanned, place: string, owner: Owner) =>
  one.place === place && one.site === owner.site && one.person === owner.person;

class Journal {
  /** This page, from its opening until it is closed or killed. */
  page = newActId();
  /** Scans that nobody has handled, and what is in hand, at all places: told at the foot of every page. */
  scans = $state<Scanned[]>([]);
  hands = $state<InHand[]>([]);
  /** False when the device's storage took nothing the last time: it is full, or shut to this page. */
  keeps = $state(true);

  constructor() {
    // Held as long as the page lives.
    void navigator.locks?.request(lockOf(this.page), () => new Promise(() => undefined)).catch(() => undefined);
  }

  /** Looks what there is. */
  async load() {
    const db = await database();
    this.scans = (await db.getAll('scans')) as Scanned[];
    this.hands = ((await db.getAll('inhand')) as InHand[]).filter((h) => h.held !== null);
  }

  /** Lays a scan down; from then on it is not lost. Gives its place in the order of scanning, 0 where the device keeps nothing. */
  async note(place: string, text: string, at: Date, owner = whoever()): Promise<number> {
    const scan: Scanned = { ...owner, place, text, at: at.toISOString(), page: this.page };
    const seq = await lay(async (tx) => (await tx.objectStore('scans').add(scan)) as number).catch(() => 0);
    this.keeps = seq > 0;
    return seq;
  }

  /** Scans of somebody at a place that nobody has handled and no open page will handle, in order: those that a closed page has left. */
  async left(place: string, owner = whoever()): Promise<Scanned[]> {
    const through = (await this.hand(place, owner))?.through ?? 0;
    const open = [lockOf(this.page), ...(await openPages())];
    const all = (await (await database()).getAll('scans')) as Scanned[];
    return all.filter((s) => isOf(s, place, owner) && s.seq! > through && !open.includes(lockOf(s.page ?? '')));
  }

  /** What is in somebody's hand at a place. */
  async hand<T>(place: string, owner = whoever()): Promise<InHand<T> | undefined> {
    return (await database()).get('inhand', keyOf(place, owner));
  }

  /** Writes what is in hand now, and that scans up to one are done with; in the transaction of what else became of them. */
  async hold<T>(tx: Laying, owner: Owner, place: string, through: number, words: string, held: T | null) {
    const hand: InHand<T> = { ...owner, key: keyOf(place, owner), place, through, words, held };
    await tx.objectStore('inhand').put(hand);
    const scans = tx.objectStore('scans');
    for (const scan of (await scans.getAll(IDBKeyRange.upperBound(through))) as Scanned[])
      if (isOf(scan, place, owner)) await scans.delete(scan.seq!);
  }

  /** A scan was answered, and nothing of it is to be kept. */
  async done(seq: number) {
    await lay((tx) => tx.objectStore('scans').delete(seq));
  }
}

export const journal = new Journal();
