/**
 * Scans and presses at a door, worked into the count in hand: a scan of the same thing adds one more, a scan of another thing takes what
 * stands filled in, and what is doubtful is asked before it changes anything.
 */
import { act, ask, limits, newActId, Problem, type Schemas, problemOf } from '$lib/api/client';
import type { Said, Scan } from '$lib/scan.svelte';
import { exact, exactly, number, plural, readNumber } from '$lib/ui/format';
import { isDetail, named, stillAsked } from './codes';
import { Hand, own } from './hand.svelte';
import { waiting, type Waiting } from './waiting.svelte';
import { scanner } from '$lib/scanner.svelte';

type Reading = Schemas['Reading'];

const nothing: Schemas['CountAnswer'] = {
  sentence: '',
  itemName: '',
  quantity: 0,
  unit: '',
  batch: null,
  standing: '',
  place: '',
  reason: '',
  units: [],
  warning: null,
};

export class Draft extends Hand {
  /** The act of the last count that was taken, to take it back. */
  lastAct = $state('');

  /** The scan before, and whether its burst of the same label was asked about. */
  private lastScan = { text: '', at: -Infinity, asked: false };

  /** Takes a scan into the count in hand. */
  async scan(text: string, scan: Scan = { seq: 0, at: Date.now() }, chosen?: string): Promise<Said> {
    const isAtOnce =
      text === this.lastScan.text && scan.at - this.lastScan.at < (this.settings()?.scanner.repeatWithin ?? 0);
    const asks = isAtOnce && !this.lastScan.asked;
    this.lastScan = { text, at: scan.at, asked: isAtOnce };
    try {
      if (this.repeated?.text !== text) this.repeated = null;
      if (!asks) return await this.hear(text, scan, chosen);
      this.repeated = { text, times: (this.repeated?.times ?? 0) + 1 };
      return {
        words: 'The same label twice within a moment: it is counted once.',
        next: 'if there are two of them, press It was two',
        tone: 'look',
      };
    } finally {
      await this.write(scan.seq);
    }
  }

  /** There were two of them: each that was held back is worked in. */
  async itWasTwo(): Promise<Said> {
    const { text, times } = this.repeated!;
    this.repeated = null;
    let heard = await this.hear(text, { seq: 0, at: Date.now() });
    for (let i = 1; i < times; i++) heard = await this.hear(text, { seq: 0, at: Date.now() });
    await this.write();
    return heard;
  }

  private async hear(text: string, scan: Scan, chosen?: string): Promise<Said> {
    const open = this.several;
    this.several = null;
    this.offered = null;
    this.instead = null;
    const item = open?.items.find(({ code }) => code.toUpperCase() === text.trim().toUpperCase());
    if (open && item) return this.hear(open.text, scan, item.code);
    const read = () =>
      ask(
        '/api/{site}/scan',
        {
          text,
          arrival: this.arrival,
          wanted: this.accepts().join(','),
          item: chosen,
          of: this.reading?.item?.code,
          serial: this.serial,
        },
        limits.scan,
      );
    let reading: Reading;
    try {
      if (!waiting.reachable) throw new Problem('no-network', '', '', 0);
      reading = await read();
    } catch (problem) {
      if (!(problem instanceof Problem) || !problem.isOpen) throw problem;
      return this.inDeadSpot(text, scan);
    }
    if (reading.kind === 'AdvisedUnit') {
      if (this.reading) await this.take();
      if (this.error) throw this.error;
      return this.takeUnit(reading.sscc!, scan);
    }
    if (reading.kind === 'Unknown' && reading.offers && this.reading) {
      this.offered = reading;
      return { words: reading.words, next: 'press what it is, or scan on', tone: 'refused' };
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
    if (isRefused(reading, this.reading !== null))
      return { words: reading.problem!.sentence, next: reading.problem!.next, tone: 'refused' };
    if (reading.problem?.code === 'not-on-arrival') {
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
      this.packs = exactly(exact(this.proposed ? 0 : this.packs).plus(reading.proposed ? 1 : (reading.packs ?? 1)));
      this.proposed = false;
      this.changed();
      return {
        words: `One more: ${this.packs} ${plural(this.pack, readNumber(this.packs))}.`,
        next: this.asks() || this.nextOf(reading),
        tone: 'look',
      };
    }
    if (this.error instanceof Problem && this.error.code === 'batch-swallows')
      return { words: this.error.sentence, next: 'say first which of the two it is', tone: 'refused' };
    let before = '';
    if (this.reading) {
      const sameItem = this.reading.item?.code === reading.item?.code;
      await this.take();
      if (this.error) throw this.error;
      // What is still open of the item is less now, and what was taken of its batch is known.
      if (sameItem && waiting.reachable) reading = await read();
      before = `${this.taken?.sentence ?? ''} `;
    }
    this.begin(reading, text);
    if (reading.problem) {
      // A known batch with another date or origin: a question, before it is counted.
      this.error = problemOf(reading.problem);
      return {
        words: `${before}${reading.problem.sentence}`,
        next: 'look at the label again, put it right, or count it aside',
        tone: 'refused',
      };
    }
    return {
      words: `${before}${reading.words}${reading.history?.length ? ` It was here before: ${reading.history[0]}` : ''}`,
      next: this.asks() || this.nextOf(reading),
      tone: before ? 'taken' : 'look',
    };
  }

  /** Without a network: the device says which item it is as far as it knows, and keeps the scan. */
  private async inDeadSpot(text: string, scan: Scan): Promise<Said> {
    waiting.reachable = false;
    const store = await waiting.keptArrival(this.arrival);
    const known = named(store?.codes ?? [], text, scanner.settings);
    // A further label of the same goods stays with them; what it says is read when the network is back.
    if (!known && this.reading && isDetail(text, this.wanted(), scanner.settings)) {
      this.later = [...this.later, text];
      return { words: `${text} is kept with ${this.inWords}.`, next: 'scan on, or take it', tone: 'look' };
    }
    if (this.reading) await this.take();
    if (this.error) throw this.error;
    const last = waiting.onTheirWay.findLast((w) => w.arrival === this.arrival && w.person === this.owner.person);
    const said = [last?.text ?? last?.body?.scanned ?? '', ...(last?.details ?? [])];
    const asks =
      last?.code && said.length < last.code.asks.length + 2 ? stillAsked(last.code.asks, said, scanner.settings) : [];
    if (!known && last?.code && isDetail(text, asks, scanner.settings)) {
      if (await waiting.addDetail(last.seq!, text, (tx) => this.writeIn(tx, scan.seq, true)))
        return { words: `${text} is kept with ${last.words}.`, next: 'scan on', tone: 'taken' };
    }
    const words = known ? `${known.name}, ${known.pack}` : `${text}, not known on this device`;
    const { sscc } = await waiting.keepScan(
      this.arrival,
      text,
      words,
      known,
      (tx) => this.writeIn(tx, scan.seq, true),
      this.owner,
    );
    return {
      words: `${words}. Kept: ${waiting.onTheirWay.length} waiting.${sscc ? ` Unit ${sscc}: its label is in the bar above.` : ''}`,
      next:
        known?.asks?.length || known?.attributes?.length ? 'type what its label does not say, or scan on' : 'scan on',
      tone: known ? 'taken' : 'look',
    };
  }

  /** A text that is no code is what one press says it is. */
  async accept() {
    const offered = this.offered!;
    this.offered = null;
    const heard = await this.details({ ...offered, kind: 'Details' });
    await this.write();
    return heard;
  }

  /** A label that says other than what stands there: it is what is in hand, or goods of their own. */
  async settleInstead(isRight: boolean): Promise<Said> {
    const other = this.instead!;
    this.instead = null;
    const before = this.reading!;
    if (!isRight) {
      await this.take();
      if (this.error) throw this.error;
      this.begin({ ...before, sscc: null, sourceBatch: null, batch: null, packs: 1, proposed: false }, this.scanned);
    }
    this.fill(other);
    await this.write();
    return { words: other.words, next: this.asks() || 'take it', tone: 'look' };
  }

  /** A count that came back is in hand again, with all that was kept with it: to be completed, counted aside or asked about. */
  async takeUp(entry: Waiting): Promise<Said> {
    if (this.reading)
      return { words: 'Something is in hand already.', next: 'take it or leave it first', tone: 'refused' };
    const text = entry.text ?? entry.body!.scanned ?? entry.body!.item;
    const reading = await ask('/api/{site}/scan', { text, arrival: this.arrival, item: entry.body?.item }, limits.scan);
    if (reading.kind === 'Item' && reading.item) {
      this.begin(reading, text);
      for (const detail of entry.details ?? []) {
        const said = await ask(
          '/api/{site}/scan',
          { text: detail, arrival: this.arrival, wanted: this.accepts().join(','), of: reading.item.code },
          limits.scan,
        );
        if (said.kind === 'Details') this.fill(said);
        else if (said.offers) this.offered = said;
      }
      if (entry.body) this.fillFrom(entry.body);
      if (entry.typed) this.fillFrom(entry.typed);
      this.error = problemOf(entry.back!);
    } else this.unknown = reading.code || text;
    this.actId = entry.id;
    this.given = { ...(entry.sscc ? { sscc: entry.sscc } : {}), ...(entry.batch ? { batch: entry.batch } : {}) };
    await waiting.forget(entry, (tx) => this.writeIn(tx));
    return { words: `${entry.words} is in hand again.`, next: 'put it right, then take it', tone: 'look' };
  }

  /** Takes in a whole unit that the vendor announced. */
  async takeUnit(sscc: string, scan: Scan = { seq: 0, at: 0 }): Promise<Said> {
    const entry = await waiting.keep(
      {
        id: newActId(),
        arrival: this.arrival,
        words: `Unit ${sscc}`,
        step: {
          path: '/api/{site}/door/count-unit',
          body: { arrival: this.arrival, sscc, origin: this.origin || null, earlyAllowed: false },
        },
      },
      (tx) => this.writeIn(tx, scan.seq, true),
      this.owner,
    );
    const taken = await waiting.sendNow<Schemas['DoneAnswer']>(entry);
    return taken === 'waits'
      ? { words: `${entry.words}. Kept on this device, waiting to be sent.`, next: 'scan on', tone: 'taken' }
      : { words: taken.sentence, next: 'scan the next unit', tone: 'taken' };
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
      packs: exactly(this.content),
      reason: this.note,
    });
    this.clear();
    return { words: refused.sentence, next: 'scan the next label', tone: 'taken' };
  }

  /** The taking that goes on just now. */
  private taking: Promise<void> | undefined;

  /** Takes the count. Pressed twice, it counts once; a scan that comes meanwhile waits until it is answered. */
  take(): Promise<void> {
    this.taking ??= this.takeOnce().finally(() => (this.taking = undefined));
    return this.taking;
  }

  private async takeOnce(): Promise<void> {
    if (!this.reading?.item) return;
    this.busy = true;
    this.error = null;
    try {
      const entry = await waiting.keep(
        {
          id: this.actId,
          arrival: this.arrival,
          body: this.body(),
          words: this.inWords,
          ...(this.later.length ? { details: this.later } : {}),
          ...this.given,
        },
        (tx) => this.writeIn(tx, this.through, true),
        this.owner,
      );
      // A refusal was an answer: what is put right then is another act.
      const refusedId = newActId();
      const answer = await waiting.sendNow(entry, (tx) => {
        this.actId = refusedId;
        return this.writeIn(tx, this.through, false);
      });
      this.taken =
        answer === 'waits'
          ? { ...nothing, sentence: `${entry.words}. Kept on this device, waiting to be sent.` }
          : answer;
      this.lastAct = entry.id;
      this.busy = false;
      // Whether a label was scanned once or twice is asked on, until another is scanned.
      const { repeated } = this;
      this.clear();
      this.repeated = repeated;
    } catch (problem) {
      this.error = problem;
      // Asked once for what is recommended; taking it again leaves it blank.
      this.blankAllowed = problem instanceof Problem && problem.code === 'recommended';
    } finally {
      this.busy = false;
    }
  }

  private nextOf(reading: Reading): string {
    if (reading.proposed) return 'look whether that is what stands there, then take it';
    return reading.item?.asks.includes('serial')
      ? 'scan the next piece, or take it'
      : 'scan again for one more, or take it';
  }

  private async details(reading: Reading): Promise<Said> {
    if (!this.reading) return { words: reading.words, next: 'scan the item first', tone: 'refused' };
    if (reading.serial && this.serial && this.serial !== reading.serial) return this.nextPiece(reading.serial);
    if (own.some((field) => reading[field] && this[field] && reading[field] !== this[field])) {
      this.instead = reading;
      return {
        words: `${reading.words} Something else stands there already.`,
        next: 'say whether it is the goods in hand or others',
        tone: 'refused',
      };
    }
    this.fill(reading);
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

/**
 * True for what is said and not taken in hand: a batch that contradicts itself is, as a question; goods on no order
 * are, unless something is.
 */
const isRefused = (reading: Reading, handIsFull: boolean): boolean =>
  !!reading.problem &&
  !reading.problem.code.startsWith('batch-') &&
  (handIsFull || reading.problem.code !== 'not-on-arrival');
