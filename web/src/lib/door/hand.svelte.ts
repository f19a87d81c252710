/**
 * What is in hand at a door, before it is taken: what was scanned and typed so far, what is still asked, and how it is said. It lies on
 * the device's disk, with the number of the scan that was last worked into it: a page that is closed loses nothing of it, and a scan is
 * worked in once. It belongs to who scanned it. It holds no rules; the server judges when it is taken.
 */
import { newActId, type Schemas } from '$lib/api/client';
import { lay, type Laying } from '$lib/device';
import { journal, whoever } from '$lib/journal.svelte';
import { exact, number, plural, readNumber } from '$lib/ui/format';
import type Big from 'big.js';
import { plainCount } from './count';

type Reading = Schemas['Reading'];

/** What of a count in hand is kept on the disk. */
const kept = [
  'reading',
  'pack',
  'packs',
  'batch',
  'sourceBatch',
  'production',
  'bestBefore',
  'expiry',
  'origin',
  'serial',
  'aside',
  'note',
  'vendor',
  'serials',
  'attributes',
  'more',
  'weight',
  'reason',
  'place',
  'onto',
  'pictures',
  'scanned',
  'several',
  'unknown',
  'part',
  'overAllowed',
  'earlyAllowed',
  'blankAllowed',
  'proposed',
  'actId',
  'later',
  'given',
  'offered',
  'instead',
  'repeated',
] as const;
type Held = Record<(typeof kept)[number], unknown>;

/** What a label may say that is its own. */
export const own = ['sourceBatch', 'production', 'bestBefore', 'expiry', 'origin', 'serial'] as const;

export class Hand {
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
  scanned = '';
  /** Further labels of the goods in hand that nobody could read in a dead spot. */
  later = $state<string[]>([]);

  /** Unit and batch number that this device gave the goods before. */
  given: { sscc?: string; batch?: string } = {};

  /** A text that is no code, and the field that it may be meant for: one press fills it. */
  offered = $state<Reading | null>(null);
  /** A label of the same item that says other than what stands filled in. */
  instead = $state<Reading | null>(null);
  /** A label that came twice within a moment: a trembling hand, or two of them. */
  repeated = $state<{ text: string; times: number } | null>(null);
  /** A code that stands for several items: the scan as it was, and the items it may mean. */
  several = $state<{ text: string; items: readonly Schemas['PossibleItem'][] } | null>(null);
  /** A code that means nothing here yet. */
  unknown = $state('');
  part = $state<number | null>(null);
  overAllowed = $state(false);
  earlyAllowed = $state(false);
  blankAllowed = false;
  error = $state<unknown>(null);
  taken = $state<Schemas['CountAnswer'] | null>(null);
  busy = $state(false);
  actId = newActId();
  /** Whose it is. */
  readonly owner = whoever();
  /** Scans up to this one are worked in. */
  protected through = 0;

  /** @param settings How goods are counted here, as far as it is known. */
  constructor(
    readonly arrival: string,
    protected readonly settings: () => Schemas['CountSettings'] | undefined = () => undefined,
  ) {}

  /** Where its scans are kept. */
  get scans(): string {
    return `door ${this.arrival}`;
  }

  /** Takes up what a page that was closed has left in hand. */
  async restore(): Promise<boolean> {
    const hand = await journal.hand<Held>(this.scans, this.owner).catch(() => undefined);
    if (!hand) return false;
    this.through = hand.through;
    if (!hand.held || this.reading) return false;
    for (const name of kept) if (hand.held[name] !== undefined) (this[name] as unknown) = hand.held[name];
    return this.reading !== null;
  }

  /** Writes down what is in hand now, and that a scan is worked into it. */
  protected async write(through = this.through) {
    await lay((tx) => this.writeIn(tx, through)).catch(() => undefined);
  }

  protected writeIn(tx: Laying, through = this.through, isEmpty = !this.holdsSomething) {
    this.through = Math.max(this.through, through);
    const held = Object.fromEntries(kept.map((name) => [name, $state.snapshot(this[name])])) as Held;
    return journal.hold(tx, this.owner, this.scans, this.through, isEmpty ? '' : this.inWords, isEmpty ? null : held);
  }

  /** What is on its way lies among what waits: it is not in hand as well. */
  protected get holdsSomething(): boolean {
    if (this.busy) return false;
    return this.reading !== null || this.unknown !== '' || this.several !== null;
  }

  protected get inWords(): string {
    const item = this.reading?.item;
    return item
      ? `${item.name}, ${this.packs || '?'} ${plural(this.pack, readNumber(this.packs) || 0)}`
      : this.unknown || 'a code of several items';
  }

  /** All of the entry in base units; 0 for a measure in another unit, which the server works out. */
  get content(): Big {
    const of = (pack: string, packs: string) =>
      exact(packs).times(this.reading?.item?.packs.find((p) => p.name === pack)?.content ?? 0);
    return this.more.reduce((sum, m) => sum.plus(of(m.pack, m.packs)), of(this.pack, this.packs));
  }

  /** The batch had swallowed what follows it: all of it stands where it belongs. */
  splitBatch() {
    const instead = this.reading!.instead!;
    this.sourceBatch = instead.sourceBatch ?? this.sourceBatch;
    this.batch = '';
    this.fill(instead);
  }

  /** The count as the server takes it. */
  protected body(): Schemas['CountRequest'] {
    return {
      ...plainCount(this.arrival, this.reading!.item!.code, this.pack, this.packs),
      units: this.given.sscc ? [this.given.sscc] : null,
      batch: this.given.batch || this.batch || null,
      batchProposed: !this.given.batch && this.batch !== '' && this.batch === this.reading?.batch,
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
    this.later = [];
    this.given = {};
    this.offered = null;
    this.instead = null;
    this.repeated = null;
    void this.write();
  }

  /** Something was typed: what was refused before may be right now. */
  changed() {
    this.error = null;
    this.actId = newActId();
    void this.write();
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
  protected accepts(): string[] {
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

  /** A count whose expected words are shown before it is taken. */
  get words(): string {
    if (this.serials) return 'the pieces listed';
    if (this.measured) return this.measured;
    return Number.isFinite(readNumber(this.packs)) ? number(this.content.toNumber()) : '?';
  }

  /** The unit of those words; how many base units another measure is, the server works out exactly. */
  get unit(): string {
    return this.serials || this.measured ? '' : (this.reading?.item?.unit ?? '');
  }

  /** What was measured in another unit of the same kind, as it was typed. */
  protected get measured(): string {
    const entries = [{ pack: this.pack, packs: this.packs }, ...this.more].filter((e) => readNumber(e.packs) > 0);
    const isMeasure = (pack: string) => this.reading?.item?.measures.includes(pack) ?? false;
    const words = entries.map(
      ({ pack, packs }) => `${number(readNumber(packs))} ${isMeasure(pack) ? pack : plural(pack, readNumber(packs))}`,
    );
    return entries.some((e) => isMeasure(e.pack)) ? words.join(' and ') : '';
  }

  /** True while the quantity is what is still open, and nobody has looked. */
  proposed = $state(false);

  protected begin(reading: Reading, text: string) {
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
    this.later = [];
    this.given = {};
    this.actId = newActId();
  }

  /** True when a label says nothing of its own that what is in hand does not say: only then is it one more of it. */
  protected isSame(reading: Reading): boolean {
    const now = this.reading;
    if (!now || now.item?.code !== reading.item?.code || this.pack !== reading.pack) return false;
    if (reading.item?.asks.includes('serial')) return false;
    // A number of a unit is one unit's: neither is what has one more of what has none, nor the other way round.
    if ((reading.sscc ?? '') !== (now.sscc ?? '')) return false;
    return own.every((field) => !reading[field] || reading[field] === this[field]);
  }

  /** Fills in what a label says. */
  protected fill(reading: Reading) {
    for (const field of own) if (reading[field]) this[field] = reading[field];
    if (reading.packs) {
      this.packs = String(reading.packs);
      this.proposed = false;
    }
    this.changed();
  }

  /** Fills in what was kept with a count that came back. */
  protected fillFrom(typed: Partial<Schemas['CountRequest']>) {
    const texts = [
      ...own,
      'pack',
      'packs',
      'batch',
      'aside',
      'note',
      'vendor',
      'serials',
      'weight',
      'reason',
      'place',
      'onto',
    ] as const;
    for (const field of texts) if (typed[field]) (this[field] as string) = String(typed[field]);
    if (typed.attributes) this.attributes = { ...typed.attributes };
    if (typed.more) this.more = [...typed.more];
    if (typed.part) this.part = typed.part;
    this.proposed = false;
  }
}
