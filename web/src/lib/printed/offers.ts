/** What the printed text of a label offers: dates and batch numbers, each for the field that wants it. Nothing here takes anything. */
import { datesIn } from './dates';

export interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}
/** A word as the reader of print gives it; its confidence from 0 to 100. */
export interface Word {
  text: string;
  confidence: number;
  box: Box;
}
export type Line = readonly Word[];
export type Field = 'sourceBatch' | 'production' | 'bestBefore' | 'expiry';

/** A value for a field, with what was read for it and where it stands in the picture. */
export interface Offer {
  field: Field;
  value: string;
  read: string;
  confidence: number;
  box: Box;
  /** How far the picture was turned to be read, in radians; the box is in the turned one. */
  turn?: number;
}

/** What is wanted, and what is known before. */
export interface Wanted {
  /** Fields that the item asks for. */
  asks: readonly string[];
  /** Source batches of the item or its vendors that came before: a number that looks like them is one without a word beside it. */
  batchesBefore?: readonly string[];
  /** True where dates with strokes have the month in front. */
  monthFirst?: boolean;
  /** The date at the site, ISO. */
  today: string;
}

/** Below this the reader itself doubts what it read. */
const leastConfidence = 40;
/** A date must be one of the calendar besides, so that less is enough where two readings agree. */
const leastForDates = 20;

/** Words that stand before a value, as labels of several countries have them; the longest that fits rules. */
const words: Record<Field, string[]> = {
  sourceBatch: [
    'BATCH NUMBER|BATCH NO|BATCH CODE|BATCH|B/N|LOT NUMBER|LOT NO|LOT NR|LOT CODE|LOT|LOTE|LOTTO',
    'CHARGEN-NR|CHARGE NR|CHARGE|CH-B|PARTIJ',
  ],
  production: [
    'PRODUCTION DATE|PRODUCTION|PROD DATE|PRODUCED ON|PRODUCED|PROD|MANUFACTURED|MFG DATE|MFG|MFD',
    'PACKED ON|PACKED|PKD|HERGESTELLT AM|HERGESTELLT|HERST|PROD-DATUM',
    'FABRIQUE LE|FABRICATION|FABR|FAB|FECHA FAB',
  ],
  bestBefore: [
    'BEST BEFORE END|BEST BEFORE|BEST BY|BBE|BBD|BB|MINDESTENS HALTBAR BIS|MHD|DDM|DLUO|THT|TMC',
    'A CONSOMMER DE PREFERENCE AVANT|CONSUMIR PREF|CONSUMIR PREFERENTEMENTE ANTES DE',
  ],
  expiry: [
    'EXPIRY DATE|EXPIRY|EXPIRES|EXP DATE|EXP|USE BY|USE BEFORE|VERWENDBAR BIS|VERW BIS',
    'A CONSOMMER JUSQU AU|DLC|CADUCIDAD|CAD|VALIDADE|SCADENZA|SCAD|TGT',
  ],
};
/** A word without what stands around it, and with one sign for those that readers of print take for one another. */
const plain = (read: string): string =>
  read
    .toUpperCase()
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/[^A-Z0-9/-]/g, '')
    .replace(/[QD0]/g, 'O')
    .replace(/[1L]/g, 'I')
    .replaceAll('5', 'S')
    .replaceAll('8', 'B');

const ways = (Object.entries(words) as [Field, string[]][])
  .flatMap(([field, lists]) =>
    lists
      .join('|')
      .split('|')
      .map((word) => ({ field, word: word.split(' ').map(plain) })),
  )
  .sort((a, b) => b.word.length - a.word.length || b.word.join('').length - a.word.join('').length);

interface Named {
  field: Field;
  line: number;
  /** Words of the line that name the field: from, and behind the last. */
  from: number;
  to: number;
  /** What stands in the same word behind the name: "LOT:A12". */
  rest?: Word;
}

/** The names of fields in a line. */
function namesIn(line: Line, index: number): Named[] {
  const found: Named[] = [];
  for (let at = 0; at < line.length;) {
    const way = ways.find((w) => w.word.every((part, i) => plain(line[at + i]?.text ?? '') === part));
    const joined = way ? undefined : /^([A-Za-z/-]{2,})[.:]+(\S{3,})$/.exec(line[at]!.text);
    const inWord = joined && ways.find((w) => w.word.length === 1 && w.word[0] === plain(joined[1]!));
    if (way) found.push({ field: way.field, line: index, from: at, to: at + way.word.length });
    else if (joined && inWord)
      found.push({
        field: inWord.field,
        line: index,
        from: at,
        to: at + 1,
        rest: { ...line[at]!, text: joined[2]! },
      });
    at += way?.word.length ?? 1;
  }
  return found;
}

const around = (list: Line): Box => ({
  x0: Math.min(...list.map((w) => w.box.x0)),
  y0: Math.min(...list.map((w) => w.box.y0)),
  x1: Math.max(...list.map((w) => w.box.x1)),
  y1: Math.max(...list.map((w) => w.box.y1)),
});
const least = (list: Line): number => Math.min(...list.map((w) => w.confidence));
const textOf = (list: Line): string => list.map((w) => w.text).join(' ');

/** The words of a line that stand in a stretch of its text. */
function wordsAt(line: Line, start: number, end: number): Word[] {
  let at = 0;
  return line.filter((word) => {
    const from = at;
    at += word.text.length + 1;
    return from < end && start < at - 1;
  });
}

/** Where the value of a name may stand: behind it in its line, as far as the next name; else in the line below, under it. */
function placesOf(named: Named, names: readonly Named[], lines: readonly Line[]): Line[] {
  const line = lines[named.line]!;
  const next = names.find((n) => n.line === named.line && n.from >= named.to);
  const behind = [...(named.rest ? [named.rest] : []), ...line.slice(named.to, next?.from)];
  const of = around(line.slice(named.from, named.to));
  const below = lines[named.line + 1];
  if (!below) return [behind];
  const under = below.filter(
    (w) => w.box.x1 > of.x0 - 20 && (!next || w.box.x0 < lines[next.line]![next.from]!.box.x0 - 4),
  );
  const near = under.length > 0 && around(under).y0 - of.y1 < 2.5 * (of.y1 - of.y0);
  const isNamed = names.some((n) => n.line === named.line + 1);
  return near && !isNamed ? [behind, under] : [behind];
}

function dateIn(stretch: Line, wanted: Wanted): Omit<Offer, 'field'> | undefined {
  const read = textOf(stretch);
  const found = datesIn(read, wanted.monthFirst)[0] ?? compact(read);
  if (!found || found.start > 12) return undefined;
  const at = wordsAt(stretch, found.start, found.end);
  return { value: found.iso, read: read.slice(found.start, found.end), confidence: least(at), box: around(at) };
}

/** 260331 or 20260331 behind a word for a date: year, month, day, as in element strings. */
function compact(read: string): { iso: string; start: number; end: number } | undefined {
  const m = /(?<!\d)(20)?(\d{2})(\d{2})(\d{2})(?!\d)/.exec(read);
  const found = m && datesIn(`20${m[2]}-${m[3]}-${m[4]}`)[0];
  return found ? { iso: found.iso, start: m.index, end: m.index + m[0].length } : undefined;
}

const isNumber = (read: string): boolean => /^(?=.*\d)[A-Z0-9][A-Z0-9/-]{2,19}$/.test(read);

/** A date in figures with day, month and year: no batch number looks like that. */
const isWholeDate = (read: string): boolean =>
  /^\d{1,4}[-./]\d{1,2}[-./]\d{1,4}$/.test(read) && datesIn(read).length > 0;

/** Runs of letters and figures, as numbers of one maker have them alike: letters as many, figures one more or fewer at most. */
function runs(number: string): [string, number][] {
  return [...number.matchAll(/[A-Z]+|\d+|./g)].map((m) => [
    /[A-Z]/.test(m[0]) ? 'A' : /\d/.test(m[0]) ? '9' : m[0],
    m[0].length,
  ]);
}
const looksLike = (number: string, other: string): boolean => {
  const [a, b] = [runs(number), runs(other.toUpperCase())];
  return (
    a.length === b.length &&
    a.every(([kind, n], i) => kind === b[i]![0] && Math.abs(n - b[i]![1]) <= (kind === '9' ? 1 : 0))
  );
};

/** What a reader of print takes for one another. */
const twins: Record<string, string> = {
  O: '0',
  '0': 'O',
  I: '1',
  '1': 'I',
  S: '5',
  '5': 'S',
  B: '8',
  '8': 'B',
  Z: '2',
  '2': 'Z',
};

/** The number as it is read; where that looks like none before and one mistaken sign would make it so, as it looks then. */
function likeBefore(number: string, before: readonly string[]): string | undefined {
  if (before.some((b) => looksLike(number, b))) return number;
  const mended = [...number].flatMap((sign, i) =>
    twins[sign] ? [number.slice(0, i) + twins[sign] + number.slice(i + 1)] : [],
  );
  return mended.find((m) => before.some((b) => looksLike(m, b)));
}

function numberIn(stretch: Line, wanted: Wanted): Omit<Offer, 'field'> | undefined {
  const first = stretch.filter((w) => !/^(?:NO|NR|N|#)?[.:°]*$/i.test(w.text))[0];
  if (!first || first.confidence < leastConfidence) return undefined;
  const read = first.text.toUpperCase().replace(/^[^A-Z0-9]+|[^A-Z0-9]+$/g, '');
  if (!isNumber(read) || isWholeDate(read)) return undefined;
  const value = likeBefore(read, wanted.batchesBefore ?? []) ?? read;
  return { value, read: first.text, confidence: first.confidence, box: first.box };
}

/**
 * What the lines of a picture offer for the fields that are asked. A field for which two values are read, or a value that cannot be
 * (produced tomorrow), is offered nothing.
 */
export function offersOf(lines: readonly Line[], wanted: Wanted): Offer[] {
  const names = lines.flatMap(namesIn);
  const offers: Offer[] = [];
  for (const named of names) {
    const read = named.field === 'sourceBatch' ? numberIn : dateIn;
    for (const place of placesOf(named, names, lines)) {
      const offer = place.length > 0 ? read(place, wanted) : undefined;
      if (!offer) continue;
      offers.push({ field: named.field, ...offer });
      break;
    }
  }
  if (!names.some((n) => n.field === 'sourceBatch')) offers.push(...lookalikes(lines, wanted));
  return (['sourceBatch', 'production', 'bestBefore', 'expiry'] as const)
    .filter((field) => wanted.asks.includes(field))
    .flatMap((field) => {
      const its = offers.filter((o) => o.field === field && o.confidence >= leastForDates && isPossible(o, wanted));
      return its.length > 0 && its.every((o) => o.value === its[0]!.value) ? [its[0]!] : [];
    });
}

/** Numbers that look like those before, where no word says which is the batch. */
function lookalikes(lines: readonly Line[], wanted: Wanted): Offer[] {
  return lines.flat().flatMap((word) => {
    const read = word.text.toUpperCase();
    const value = isNumber(read) && word.confidence >= leastConfidence && likeBefore(read, wanted.batchesBefore ?? []);
    return value
      ? [{ field: 'sourceBatch' as const, value, read: word.text, confidence: word.confidence, box: word.box }]
      : [];
  });
}

/** Nothing is produced tomorrow, and no label says an end of life of forty years. */
function isPossible(offer: Offer, wanted: Wanted): boolean {
  const years = Number(offer.value.slice(0, 4)) - Number(wanted.today.slice(0, 4));
  if (offer.field === 'sourceBatch') return true;
  if (offer.field === 'production') return offer.value <= wanted.today && years > -15;
  return years > -5 && years < 15;
}

/** Surer than this, one reading is enough. */
const sure = 80;

/** True when two values differ only where one has a zero and the other what a slashed zero is read as. */
const isZeroOf = (zero: string, other: string): boolean =>
  zero !== other &&
  zero.length === other.length &&
  [...zero].every((sign, i) => sign === other[i] || (sign === '0' && '689'.includes(other[i]!)));

/**
 * What several readings of one picture agree on, by field: the value with the most confidence behind it, where that is twice as much as
 * behind all others, and two readings have it or one is sure. A slashed zero is often read as 8 or 6, and hardly ever the other way
 * round: where one reading has zeros and another has not, the zeros rule.
 */
export function agreed(readings: readonly (readonly Offer[])[]): Offer[] {
  const all = readings.flat();
  return [...new Set(all.map((o) => o.field))].flatMap((field) => {
    const read = all.filter((o) => o.field === field);
    const its = read.map((o) => read.find((z) => z.confidence >= leastConfidence && isZeroOf(z.value, o.value)) ?? o);
    const behind = (value: string) => its.filter((o) => o.value === value).reduce((sum, o) => sum + o.confidence, 0);
    const best = its.reduce((a, b) => (behind(b.value) > behind(a.value) ? b : a));
    const same = its.filter((o) => o.value === best.value);
    const others = its.reduce((sum, o) => sum + o.confidence, 0) - behind(best.value);
    const surest = same.reduce((a, b) => (b.confidence > a.confidence ? b : a));
    return behind(best.value) > 2 * others && (same.length > 1 || surest.confidence >= sure) ? [surest] : [];
  });
}
