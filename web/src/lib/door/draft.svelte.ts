/**
 * The count in hand at a door, before it is taken: what was scanned and typed so far. It holds no rules; the server judges
 * when it is taken. A scan of the same thing adds one more, a scan of another thing takes what stands filled in.
 */
import { act, ask, newActId, Problem, type Schemas } from '$lib/api/client';
import type { Said } from '$lib/scan.svelte';
import { number, plural } from '$lib/ui/format';
import { named } from './codes';
import { plainCount } from './count';
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
  warning: null,
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
  /** Further pack levels of the same goods. */
  more = $state<Schemas['PackCount'][]>([]);
  weight = $state('');
  /** By the administrator's list, where the goods are counted aside. */
  reason = $state('');
  place = $state('');
  /** A unit of ours that they are put on. */
  onto = $state('');
  pictures = $state<Schemas['AttachmentView'][]>([]);
  /** The barcode that named the item, as the scanner sent it. */
  private scanned = '';
  /** A code that stands for several items: the scan as it was, and the items it may mean. */
  several = $state<{ text: string; items: readonly Schemas['PossibleItem'][] } | null>(null);
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
  /** The act of the last count that was taken, to take it back. */
  lastAct = $state('');

  constructor(readonly arrival: string) {}

  get content(): number {
    const of = (pack: string, packs: string) => {
      const level = this.reading?.item?.packs.find((p) => p.name === pack);
      return level ? Number(packs) * level.content : NaN;
    };
    return this.more.reduce((sum, m) => sum + of(m.pack, m.packs || '0'), of(this.pack, this.packs));
  }

  /** Takes a scan into the count in hand. */
  async scan(text: string, chosen?: string): Promise<Said> {
    const open = this.several;
    this.several = null;
    const item = open?.items.find(({ code }) => code.toUpperCase() === text.trim().toUpperCase());
    if (open && item) return this.scan(open.text, item.code);
    const read = () =>
      ask('/api/{site}/scan', { text, arrival: this.arrival, wanted: this.accepts().join(','), item: chosen });
    let reading: Reading;
    try {
      if (!waiting.reachable) throw new Problem('no-network', '', '', 0);
      reading = await read();
    } catch (problem) {
      if (!(problem instanceof Problem) || problem.status !== 0) throw problem;
      return this.inDeadSpot(text);
    }
    if (reading.kind === 'AdvisedUnit') {
      if (this.reading) await this.take();
      if (this.error) throw this.error;
      return this.takeUnit(reading.sscc!);
    }
    if (reading.kind === 'Unknown') {
      this.unknown = reading.code;
      return { words: reading.words, next: 'put it aside as a question, refuse it, or leave it', tone: 'refused' };
    }
    if (reading.kind === 'Unit' && this.reading && !reading.problem) {
      this.onto = reading.sscc!;
      this.changed();
      return { words: `${reading.words} These goods go on it too.`, next: 'take it', tone: 'look' };
    }
    if (reading.problem && reading.kind !== 'Item')
      return { words: reading.words, next: reading.problem.next, tone: 'refused' };
    if (reading.kind === 'Details') return await this.details(reading);
    if (reading.kind !== 'Item') return { words: reading.words, tone: 'look' };
    if (reading.several?.length) {
      this.several = { text, items: reading.several };
      return { words: reading.words, next: 'choose the item, or scan its code', tone: 'look' };
    }
    if (reading.problem && (this.reading || reading.problem.code !== 'not-on-arrival'))
      return { words: reading.problem.sentence, next: reading.problem.next, tone: 'refused' };
    if (reading.problem) {
      // On no order here: it is shown, and can be counted aside for its vendor.
      this.begin(reading, text);
      this.aside = 'NotOnOrder';
      return { words: reading.problem.sentence, next: 'count it aside, or leave it', tone: 'refused' };
    }
    if (this.isSame(reading) && reading.sscc && reading.sscc === this.reading?.sscc)
      return { words: 'The same unit again: it is in hand already.', next: 'take it', tone: 'look' };
    if (reading.serial && reading.serial === this.serial && reading.item?.code === this.reading?.item?.code)
      return { words: 'The same piece again: it is in hand already.', next: this.nextOf(reading), tone: 'look' };
    if (this.isSame(reading)) {
      this.packs = String(
        (this.proposed ? 0 : Number(this.packs) || 0) + (reading.proposed ? 1 : (reading.packs ?? 1)),
      );
      this.proposed = false;
      this.changed();
      return {
        words: `One more: ${this.packs} ${plural(this.pack, Number(this.packs))}.`,
        next: this.asks() || this.nextOf(reading),
        tone: 'look',
      };
    }
    let before = '';
    if (this.reading) {
      const sameItem = this.reading.item?.code === reading.item?.code;
      await this.take();
      if (this.error) throw this.error;
      // What is still open of the item is less now.
      if (sameItem && waiting.reachable) reading = await read();
      before = `${this.taken?.sentence ?? ''} `;
    }
    this.begin(reading, text);
    return {
      words: `${before}${reading.words}${reading.history?.length ? ` It was here before: ${reading.history[0]}` : ''}`,
      next: this.asks() || this.nextOf(reading),
      tone: before ? 'taken' : 'look',
    };
  }

  /** Without a network: the device says which item it is as far as it knows, and keeps the scan. */
  private async inDeadSpot(text: string): Promise<Said> {
    waiting.reachable = false;
    if (this.reading) await this.take();
    const kept = await waiting.keptArrival(this.arrival);
    const known = named(kept?.codes ?? [], text, kept?.tally.settings.scanner);
    const words = known ? `${known.name}, ${known.pack}` : `${text}, not known on this device`;
    const { sscc } = await waiting.keepScan(this.arrival, text, words, known);
    return {
      words: `${words}. Kept: ${waiting.onTheirWay.length} waiting.${sscc ? ` Unit ${sscc}: its label is in the bar above.` : ''}`,
      next:
        known?.asks?.length || known?.attributes?.length ? 'type what its label does not say, or scan on' : 'scan on',
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

  /** The goods in hand are not let in: nothing is counted, the difference is kept with its reason. */
  async refuse(): Promise<Said> {
    const refused = await act('/api/{site}/door/refuse', {
      arrival: this.arrival,
      item: this.reading!.item!.code,
      packs: String(this.content),
      reason: this.note,
    });
    this.clear();
    return { words: refused.sentence, next: 'scan the next label', tone: 'taken' };
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
      this.lastAct = entry.id;
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
      ...plainCount(this.arrival, this.reading!.item!.code, this.pack, this.packs),
      batch: this.batch || null,
      sourceBatch: this.sourceBatch || null,
      production: this.production || null,
      bestBefore: this.bestBefore || null,
      expiry: this.expiry || null,
      origin: this.origin || null,
      more: this.more.length ? this.more : null,
      weight: this.weight || null,
      reason: this.reason || null,
      place: this.place || null,
      onto: this.onto || null,
      pictures: this.pictures.length ? this.pictures.map((p) => p.id) : null,
      scanned: this.scanned || null,
      sscc: this.onto ? null : (this.reading!.sscc ?? null),
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

  /** Fields of this item that are blank, in the order in which they are asked: what is scanned next fills the first it fits. */
  wanted(): string[] {
    const item = this.reading?.item;
    if (!item) return [];
    const filled: Record<string, string> = {
      sourceBatch: this.sourceBatch,
      production: this.production,
      bestBefore: this.bestBefore,
      expiry: this.expiry,
      origin: this.origin,
      serial: this.serial + this.serials,
      weight: this.weight,
    };
    return item.asks.filter((field) => !filled[field]);
  }

  /** What a plain scan may fill: what is blank, and the next serial number after one that stands there. */
  private accepts(): string[] {
    const wanted = this.wanted();
    return this.reading?.item?.asks.includes('serial') && !wanted.includes('serial') ? [...wanted, 'serial'] : wanted;
  }

  /** What the item still asks for, as what to do next. */
  asks(): string {
    const words: Record<string, string> = {
      sourceBatch: 'the source batch of this item',
      production: 'the dates of this batch',
      origin: 'the country of origin',
      serial: 'the serial number',
      weight: 'the weight',
    };
    if (!this.packs) return 'how many there are';
    const dated = !!(this.production || this.bestBefore || this.expiry);
    return words[this.wanted().find((field) => words[field] && !(field === 'production' && dated)) ?? ''] ?? '';
  }

  private nextOf(reading: Reading): string {
    if (reading.proposed) return 'look whether that is what stands there, then take it';
    return reading.item?.asks.includes('serial')
      ? 'scan the next piece, or take it'
      : 'scan again for one more, or take it';
  }

  /** A count whose expected words are shown before it is taken. */
  get words(): string {
    if (this.serials) return 'the pieces listed';
    if (this.measured) return this.measured;
    const quantity = this.content;
    return Number.isFinite(quantity) ? number(quantity) : '?';
  }

  /** The unit of those words; how many base units another measure is, the server works out exactly. */
  get unit(): string {
    return this.serials || this.measured ? '' : (this.reading?.item?.unit ?? '');
  }

  /** What was measured in another unit of the same kind, as it was typed. */
  private get measured(): string {
    const entries = [{ pack: this.pack, packs: this.packs }, ...this.more].filter((e) => Number(e.packs) > 0);
    const isMeasure = (pack: string) => this.reading?.item?.measures.includes(pack) ?? false;
    const words = entries.map(
      ({ pack, packs }) => `${number(Number(packs))} ${isMeasure(pack) ? pack : plural(pack, Number(packs))}`,
    );
    return entries.some((e) => isMeasure(e.pack)) ? words.join(' and ') : '';
  }

  /** True while the quantity is what is still open, and nobody has looked. */
  proposed = $state(false);

  private begin(reading: Reading, text: string) {
    this.reading = reading;
    this.scanned = text;
    this.pack = reading.pack ?? '';
    this.packs = reading.packs === null || reading.packs === undefined ? '' : String(reading.packs);
    this.proposed = reading.proposed ?? false;
    this.more = [];
    this.weight = '';
    this.reason = '';
    this.place = '';
    this.onto = '';
    this.pictures = [];
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
    if (reading.item?.asks.includes('serial')) return false;
    return !reading.sourceBatch || reading.sourceBatch === this.sourceBatch;
  }

  private async details(reading: Reading): Promise<Said> {
    if (!this.reading) return { words: reading.words, next: 'scan the item first', tone: 'refused' };
    if (reading.serial && this.serial && this.serial !== reading.serial) return this.nextPiece(reading.serial);
    if (reading.sourceBatch) this.sourceBatch = reading.sourceBatch;
    if (reading.production) this.production = reading.production;
    if (reading.bestBefore) this.bestBefore = reading.bestBefore;
    if (reading.expiry) this.expiry = reading.expiry;
    if (reading.origin) this.origin = reading.origin;
    if (reading.serial) this.serial = reading.serial;
    if (reading.packs) {
      this.packs = String(reading.packs);
      this.proposed = false;
    }
    this.changed();
    return { words: reading.words, next: this.asks() || 'take it', tone: 'look' };
  }

  /** One serial number after another: the piece in hand is taken, and the next of the same item stands there, one fewer to come. */
  private async nextPiece(serial: string): Promise<Said> {
    const before = this.reading!;
    await this.take();
    if (this.error) throw this.error;
    const left = before.line ? before.line.open - 1 : null;
    const words = `${this.taken?.sentence ?? ''} Serial ${serial}.`;
    this.begin(
      { ...before, line: before.line ? { ...before.line, open: left! } : null, serial, packs: 1 },
      this.scanned,
    );
    return {
      words,
      next: left !== null && left > 1 ? `scan the next serial number, ${number(left - 1)} more after this` : 'take it',
      tone: 'taken',
    };
  }
}
