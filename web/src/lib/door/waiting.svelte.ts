/**
 * Acts that are not acknowledged yet: counts, the steps of a task, and findings at the bench. Each is laid into the device's own
 * database before it is sent, and taken out when the server has answered: neither a dead spot, a closed page nor a flat battery
 * loses one, and its act id lets it happen once. They are sent in the order in which they were done; counts that wait one behind
 * another go in one request, each with its own id and answer. What the server then refuses comes back to the person who did it.
 */
import { attach } from '$lib/api/attach';
import { act, ask, limits, newActId, Problem, type Schemas, problemOf } from '$lib/api/client';
import { database, lay, type Laying } from '$lib/device';
import { whoever, type Owner } from '$lib/journal.svelte';
import { fetchAhead } from '$lib/printed/ahead';
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
  | { path: '/api/{site}/door/count-unit'; body: Schemas['CountUnitRequest'] }
  | { path: '/api/{site}/shelf/scan-goods'; body: Schemas['ScanGoodsRequest'] }
  | { path: '/api/{site}/shelf/put-down'; body: Schemas['PutDownRequest'] }
  | { path: '/api/{site}/bench/find'; body: Schemas['FindRequest'] }
  | { path: '/api/{site}/bench/gauge'; body: Schemas['GaugeRequest'] };
export type Waiting = {
  /** Place in the order of scanning; given by the database. */
  seq?: number;
  /** The act's id. */
  id: string;
  site: string;
  /** The arrival of a count; empty for a step of a task. */
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
  /** … or a step of a task, or a finding. */
  step?: Step;
  /** The unit number and own batch that this device gave. */
  sscc?: string;
  batch?: string;
  /** Further labels of the same goods, as they were scanned. */
  details?: string[];
  /** The count as it was sent for the first time: sent again, it is the same to the letter, for its id stands for it. */
  sent?: Schemas['CountRequest'];
  /** How often the server broke over it. */
  tries?: number;
  /** Why the server refused it when it was sent late. */
  back?: Refused;
  /** Said by a person: it is not to count, and why; the act that says so in the book. */
  left?: { reason: string; act: string };
};

type Kept = { arrival: string; person: number; sawAll?: boolean; codes: Code[]; tally: Schemas['TallyAnswer'] };

/** Most counts in one request. */
const together = 32;

/** So often the server may break over one before it comes back to the person. */
const mostTries = 3;

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

/** The inspection that a finding is of; empty for what is none. */
export const sheetOf = (entry: Waiting): string =>
  entry.step && 'inspection' in entry.step.body ? entry.step.body.inspection : '';

class WaitingActs {
  all = $state<Waiting[]>([]);
  /** False while the server does not answer. */
  reachable = $state(true);
  private sending = false;
  /** How long the answer to what is sent late is waited for: longer each time that none came, for a network may be slow and not gone. */
  private patience: number = limits.scan;
  /** What somebody stands by and waits for; it is not sent a second time meanwhile. */
  private inHand = new Set<number>();
  /** What is being read and sent just now: it takes nothing more. */
  private leaving = new Set<number>();

  /** Findings of a sheet that are not acknowledged yet, the first first. */
  findingsOf(inspection: string): Waiting[] {
    return this.all.filter((w) => sheetOf(w) === inspection);
  }

  /** Those on their way, those that came back, and those of which a person has said that they are not to count. */
  get onTheirWay() {
    return this.all.filter((w) => !w.back && !w.left);
  }
  get cameBack() {
    return this.all.filter((w) => w.back && !w.left);
  }
  get notCounted() {
    return this.all.filter((w) => w.left);
  }

  async load() {
    this.all = await (await database()).getAll('waiting');
  }

  /**
   * Lays one into the database; from then on it is not lost.
   * @param also What changes with it: what was in hand is in hand no more.
   */
  async keep(
    entry: Omit<Waiting, 'seq' | 'at' | keyof Owner>,
    also?: (tx: Laying) => Promise<unknown>,
    owner = whoever(),
  ): Promise<Waiting> {
    const whole: Waiting = { ...entry, ...owner, at: new Date().toISOString() };
    whole.seq = await lay(async (tx) => {
      const seq = (await tx.objectStore('waiting').add($state.snapshot(whole))) as number;
      await also?.(tx);
      return seq;
    });
    this.all = [...this.all, whole];
    return whole;
  }

  /** Takes one out: it was answered, or it is in a person's hand again. */
  async forget(entry: Waiting, also?: (tx: Laying) => Promise<unknown>) {
    await lay(async (tx) => {
      await tx.objectStore('waiting').delete(entry.seq!);
      await also?.(tx);
    });
    this.all = this.all.filter((w) => w.seq !== entry.seq);
  }

  private async put(entry: Waiting) {
    await lay((tx) => tx.objectStore('waiting').put($state.snapshot(entry)));
    this.all = this.all.map((w) => (w.seq === entry.seq ? entry : w));
  }

  /** What came back goes on its way once more, under its own id: what kept it may be put right. */
  async tryAgain(entry: Waiting) {
    const again = { ...entry };
    delete again.back;
    delete again.tries;
    await this.put(again);
    await this.sendAll();
  }

  /** What came back is not to count: the reason goes into the book, and it can be taken back as long as the device has it. */
  async notToCount(entry: Waiting, reason: string) {
    const id = newActId();
    await act(
      '/api/{site}/door/not-counted',
      { arrival: entry.arrival, what: entry.words, scanned: entry.text ?? null, reason, takesBack: null },
      id,
    );
    await this.put({ ...entry, left: { reason, act: id } });
  }

  /** It is to count after all. */
  async takeBackLeft(entry: Waiting) {
    const { left, ...again } = entry;
    await act('/api/{site}/door/not-counted', {
      arrival: entry.arrival,
      what: entry.words,
      scanned: entry.text ?? null,
      reason: left!.reason,
      takesBack: left!.act,
    });
    await this.put(again);
  }

  /** One more label of goods whose scan waits. False when it was sent already. */
  async addDetail(seq: number, text: string, also?: (tx: Laying) => Promise<unknown>): Promise<boolean> {
    const entry = this.onTheirWay.find((w) => w.seq === seq);
    if (!entry || this.inHand.has(seq) || this.leaving.has(seq)) return false;
    const whole = { ...$state.snapshot(entry), details: [...(entry.details ?? []), text] } as Waiting;
    const waits = await lay(async (tx) => {
      if ((await tx.objectStore('waiting').get(seq)) === undefined) return false;
      await tx.objectStore('waiting').put(whole);
      await also?.(tx);
      return true;
    });
    if (waits) this.all = this.all.map((w) => (w.seq === seq ? whole : w));
    return waits;
  }

  /** A scan that could not be read: kept as it is. A pack that gets a label gets its numbers from this device's own. */
  async keepScan(
    arrival: string,
    text: string,
    words: string,
    known?: Code,
    also?: (tx: Laying) => Promise<unknown>,
    owner = whoever(),
  ): Promise<Waiting> {
    const sscc = known?.isUnit ? await takeSscc(session.site) : undefined;
    const batch =
      sscc && known?.batchStart ? await takeBatch(session.site, known.batchStart, known.batchEnd, text) : undefined;
    const entry = {
      id: newActId(),
      arrival,
      text,
      words,
      ...(known ? { code: known } : {}),
      ...(sscc ? { sscc } : {}),
      ...(batch ? { batch } : {}),
    };
    return this.keep(entry, also, owner);
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

  /**
   * Sends what somebody stands by: its refusal is theirs to see at once. 'waits' where nobody knows yet what became of it.
   * @param refused What a refusal changes: what was sent is in hand again.
   */
  async sendNow<T = Schemas['CountAnswer']>(
    entry: Waiting,
    refused?: (tx: Laying) => Promise<unknown>,
  ): Promise<T | 'waits'> {
    // Who changed in a dead spot is not who the server knows: it would count in the other's name.
    if (session.away || entry.person !== session.state?.personId) return 'waits';
    if (this.onTheirWay.some((w) => w.seq! < entry.seq!)) {
      void this.sendAll();
      return 'waits';
    }
    this.inHand.add(entry.seq!);
    try {
      const answer = entry.body
        ? await act(
            '/api/{site}/door/count',
            (await this.bodyOf(entry, limits.scan)) as Schemas['CountRequest'],
            entry.id,
            limits.scan,
          )
        : await this.doStep(entry);
      this.reachable = true;
      this.patience = limits.scan;
      await this.forget(entry);
      return answer as T;
    } catch (problem) {
      if (problem instanceof Problem && problem.isOpen) {
        // The server may have done it: it is sent again under its own id until its answer is known.
        if (problem.status === 0) this.reachable = false;
        return 'waits';
      }
      await this.forget(entry, refused);
      throw problem;
    } finally {
      this.inHand.delete(entry.seq!);
    }
  }

  /** A step that somebody stands by. Where this device can keep nothing it is sent as it is, and only the server's answer counts. */
  async keepAndSend<T>(step: Step, words: string, id = newActId()): Promise<T | 'waits'> {
    let laid: Waiting;
    try {
      laid = await this.keep({ id, arrival: '', words, step });
    } catch (failure) {
      if (session.away) throw failure;
      return (await this.doStep({ id, step })) as T;
    }
    return this.sendNow<T>(laid);
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
      if (problem.status === 0) {
        this.reachable = false;
        this.patience = Math.min(2 * this.patience, limits.late);
      }
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
        const body = await this.bodyOf(entry, this.patience);
        if (body === 'a unit') await this.sendStep(this.all.find((w) => w.seq === entry.seq)!);
        else ready.push({ entry, body });
      } catch (problem) {
        await this.comesBack(entry, problem);
      }
    if (ready.length === 0) return;
    const sent = await act(
      '/api/{site}/door/counts',
      ready.map(({ entry, body }) => ({ id: entry.id, request: $state.snapshot(body) as Schemas['CountRequest'] })),
      newActId(),
    ).catch(async (problem) => {
      if (problem instanceof Problem && problem.status >= 500) await this.brokeOver(ready[0]!.entry, problem);
      throw problem;
    });
    for (const { entry } of ready) {
      const answer = sent.find((s) => s.id === entry.id);
      if (answer?.problem) await this.laysBack(entry, answer.problem);
      else if (answer) await this.forget(entry);
    }
  }

  private async sendStep(entry: Waiting) {
    try {
      await this.doStep(entry, this.patience);
      await this.forget(entry);
    } catch (problem) {
      await this.comesBack(entry, problem);
    }
  }

  private doStep(entry: Pick<Waiting, 'id' | 'step'>, limit: number = limits.scan): Promise<{ sentence: string }> {
    const step = $state.snapshot(entry.step!) as Step;
    switch (step.path) {
      case '/api/{site}/door/count-unit':
        return act(step.path, step.body, entry.id, limit);
      case '/api/{site}/shelf/scan-goods':
        return act(step.path, step.body, entry.id, limit);
      case '/api/{site}/shelf/put-down':
        return act(step.path, step.body, entry.id, limit);
      case '/api/{site}/bench/find':
        return act(step.path, step.body, entry.id, limit);
      case '/api/{site}/bench/gauge':
        return act(step.path, step.body, entry.id, limit);
    }
  }

  /** What the server refuses comes back to the person; where nobody knows what it did, the problem goes on. */
  private async comesBack(entry: Waiting, problem: unknown) {
    if (problem instanceof Problem && problem.status >= 500) await this.brokeOver(entry, problem);
    if (!(problem instanceof Problem) || problem.isOpen || problem.status === 401 || problem.code === 'token-missing')
      throw problem;
    await this.laysBack(entry, problem);
  }

  /** The server broke over one: it is sent again, but does not stand in the way of all others for ever. */
  private async brokeOver(entry: Waiting, problem: Problem) {
    const tries = (entry.tries ?? 0) + 1;
    if (tries < mostTries) await this.put({ ...entry, tries });
    else await this.laysBack({ ...entry, tries }, problem);
  }

  private async laysBack(entry: Waiting, { code, sentence, next }: Refused) {
    const back = { ...entry, back: { code, sentence, next } };
    // A refusal was an answer: what is sent next is read anew.
    delete back.sent;
    await this.put(back);
  }

  /** What is sent: worked out once, and kept before it is sent. */
  private async bodyOf(entry: Waiting, limit: number): Promise<Schemas['CountRequest'] | 'a unit'> {
    if (entry.sent) return $state.snapshot(entry.sent) as Schemas['CountRequest'];
    // Filled in by a person and nothing left to be read: it lies there already.
    if (entry.body && !entry.details?.length) return $state.snapshot(entry.body) as Schemas['CountRequest'];
    const body = entry.body ? await this.whole(entry, limit) : await this.read(entry, limit);
    if (body !== 'a unit') await this.put({ ...entry, sent: body });
    return body;
  }

  /** A count as it was filled in, with what its further labels say of what was left blank. */
  private async whole(entry: Waiting, limit: number): Promise<Schemas['CountRequest']> {
    const body = $state.snapshot(entry.body!) as Schemas['CountRequest'];
    return entry.details?.length ? this.withDetails(entry, body, limit) : body;
  }

  /** What further labels of the same goods say, each read as what the count still lacks. */
  private async withDetails(
    entry: Waiting,
    body: Schemas['CountRequest'],
    limit: number,
  ): Promise<Schemas['CountRequest']> {
    const fields = ['sourceBatch', 'production', 'bestBefore', 'expiry', 'origin', 'serial'] as const;
    for (const text of entry.details ?? []) {
      const wanted = fields.filter((f) => !body[f]).join(',');
      const said = await ask('/api/{site}/scan', { text, arrival: entry.arrival, wanted, of: body.item }, limit);
      if (said.kind !== 'Details')
        throw new Problem('detail-unread', said.words, 'Complete it, or scan it again at the goods.', 422);
      for (const field of fields) body = { ...body, [field]: body[field] ?? said[field] ?? null };
    }
    return body;
  }

  private async read(entry: Waiting, limit: number): Promise<Schemas['CountRequest'] | 'a unit'> {
    const reading = await ask('/api/{site}/scan', { text: entry.text!, arrival: entry.arrival }, limit);
    if (reading.kind === 'AdvisedUnit') {
      const origin = entry.typed?.origin ?? null;
      const body = { arrival: entry.arrival, sscc: reading.sscc!, origin, earlyAllowed: false };
      await this.put({ ...entry, step: { path: '/api/{site}/door/count-unit', body } });
      return 'a unit';
    }
    // Where it names an item, the count itself is judged: one that was taken already, its answer lost, is answered again by its id.
    if (reading.problem && !reading.item) throw problemOf(reading.problem);
    if (reading.kind !== 'Item' || !reading.item)
      throw new Problem('not-an-item', reading.words, 'Scan it again at the goods.', 422);
    if (reading.problem?.code === 'batch-swallows') throw problemOf(reading.problem);
    const pictures: number[] = [];
    for (const { id, name, bytes } of entry.photographs ?? [])
      pictures.push((await attach(entry.arrival, new File([bytes], name), undefined, id)).id);
    const body = { ...countOf(reading, entry.arrival), ...entry.typed };
    return {
      ...(await this.withDetails(entry, body, limit)),
      pictures: pictures.length ? pictures : null,
      scanned: entry.text!,
      units: entry.sscc ? [entry.sscc] : null,
      batch: entry.batch ?? null,
    };
  }

  /**
   * Keeps an arrival on the device: what its codes mean, and how its tally stood when it was last seen; and numbers to
   * give without a network.
   */
  async keepArrival(arrival: string, tally: Schemas['TallyAnswer']) {
    const codes = await ask('/api/{site}/door/codes/{number}', { number: arrival });
    const person = session.state?.personId ?? 0;
    await (
      await database()
    ).put('kept', {
      arrival: `${session.site} ${arrival}`,
      person,
      sawAll: session.may('SettleTally') && !tally.settings?.blind,
      codes,
      tally,
    } satisfies Kept);
    if (session.may('Tally')) await fill(session.site);
    if (codes.some((code) => code.asks.some((field) => ['sourceBatch', 'bestBefore', 'expiry'].includes(field))))
      fetchAhead();
  }

  /**
   * What is kept of an arrival. What its tally showed to who settles tallies is for no other: they may count blind.
   * What a receiver saw, every receiver may see.
   */
  async keptArrival(arrival: string): Promise<(Omit<Kept, 'tally'> & { tally?: Kept['tally'] }) | undefined> {
    const kept = (await (await database()).get('kept', `${session.site} ${arrival}`)) as Kept | undefined;
    if (!kept || kept.person === (session.state?.personId ?? 0)) return kept;
    if (kept.sawAll === false || session.may('SettleTally')) return kept;
    const rest: Omit<Kept, 'tally'> & { tally?: Kept['tally'] } = { ...kept };
    delete rest.tally;
    return rest;
  }
}

export const waiting = new WaitingActs();
