/**
 * Counts that are not acknowledged yet. Each is laid into the device's own database before it is sent, and taken out when the
 * server has answered: neither a dead spot, a closed page nor a flat battery loses one, and its act id lets it count once.
 * They are sent in the order in which they were scanned. What the server then refuses comes back to the person who scanned it.
 */
import { act, ask, newActId, Problem, type Schemas } from '$lib/api/client';
import { session } from '$lib/session.svelte';
import { openDB, type IDBPDatabase } from 'idb';

export type Refused = { code: string; sentence: string; next: string };
export type Waiting = {
  /** Place in the order of scanning; given by the database. */
  seq?: number;
  /** The act's id. */
  id: string;
  site: string;
  arrival: string;
  person: number;
  personName: string;
  at: string;
  words: string;
  /** A scan that nobody has read yet … */
  text?: string;
  /** … or a count as it was filled in. */
  body?: Schemas['CountRequest'];
  /** Why the server refused it when it was sent late. */
  back?: Refused;
};

type Kept = { arrival: string; codes: Schemas['CodeAboard'][]; tally: Schemas['TallyAnswer'] };

let opened: Promise<IDBPDatabase> | undefined;
const database = () =>
  (opened ??= openDB('mud-room', 1, {
    upgrade(db) {
      db.createObjectStore('waiting', { keyPath: 'seq', autoIncrement: true });
      db.createObjectStore('kept', { keyPath: 'arrival' });
    },
  }));

/** The count of a scan that was read: one pack of what it names, with all the details that stand in the barcode. */
export function countOf(reading: Schemas['Reading'], arrival: string): Schemas['CountRequest'] {
  return {
    arrival,
    item: reading.item!.code,
    pack: reading.pack!,
    packs: String(reading.packs ?? 1),
    batch: null,
    sourceBatch: reading.sourceBatch ?? null,
    production: reading.production ?? null,
    bestBefore: reading.bestBefore ?? null,
    expiry: reading.expiry ?? null,
    origin: reading.origin ?? null,
    serial: reading.serial ?? null,
    aside: null,
    note: null,
    part: null,
    overAllowed: false,
    earlyAllowed: false,
    vendor: null,
    serials: null,
    attributes: null,
    blankAllowed: false,
  };
}

class WaitingCounts {
  all = $state<Waiting[]>([]);
  /** False while the server does not answer. */
  reachable = $state(true);
  private sending = false;
  /** What somebody stands by and waits for; it is not sent a second time meanwhile. */
  private inHand = new Set<number>();

  /** Those on their way, and those that came back. */
  get onTheirWay() {
    return this.all.filter((w) => !w.back);
  }
  get cameBack() {
    return this.all.filter((w) => w.back);
  }

  async load() {
    this.all = await (await database()).getAll('waiting');
  }

  /** Lays one into the database; from then on it is not lost. */
  async keep(entry: Omit<Waiting, 'seq' | 'at' | 'site' | 'person' | 'personName'>): Promise<Waiting> {
    const whole: Waiting = {
      ...entry,
      site: session.site,
      person: session.state?.personId ?? 0,
      personName: session.state?.name ?? '',
      at: new Date().toISOString(),
    };
    const tx = (await database()).transaction('waiting', 'readwrite', { durability: 'strict' });
    whole.seq = (await tx.store.add(whole)) as number;
    await tx.done;
    this.all = [...this.all, whole];
    return whole;
  }

  /** Takes one out: it was answered, or a person has said that it is not to count. */
  async forget(entry: Waiting) {
    await (await database()).delete('waiting', entry.seq!);
    this.all = this.all.filter((w) => w.seq !== entry.seq);
  }

  /** A scan that could not be read: kept as it is. */
  keepScan = (arrival: string, text: string, words: string) => this.keep({ id: newActId(), arrival, text, words });

  /** Sends a count that somebody stands by: its refusal is theirs to see at once. True when it waits for the network. */
  async sendNow(entry: Waiting): Promise<Schemas['CountAnswer'] | 'waits'> {
    if (this.onTheirWay.some((w) => w.seq! < entry.seq!)) {
      void this.sendAll();
      return 'waits';
    }
    this.inHand.add(entry.seq!);
    try {
      const answer = await act('/api/{site}/door/count', entry.body!, entry.id);
      this.reachable = true;
      await this.forget(entry);
      return answer;
    } catch (problem) {
      if (problem instanceof Problem && problem.status === 0) {
        this.reachable = false;
        return 'waits';
      }
      await this.forget(entry);
      throw problem;
    } finally {
      this.inHand.delete(entry.seq!);
    }
  }

  /** Sends what waits, in order, until the network fails. Counts of somebody else wait until they are signed in again. */
  async sendAll() {
    if (this.sending || !session.state?.signedIn) return;
    this.sending = true;
    try {
      for (const entry of this.onTheirWay.filter(
        (w) => w.person === session.state?.personId && w.site === session.site && !this.inHand.has(w.seq!),
      )) {
        try {
          const body = entry.body ?? (await this.read(entry));
          await act('/api/{site}/door/count', body, entry.id);
          this.reachable = true;
          await this.forget(entry);
        } catch (problem) {
          if (!(problem instanceof Problem)) throw problem;
          if (problem.status === 0) this.reachable = false;
          // No network, or nobody signed in: it goes on waiting, and all behind it.
          if (problem.status === 0 || problem.status === 401 || problem.code === 'token-missing') return;
          const { code, sentence, next } = problem;
          const back = { ...entry, back: { code, sentence, next } };
          await (await database()).put('waiting', $state.snapshot(back));
          this.all = this.all.map((w) => (w.seq === entry.seq ? back : w));
        }
      }
    } finally {
      this.sending = false;
    }
  }

  private async read(entry: Waiting): Promise<Schemas['CountRequest']> {
    const reading = await ask('/api/{site}/scan', { text: entry.text!, arrival: entry.arrival });
    if (reading.problem) throw new Problem(reading.problem.code, reading.problem.sentence, reading.problem.next, 422);
    if (reading.kind !== 'Item' || !reading.item)
      throw new Problem('not-an-item', reading.words, 'Scan it again at the goods.', 422);
    return countOf(reading, entry.arrival);
  }

  /** Keeps an arrival on the device: what its codes mean, and how its tally stood when it was last seen. */
  async keepArrival(arrival: string, tally: Schemas['TallyAnswer']) {
    const codes = await ask('/api/{site}/door/codes/{number}', { number: arrival });
    await (await database()).put('kept', { arrival: `${session.site} ${arrival}`, codes, tally } satisfies Kept);
  }

  keptArrival = async (arrival: string): Promise<Kept | undefined> =>
    (await database()).get('kept', `${session.site} ${arrival}`);
}

export const waiting = new WaitingCounts();
