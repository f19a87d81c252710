/**
 * The scan line. Whatever is scanned or typed anywhere goes to the page that stands in the room; the page says in words
 * what it understood and what comes next. Scans are handled one after another: none is dropped or mixed up.
 */
import { goto } from '$app/navigation';
import { ask, Problem } from './api/client';
import type { Schemas } from './api/client';

type Reading = Schemas['Reading'];

export type Said = { read?: string; words: string; next?: string; tone?: 'taken' | 'look' | 'refused' };
export type ScanHandler = (text: string) => Promise<Said>;

class ScanLine {
  text = $state('');
  said = $state<Said>({ words: '' });
  /** A badge that was scanned and waits for its PIN. */
  badge = $state('');
  waiting = $state(0);
  field: HTMLInputElement | undefined;
  private handler: ScanHandler | undefined;
  private queue: Promise<void> = Promise.resolve();

  /** The page that takes scans from now on; gives back how to stop. */
  use(handler: ScanHandler): () => void {
    this.handler = handler;
    return () => {
      if (this.handler === handler) this.handler = undefined;
    };
  }

  /** Takes one scan into the line. */
  scan(text: string): Promise<void> {
    this.waiting++;
    this.queue = this.queue.then(() => this.handle(text)).finally(() => this.waiting--);
    return this.queue;
  }

  /** What was done on the page without a scan, said where scans are answered. */
  say(said: Said) {
    this.said = said;
    cue(said.tone);
  }

  private async handle(text: string) {
    // A scanner may type a sign before each code; a badge is known by its own beginning.
    const badge = text.toUpperCase().indexOf('BADGE-');
    if (badge >= 0 && badge <= 8) {
      this.badge = text.slice(badge);
      this.said = { read: text, words: 'A badge.', next: 'type its PIN', tone: 'look' };
      cue('look');
      return;
    }
    try {
      this.said = { read: text, ...(await (this.handler ?? look)(text)) };
    } catch (error) {
      this.said =
        error instanceof Problem
          ? { read: text, words: error.sentence, next: error.next, tone: 'refused' }
          : { read: text, words: 'Something broke on this page.', next: 'Load it again.', tone: 'refused' };
    }
    cue(this.said.tone);
  }
}

/** Where no page takes scans: say what it is, and show the page it has. */
async function look(text: string): Promise<Said> {
  const reading = await ask('/api/{site}/scan', { text });
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
