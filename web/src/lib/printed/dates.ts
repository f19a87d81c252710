/** Dates as labels print them: in figures in several orders, with a month's name in several languages, or a month and a year alone. */

/** A date found in a text: its ISO form (2026-03-31, or 2026-03 for a month), and where it stands. */
export interface FoundDate {
  iso: string;
  start: number;
  end: number;
}

/** The first three or four letters of the months, English, German, French, Spanish, Italian and Dutch. */
const months: Record<string, number> = {};
[
  'JAN JANV ENE GEN',
  'FEB FEV FEVR',
  'MAR MARS MRT MRZ MAER',
  'APR AVR ABR',
  'MAY MAI MAG MEI MAYO',
  'JUN JUIN GIU',
  'JUL JUIL LUG',
  'AUG AOU AOUT AGO',
  'SEP SEPT SET',
  'OCT OKT OTT',
  'NOV',
  'DEC DEZ DIC',
].forEach((names, index) => names.split(' ').forEach((name) => (months[name] = index + 1)));

const monthOf = (letters: string): number | undefined => {
  const plain = letters.toUpperCase().normalize('NFD').replace(/\p{M}/gu, '').replaceAll('0', 'O');
  return months[plain.slice(0, 4)] ?? months[plain.slice(0, 3)];
};

const text = (n: number, length: number): string => String(n).padStart(length, '0');

/** A slashed zero is read as 8 or 6. Where no calendar has such a figure it was a zero. */
const zeroed = (n: number, most: number): number => {
  const [tens, ones] = [Math.floor(n / 10), n % 10];
  const first = tens === 8 || tens === 6 ? ones : n;
  return first > most && (ones === 8 || ones === 6) ? n - ones : first;
};
/** The year in full: two figures are of this century, as on labels that are read today. */
const yearOf = (figures: string): number =>
  figures.length === 4 ? Number(figures.replace(/^2[86]/, '20')) : 2000 + Number(figures);

function isoOf(year: number, asRead: number, dayAsRead?: number): string | undefined {
  const month = asRead > 12 ? zeroed(asRead, 12) : asRead;
  if (year < 2000 || year > 2060 || month < 1 || month > 12) return undefined;
  if (dayAsRead === undefined) return `${text(year, 4)}-${text(month, 2)}`;
  const day = dayAsRead > 31 ? zeroed(dayAsRead, 31) : dayAsRead;
  const date = new Date(Date.UTC(year, month - 1, day));
  if (date.getUTCMonth() !== month - 1 || date.getUTCDate() !== day) return undefined;
  return `${text(year, 4)}-${text(month, 2)}-${text(day, 2)}`;
}

/** Letters that readers of print give for figures. */
const figures = (read: string): string =>
  read
    .replace(/[OoQD@]/g, '0')
    .replace(/[Il|]/g, '1')
    .replaceAll('S', '5');

/** True when a short word stands before a month's name: a day that could not be read, and no month alone. */
const isDayUnread = (m: RegExpExecArray): boolean => /(?:^|\s)[^\s:]{1,2}[-./,]?\s?$/.test(m.input.slice(0, m.index));

const figure = '[0-9OoQIl|@]';
const between = '\\s?[-./,]\\s?';
/** From the most telling form to the least; what one has taken no other takes again. */
const forms: { pattern: RegExp; read: (m: RegExpExecArray, monthFirst: boolean) => string | undefined }[] = [
  {
    pattern: new RegExp(
      `(?<!${figure})(2${figure}{3})${between}(${figure}{1,2})${between}(${figure}{1,2})(?!${figure})`,
      'g',
    ),
    read: (m) => isoOf(yearOf(figures(m[1]!)), Number(figures(m[2]!)), Number(figures(m[3]!))),
  },
  {
    pattern: new RegExp(
      '(?<![0-9A-Z])(?:([0-9OQD@]?[0-9OoQIl|@S])\\s?[-./]?\\s?)?' +
        "([A-Za-z\u00C0-\u00FF0]{3,9})\\.?\\s?[-./']?\\s?" +
        `(2${figure}{3}|${figure}{2})(?!${figure}|[A-Z])`,
      'g',
    ),
    read: (m) => {
      const month = monthOf(m[2]!);
      if (month === undefined || (m[1] === undefined && isDayUnread(m))) return undefined;
      return isoOf(yearOf(figures(m[3]!)), month, m[1] === undefined ? undefined : Number(figures(m[1])));
    },
  },
  {
    pattern: new RegExp(
      `(?<!${figure}|[-./])(${figure}{1,2})${between}(${figure}{1,2})${between}(2${figure}{3}|${figure}{2})(?!${figure})`,
      'g',
    ),
    read: (m, monthFirst) => {
      const [a, b, c] = [Number(figures(m[1]!)), Number(figures(m[2]!)), yearOf(figures(m[3]!))];
      const [day, month] =
        (monthFirst && m[0].includes('/') && a <= 12) || (b > 12 && b <= 31 && a <= 12) ? [b, a] : [a, b];
      return isoOf(c, month, day);
    },
  },
  {
    pattern: new RegExp(`(?<!${figure}|[-./])(${figure}{1,2})${between}(2${figure}{3})(?!${figure}|[-./])`, 'g'),
    read: (m) => isoOf(yearOf(figures(m[2]!)), Number(figures(m[1]!))),
  },
  {
    pattern: new RegExp(`(?<!${figure}|[-./])(2${figure}{3})${between}(${figure}{1,2})(?!${figure}|[-./])`, 'g'),
    read: (m) => isoOf(yearOf(figures(m[1]!)), Number(figures(m[2]!))),
  },
];

/**
 * The dates in a text, from left to right.
 * @param monthFirst true where 03/10/2026 is the tenth of March; dates with dots have the day in front everywhere.
 */
export function datesIn(read: string, monthFirst = false): FoundDate[] {
  const found: FoundDate[] = [];
  for (const form of forms)
    for (const m of read.matchAll(form.pattern)) {
      const [start, end] = [m.index, m.index + m[0].length];
      if (found.some((f) => start < f.end && f.start < end)) continue;
      const iso = form.read(m as RegExpExecArray, monthFirst);
      if (iso) found.push({ iso, start, end });
    }
  return found.sort((a, b) => a.start - b.start);
}
