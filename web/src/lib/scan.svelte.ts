/**
 * The scan line. Whatever is scanned or typed anywhere goes to the page that stands in the room; the page says in words
 * what it understood and what comes next. Scans are handled one after another: none is dropped or mixed up.
 */
import { goto } from '$app/navigation';
import { ask, limits, Problem } from './api/client';
import type { Schemas } from './api/client';
import { journal } from './journal.svelte';

type Reading = Schemas['Reading'];

export type Said = { read?: string; words: string; next?: string; tone?: 'taken' | 'look' | 'refused' };
/** A scan: its place in the order of scanning, 0 where it is not kept, and when it came, in milliseconds. */
export type Scan = { seq: number; at: number };
export type ScanHandler = (text: string, scan: Scan) => Promise<Said>;

/** What stands over the page and keeps it from being used. */
const openDialog = '[role="dialog"][data-state="open"]';

class ScanLine {
  text = $state('');
  said = $state<Said>({ words: '' });
  /** A badge that was scanned and waits for its PIN. */
  badge = $state('');
  waiting = $state(0);
  field: HTMLInputElement | undefined;
  private handler: ScanHandler | undefined;
  /** Where its scans are kept until they are handled; none where a scan only looks something up. */
  private place: string | undefined;
  private dialogs: ScanHandler[] = [];
  private queue: Promise<void> = Promise.resolve();

  /**
   * The page that takes scans from now on, and what a page before it has left of them; gives back how to stop.
   * @param restore Takes up what the scans before led to: after all of them, and before the next.
   */
  use(handler: ScanHandler, place?: string, restore: () => Promise<void> = async () => {}): () => void {
    this.handler = handler;
    this.place = place;
    if (place) this.queue = this.queue.then(restore).then(() => this.takeUp(handler, place));
    return () => {
      if (this.handler === handler) {
        this.handler = undefined;
        this.place = undefined;
      }
    };
  }

  /** The dialog that takes scans while it is open: none of them reaches the page, and none presses a button. */
  useDialog(handler: ScanHandler): () => void {
    this.dialogs.push(handler);
    return () => (this.dialogs = this.dialogs.filter((d) => d !== handler));
  }

  /** Takes one scan into the line: laid down first, then handled when those before it are. */
  scan(text: string): Promise<void> {
    this.waiting++;
    const { handler, place } = this;
    const at = new Date();
    const isBadge = badgeIn(text) !== undefined;
    const over = this.dialogs.at(-1) ?? (document.querySelector(openDialog) ? shut : undefined);
    const noted = place && handler && !isBadge && !over ? journal.note(place, text, at) : Promise.resolve(0);
    this.queue = this.queue
      .then(async () => this.handle(text, { seq: await noted, at: at.getTime() }, over ?? handler ?? look))
      .finally(() => this.waiting--);
    return this.queue;
  }

  /** What a closed page has left unread is handled before anything new is. */
  private async takeUp(handler: ScanHandler, place: string) {
    const left = await journal.left(place).catch(() => []);
    for (const { seq, text, at } of left) await this.handle(text, { seq: seq!, at: Date.parse(at) }, handler);
    await journal.load().catch(() => undefined);
  }

  /** What was done on the page without a scan, said where scans are answered. */
  say(said: Said) {
    this.said = said;
    cue(said.tone);
  }

  private async handle(text: string, scan: Scan, handler: ScanHandler) {
    const badge = badgeIn(text);
    if (badge !== undefined) {
      this.badge = badge;
      this.said = { read: text, words: 'A badge.', next: 'type its PIN', tone: 'look' };
      cue('look');
      return;
    }
    try {
      this.said = { read: text, ...(await handler(text, scan)) };
    } catch (error) {
      this.said =
        error instanceof Problem
          ? { read: text, words: error.sentence, next: error.next, tone: 'refused' }
          : { read: text, words: 'Something broke on this page.', next: 'Load it again.', tone: 'refused' };
    }
    if (scan.seq) await journal.done(scan.seq).catch(() => undefined);
    cue(this.said.tone);
  }
}

/** The badge in a scan: a scanner may type a sign before each code; a badge is known by its own beginning. */
function badgeIn(text: string): string | undefined {
  const at = text.toUpperCase().indexOf('BADGE-');
  return at >= 0 && at <= 8 ? text.slice(at) : undefined;
}

/** Something stands over the page that wants no scan. */
async function shut(): Promise<Said> {
  return { words: 'Not taken: something else is open.', next: 'close it, then scan again', tone: 'refused' };
}

/** Where no page takes scans: say what it is, and show the page it has. */
async function look(text: string): Promise<Said> {
  const reading = await ask('/api/{site}/scan', { text }, limits.scan);
  const page = pageOf(reading);
  if (page) await goto(page);
  return { words: reading.words, next: reading.problem?.next, tone: reading.problem ? 'refused' : 'look' };
}

/** The page of what was read: an arrival or an order on the road, goods and places in the book. */
export function pageOf(reading: Pick<Reading, 'kind' | 'code' | 'arrival' | 'order' | 'problem'>): string | undefined {
  if (reading.problem) return undefined;
  if (reading.arrival) return `/road/arrivals/${reading.arrival}`;
  if (reading.order) return `/road/orders/${encodeURIComponent(reading.order)}`;
  if (['Item', 'Batch', 'Serial', 'Unit', 'Bin'].includes(reading.kind))
    return `/book?text=${encodeURIComponent(reading.code)}`;
  return undefined;
}

let sounds: AudioContext | undefined;

/** Three cues: taken, look, refused. They can be turned off. */
function cue(tone: Said['tone']) {
  if (!tone || localStorage.getItem('cues') === 'off') return;
  navigator.vibrate?.(tone === 'taken' ? 40 : tone === 'look' ? [30, 60, 30] : [160, 60, 160]);
  try {
    sounds ??= new AudioContext();
    if (sounds.state !== 'running') return;
    const tones = { taken: [880, 0.08], look: [620, 0.12], refused: [220, 0.28] }[tone] as [number, number];
    const oscillator = sounds.createOscillator();
    const volume = sounds.createGain();
    volume.gain.value = 0.08;
    oscillator.frequency.value = tones[0];
    oscillator.connect(volume).connect(sounds.destination);
    oscillator.start();
    oscillator.stop(sounds.currentTime + tones[1]);
  } catch {
    // A device without sound still shows the words.
  }
}

/** FNC1 shown as a sign, so that what was read can be read. */
export const shown = (text: string) => text.replaceAll('\u001d', '␝');

export const scanLine = new ScanLine();
