/**
 * The count in hand at a door, before it is taken: what was scanned and typed so far. It holds no rules; the server judges
 * when it is taken. A scan of the same thing adds one more, a scan of another thing takes what stands filled in.
 */
import { act, ask, newActId, Problem, type Schemas } from '$lib/api/client';
import type { Said } from '$lib/scan.svelte';
import { number, plural } from '$lib/ui/format';
import { named } from './codes';
import { waiting } from './waiting.svelte';

type Reading = Schemas['Reading'];

const nothing: Schemas['CountAnswer'] = {
  sentence: '',
  itemName: '',
  quantity: 0,
  unit: '',
  batch: null,
  standing: 'Usable',
  place: '',
  reason: '',
  units: [],
};

export class Draft {
  reading = $state<Reading | null>(null);
  pack = $state('');
  packs = $state('1');
  batch = $state('');
  sourceBatch = $state('');
  production = $state('');
  bestBefore = $state('');
  expiry = $state('');
  origin = $state('');
  serial = $state('');
  aside = $state<Schemas['Aside'] | ''>('');
  note = $state('');
  /** Of goods that are on no order. */
  vendor = $state('');
  /** Several serial numbers, or a range. */
  serials = $state('');
  attributes = $state<Record<string, string>>({});
  /** A code that means nothing here yet. */
  unknown = $state('');
  part = $state<number | null>(null);
  overAllowed = $state(false);
  earlyAllowed = $state(false);
  private blankAllowed = false;
  error = $state<unknown>(null);
  taken = $state<Schemas['CountAnswer'] | null>(null);
  busy = $state(false);
  private actId = newActId();

  constructor(readonly arrival: string) {}

  get content(): number {
    const pack = this.reading?.item?.packs.find((p) => p.name === this.pack);
    return pack ? Number(this.packs) * pack.content : NaN;
  }

  /** Takes a scan into the count in hand. */
  async scan(text: string): Promise<Said> {
    let reading: Reading;
    try {
      if (!waiting.reachable) throw new Problem('no-network', '', '', 0);
      reading = await ask('/api/{site}/scan', { text, arrival: this.arrival });
    } catch (problem) {
      if (!(problem instanceof Problem) || problem.status !== 0) throw problem;
      return this.inDeadSpot(text);
    }
    if (reading.kind === 'AdvisedUnit') {
      if (this.reading) await this.take();
      if (this.error) throw this.error;
      return this.takeUnit(reading.sscc!);
    }
    if (reading.kind === 'Unknown') this.unknown = text;
    if (reading.problem && reading.kind !== 'Item')
      return { words: reading.words, next: reading.problem.next, tone: 'refused' };
    if (reading.kind === 'Details') return this.details(reading);
    if (reading.kind !== 'Item') return { words: reading.words, tone: 'look' };
    if (reading.several?.length)
      return { words: reading.words, next: 'scan or type one of the item codes', tone: 'look' };
    if (reading.problem && this.reading)
      return { words: reading.problem.sentence, next: reading.problem.next, tone: 'refused' };
    if (reading.problem) {
      // On no order here: it is shown, and can be counted aside for its vendor.
      this.begin(reading);
      this.aside = 'NotOnOrder';
      return { words: reading.problem.sentence, next: 'count it aside, or leave it', tone: 'refused' };
    }
    if (this.isSame(reading)) {
      this.packs = String(Number(this.packs) + (reading.packs ?? 1));
      this.changed();
      return {
        words: `One more: ${this.packs} ${plural(this.pack, Number(this.packs))}.`,
        next: 'scan again for one more, or take it',
        tone: 'look',
      };
    }
    let before = '';
    if (this.reading) {
      await this.take();
      if (this.error) throw this.error;
      before = `${this.taken?.sentence ?? ''} `;
    }
    this.begin(reading);
    return {
      words: before + reading.words,
      next: this.asks() || 'scan again for one more, or take it',
      tone: before ? 'taken' : 'look',
    };
  }

  /** Without a network: the device says which item it is as far as it knows, and keeps the scan. */
  private async inDeadSpot(text: string): Promise<Said> {
    waiting.reachable = false;
    if (this.reading) await this.take();
    const known = named((await waiting.keptArrival(this.arrival))?.codes ?? [], text);
    const words = known ? `${known.name}, ${known.pack}` : `${text}, not known on this device`;
    await waiting.keepScan(this.arrival, text, words);
    return {
      words: `${words}. Kept: ${waiting.onTheirWay.length} waiting.`,
      next: 'scan on',
      tone: known ? 'taken' : 'look',
    };
  }

  /** Takes in a whole unit that the vendor announced. */
  async takeUnit(sscc: string): Promise<Said> {
    const taken = await act('/api/{site}/door/count-unit', {
      arrival: this.arrival,
      sscc,
      origin: this.origin || null,
      earlyAllowed: false,
    });
    return { words: taken.sentence, next: 'scan the next unit', tone: 'taken' };
  }

  /** Puts what is over aside as a question; the count completes itself when a supervisor says yes. */
  async askOver(): Promise<Said> {
    const asked = await act('/api/{site}/door/ask', {
      arrival: this.arrival,
      kind: 'Over',
      code: null,
      packs: null,
      note: this.note || null,
      count: this.body(),
    });
    this.clear();
    return { words: asked.sentence, next: 'count on', tone: 'look' };
  }

  /** Takes the count. Pressed twice, it counts once: the act keeps its id until it is answered. */
  async take(): Promise<void> {
    if (!this.reading?.item || this.busy) return;
    this.busy = true;
    this.error = null;
    try {
      const entry = await waiting.keep({
        id: this.actId,
        arrival: this.arrival,
        body: this.body(),
        words: `${this.reading.item.name}, ${this.packs} ${plural(this.pack, Number(this.packs))}`,
      });
      const answer = await waiting.sendNow(entry);
      this.taken =
        answer === 'waits'
          ? { ...nothing, sentence: `${entry.words}. Kept on this device, waiting to be sent.` }
          : answer;
      this.clear();
    } catch (problem) {
      this.error = problem;
      this.actId = newActId();
      // Asked once for what is recommended; taking it again leaves it blank.
      this.blankAllowed = problem instanceof Problem && problem.code === 'recommended';
    } finally {
      this.busy = false;
    }
  }

  /** The count as the server takes it. */
  private body(): Schemas['CountRequest'] {
    return {
      arrival: this.arrival,
      item: this.reading!.item!.code,
      pack: this.pack,
      packs: this.packs,
      batch: this.batch || null,
      sourceBatch: this.sourceBatch || null,
      production: this.production || null,
      bestBefore: this.bestBefore || null,
      expiry: this.expiry || null,
      origin: this.origin || null,
      serial: this.serials ? null : this.serial || null,
      aside: this.aside || null,
      note: this.note || null,
      part: this.part,
      overAllowed: this.overAllowed,
      earlyAllowed: this.earlyAllowed,
      vendor: this.vendor || null,
      serials: this.serials || null,
      attributes: Object.fromEntries(Object.entries(this.attributes).filter(([, value]) => value.trim())),
      blankAllowed: this.blankAllowed,
    };
  }

  clear() {
    this.reading = null;
    this.error = null;
    this.actId = newActId();
  }

  /** Something was typed: what was refused before may be right now. */
  changed() {
    this.error = null;
    this.actId = newActId();
  }

  /** What the item still asks for, as what to do next. */
  asks(): string {
    const item = this.reading?.item;
    if (!item) return '';
    if (item.needsSourceBatch && !this.sourceBatch) return 'the source batch of this item';
    if (item.needsDates && !this.bestBefore && !this.expiry && !this.production) return 'the dates of this batch';
    if (item.needsOrigin && !this.origin) return 'the country of origin';
    if (item.needsSerial && !this.serial && !this.serials) return 'the serial number';
    return '';
  }

  /** A count whose expected words are shown before it is taken. */
  get words(): string {
    const quantity = this.content;
    return Number.isFinite(quantity) ? number(quantity) : this.packs;
  }

  private begin(reading: Reading) {
    this.reading = reading;
    this.pack = reading.pack ?? '';
    this.packs = String(reading.packs ?? 1);
    this.batch = reading.batch ?? '';
    this.sourceBatch = reading.sourceBatch ?? '';
    this.production = reading.production ?? '';
    this.bestBefore = reading.bestBefore ?? '';
    this.expiry = reading.expiry ?? '';
    this.origin = reading.origin ?? '';
    this.serial = reading.serial ?? '';
    this.serials = '';
    this.vendor = '';
    this.attributes = {};
    this.unknown = '';
    this.blankAllowed = false;
    this.aside = '';
    this.note = '';
    this.part = null;
    this.overAllowed = false;
    this.earlyAllowed = false;
    this.error = null;
    this.taken = null;
    this.actId = newActId();
  }

  private isSame(reading: Reading): boolean {
    const now = this.reading;
    if (!now || now.item?.code !== reading.item?.code || this.pack !== reading.pack) return false;
    if (reading.item?.needsSerial) return false;
    return !reading.sourceBatch || reading.sourceBatch === this.sourceBatch;
  }

  private details(reading: Reading): Said {
    if (!this.reading) return { words: reading.words, next: 'scan the item first', tone: 'refused' };
    if (reading.sourceBatch) this.sourceBatch = reading.sourceBatch;
    if (reading.production) this.production = reading.production;
    if (reading.bestBefore) this.bestBefore = reading.bestBefore;
    if (reading.expiry) this.expiry = reading.expiry;
    if (reading.origin) this.origin = reading.origin;
    if (reading.serial) this.serial = reading.serial;
    if (reading.packs) this.packs = String(reading.packs);
    this.changed();
    return { words: reading.words, next: this.asks() || 'take it', tone: 'look' };
  }
}
