/**
 * Acts that are not acknowledged yet: counts, and the steps of a put-away job. Each is laid into the device's own database before it is
 * sent, and taken out when the server has answered: neither a dead spot, a closed page nor a flat battery loses one, and its act id lets it
 * happen once. They are sent in the order in which they were done; counts that wait one behind another go in one request, each with its own
 * id and answer. What the server then refuses comes back to the person who did it.
 */
import { attach } from '$lib/api/attach';
import { act, ask, newActId, Problem, type Schemas } from '$lib/api/client';
import { database } from '$lib/device';
import { session } from '$lib/session.svelte';
import { plainCount } from './count';
import { fill, takeBatch, takeSscc } from './numbers';

export type Refused = { code: string; sentence: string; next: string };
type Code = Schemas['CodeAboard'];
/** What was typed to a scan before anybody has read it: what its label does not say. */
export type Typed = Partial<
  Pick<
    Schemas['CountRequest'],
    | 'packs'
    | 'sourceBatch'
    | 'production'
    | 'bestBefore'
    | 'expiry'
    | 'origin'
    | 'serial'
    | 'weight'
    | 'note'
    | 'attributes'
    | 'aside'
    | 'reason'
  >
>;
/** A photograph that waits with its scan, with the id under which it is attached. */
export type Photograph = { id: string; name: string; bytes: ArrayBuffer };
export type Step =
  | { path: '/api/{site}/shelf/scan-goods'; body: Schemas['ScanGoodsRequest'] }
  | { path: '/api/{site}/shelf/put-down'; body: Schemas['PutDownRequest'] };
export type Waiting = {
  /** Place in the order of scanning; given by the database. */
  seq?: number;
  /** The act's id. */
  id: string;
  site: string;
  /** The arrival of a count; empty for a step of a put-away job. */
  arrival: string;
  person: number;
  personName: string;
  at: string;
  words: string;
  /** A scan that nobody has read yet … */
  text?: string;
  /** What this device knows of it. */
  code?: Code;
  typed?: Typed;
  photographs?: Photograph[];
  /** … or a count as it was filled in … */
  body?: Schemas['CountRequest'];
  /** … or a step of a put-away job. */
  step?: Step;
  /** The unit number and own batch that this device gave. */
  sscc?: string;
  batch?: string;
  /** Why the server refused it when it was sent late. */
  back?: Refused;
};

type Kept = { arrival: string; codes: Code[]; tally: Schemas['TallyAnswer'] };

/** Most counts in one request. */
const together = 32;

/** The count of a scan that was read: one pack of what it names, with all the details that stand in the barcode. */
export function countOf(reading: Schemas['Reading'], arrival: string): Schemas['CountRequest'] {
  // Without a network nobody has typed how many: each scan is one.
  const packs = String(reading.proposed ? 1 : (reading.packs ?? 1));
  return {
    ...plainCount(arrival, reading.item!.code, reading.pack!, packs),
    sourceBatch: reading.sourceBatch ?? null,
    production: reading.production ?? null,
    bestBefore: reading.bestBefore ?? null,
    expiry: reading.expiry ?? null,
    origin: reading.origin ?? null,
    serial: reading.serial ?? null,
    sscc: reading.sscc ?? null,
  };
}

class WaitingActs {
  all = $state<Waiting[]>([]);
  /** False while the server does not answer. */
  reachable = $state(true);
  private sending = false;
  /** What somebody stands by and waits for; it is not sent a second time meanwhile. */
  private inHand = new Set<number>();
  /** What is being read and sent just now: it takes nothing more. */
  private leaving = new Set<number>();

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
    whole.seq = (await tx.store.add($state.snapshot(whole))) as number;
    await tx.done;
    this.all = [...this.all, whole];
    return whole;
  }

  /** Takes one out: it was answered, or a person has said that it is not to count. */
  async forget(entry: Waiting) {
    await (await database()).delete('waiting', entry.seq!);
    this.all = this.all.filter((w) => w.seq !== entry.seq);
  }

  /** A scan that could not be read: kept as it is. A pack that gets a label gets its numbers from this device's own. */
  async keepScan(arrival: string, text: string, words: string, known?: Code): Promise<Waiting> {
    const sscc = known?.isUnit ? await takeSscc(session.site) : undefined;
    const batch =
      sscc && known?.batchStart ? await takeBatch(session.site, known.batchStart, known.batchEnd, text) : undefined;
    return this.keep({
      id: newActId(),
      arrival,
      text,
      words,
      ...(known ? { code: known } : {}),
      ...(sscc ? { sscc } : {}),
      ...(batch ? { batch } : {}),
    });
  }

  /** Adds to a scan that waits what its label does not say, and photographs. False when it was sent already. */
  async amend(seq: number, typed: Typed, photographs: Photograph[]): Promise<boolean> {
    const entry = this.onTheirWay.find((w) => w.seq === seq);
    if (!entry || this.inHand.has(seq) || this.leaving.has(seq)) return false;
    const whole = { ...$state.snapshot(entry), typed, photographs } as Waiting;
    const tx = (await database()).transaction('waiting', 'readwrite', { durability: 'strict' });
    // What was sent in the meantime is not laid back.
    const waits = (await tx.store.get(seq)) !== undefined;
    if (waits) await tx.store.put(whole);
    await tx.done;
    if (waits) this.all = this.all.map((w) => (w.seq === seq ? whole : w));
    return waits;
  }

  /** Sends a count that somebody stands by: its refusal is theirs to see at once. True when it waits for the network. */
  async sendNow(entry: Waiting): Promise<Schemas['CountAnswer'] | 'waits'> {
    // Who changed in a dead spot is not who the server knows: it would count in the other's name.
    if (session.away) return 'waits';
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

  /** Sends what waits, in order, until the network fails. Acts of somebody else wait until they are signed in again. */
  async sendAll() {
    if (this.sending || session.away || !session.state?.signedIn) return;
    this.sending = true;
    try {
      let mine = this.mine();
      while (mine.length > 0) {
        const counts = mine.slice(
          0,
          Math.min(together, mine.findIndex((w) => w.step) < 0 ? together : mine.findIndex((w) => w.step)),
        );
        if (counts.length > 0) await this.leave(counts);
        else await this.sendStep(mine[0]!);
        this.reachable = true;
        mine = this.mine();
      }
    } catch (problem) {
      if (!(problem instanceof Problem)) throw problem;
      // No network, or nobody signed in: it goes on waiting, and all behind it.
      if (problem.status === 0) this.reachable = false;
    } finally {
      this.sending = false;
    }
  }

  private mine = () =>
    this.onTheirWay.filter(
      (w) => w.person === session.state?.personId && w.site === session.site && !this.inHand.has(w.seq!),
    );

  private async leave(counts: Waiting[]) {
    for (const { seq } of counts) this.leaving.add(seq!);
    try {
      await this.sendCounts(counts);
    } finally {
      for (const { seq } of counts) this.leaving.delete(seq!);
    }
  }

  /** Counts that wait one behind another: those that can be read go together. Throws when there is no network. */
  private async sendCounts(entries: Waiting[]) {
    const ready: { entry: Waiting; body: Schemas['CountRequest'] }[] = [];
    for (const entry of entries)
      try {
        ready.push({ entry, body: entry.body ?? (await this.read(entry)) });
      } catch (problem) {
        await this.comesBack(entry, problem);
      }
    if (ready.length === 0) return;
    const sent = await act(
      '/api/{site}/door/counts',
      ready.map(({ entry, body }) => ({ id: entry.id, request: $state.snapshot(body) as Schemas['CountRequest'] })),
    );
    for (const { entry } of ready) {
      const answer = sent.find((s) => s.id === entry.id);
      if (answer?.problem) await this.laysBack(entry, answer.problem);
      else if (answer) await this.forget(entry);
    }
  }

  private async sendStep(entry: Waiting) {
    const step = $state.snapshot(entry.step!) as Step;
    try {
      if (step.path === '/api/{site}/shelf/scan-goods') await act(step.path, step.body, entry.id);
      else await act(step.path, step.body, entry.id);
      await this.forget(entry);
    } catch (problem) {
      await this.comesBack(entry, problem);
    }
  }

  /** What the server refuses comes back to the person; where it did not answer, the problem goes on. */
  private async comesBack(entry: Waiting, problem: unknown) {
    if (
      !(problem instanceof Problem) ||
      problem.status === 0 ||
      problem.status === 401 ||
      problem.code === 'token-missing'
    )
      throw problem;
    await this.laysBack(entry, problem);
  }

  private async laysBack(entry: Waiting, { code, sentence, next }: Refused) {
    const back = { ...entry, back: { code, sentence, next } };
    await (await database()).put('waiting', $state.snapshot(back));
    this.all = this.all.map((w) => (w.seq === entry.seq ? back : w));
  }

  private async read(entry: Waiting): Promise<Schemas['CountRequest']> {
    const reading = await ask('/api/{site}/scan', { text: entry.text!, arrival: entry.arrival });
    // Where it names an item, the count itself is judged: one that was taken already, its answer lost, is answered again by its id.
    if (reading.problem && !reading.item)
      throw new Problem(reading.problem.code, reading.problem.sentence, reading.problem.next, 422);
    if (reading.kind !== 'Item' || !reading.item)
      throw new Problem('not-an-item', reading.words, 'Scan it again at the goods.', 422);
    const pictures: number[] = [];
    for (const { id, name, bytes } of entry.photographs ?? [])
      pictures.push((await attach(entry.arrival, new File([bytes], name), undefined, id)).id);
    return {
      ...countOf(reading, entry.arrival),
      ...entry.typed,
      pictures: pictures.length ? pictures : null,
      scanned: entry.text!,
      units: entry.sscc ? [entry.sscc] : null,
      batch: entry.batch ?? null,
    };
  }

  /** Keeps an arrival on the device: what its codes mean, and how its tally stood when it was last seen; and numbers to give without a network. */
  async keepArrival(arrival: string, tally: Schemas['TallyAnswer']) {
    const codes = await ask('/api/{site}/door/codes/{number}', { number: arrival });
    await (await database()).put('kept', { arrival: `${session.site} ${arrival}`, codes, tally } satisfies Kept);
    if (session.may('Tally')) await fill(session.site);
  }

  keptArrival = async (arrival: string): Promise<Kept | undefined> =>
    (await database()).get('kept', `${session.site} ${arrival}`);
}

export const waiting = new WaitingActs();
