/** Reads a date or a date and time as people type it: ISO, the site's own form, a day's name, or a word like "tomorrow". */

/** How the site writes dates beside ISO. */
export type DateForm = 'DayMonthYear' | 'MonthDayYear';

export interface DateBase {
  /** The date at the site, ISO. */
  today: string;
  form: DateForm;
}

const weekdays = ['sunday', 'monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday'];
const months = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

const at = (iso: string) => new Date(`${iso}T12:00:00Z`);
const iso = (date: Date) => date.toISOString().slice(0, 10);

/** So many days behind a date; before it where they are negative. */
export function plusDays(date: string, days: number): string {
  const moved = at(date);
  moved.setUTCDate(moved.getUTCDate() + days);
  return iso(moved);
}

/** A date of the calendar between 2000 and 2100, or nothing. */
function dateOf(year: number, month: number, day: number): string | undefined {
  const text = `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
  const date = at(text);
  return !Number.isNaN(date.getTime()) && iso(date) === text && year >= 2000 && year <= 2100 ? text : undefined;
}

const yearOf = (figures: string | undefined, today: string): number =>
  figures === undefined ? Number(today.slice(0, 4)) : figures.length === 4 ? Number(figures) : 2000 + Number(figures);

/** Without a year, the one that comes next: in March, 10.1. is of next year; what lies less than a month back is of this one. */
function inYear(month: number, day: number, figures: string | undefined, today: string): string | undefined {
  const date = dateOf(yearOf(figures, today), month, day);
  return figures === undefined && date !== undefined && date < plusDays(today, -31)
    ? dateOf(yearOf(undefined, today) + 1, month, day)
    : date;
}

function byWord(word: string, today: string): string | undefined {
  if (word === 'today') return today;
  if (word === 'tomorrow') return plusDays(today, 1);
  if (word === 'yesterday') return plusDays(today, -1);
  const days = /^(?:in |\+)\s*(\d{1,3})(?:\s*(days?|weeks?))?$/.exec(word);
  if (days) return plusDays(today, Number(days[1]) * (days[2]?.startsWith('week') ? 7 : 1));
  const name = /^(next )?([a-z]{3,9})$/.exec(word);
  const weekday = name ? weekdays.findIndex((w) => w.startsWith(name[2]!)) : -1;
  if (weekday < 0) return undefined;
  // "friday" said on a Friday is today; "next friday" is the one behind it.
  const ahead = (weekday - at(today).getUTCDay() + 7) % 7;
  return plusDays(today, name![1] && ahead === 0 ? 7 : ahead);
}

/** A date as it was typed, in ISO; nothing where it is none. */
export function readDate(typed: string, base: DateBase): string | undefined {
  const text = typed.trim().toLowerCase().replace(/\s+/g, ' ');
  const whole = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})$/.exec(text) ?? /^(\d{4})(\d{2})(\d{2})$/.exec(text);
  if (whole) return dateOf(Number(whole[1]), Number(whole[2]), Number(whole[3]));
  const figures = /^(\d{1,2})[./-](\d{1,2})(?:[./-](\d{4}|\d{2})?)?$/.exec(text);
  if (figures) {
    const [day, month] = base.form === 'MonthDayYear' ? [figures[2], figures[1]] : [figures[1], figures[2]];
    return inYear(Number(month), Number(day), figures[3], base.today);
  }
  const named = /^(\d{1,2})\.? ?([a-z]{3,9})\.?(?: (\d{4}|\d{2}))?$/.exec(text);
  const other = /^([a-z]{3,9})\.? (\d{1,2})(?:,? (\d{4}))?$/.exec(text);
  const [day, month, year] = named ? named.slice(1) : other ? [other[2], other[1], other[3]] : [];
  const index = month ? months.indexOf(month.slice(0, 3)) : -1;
  if (index >= 0) return inYear(index + 1, Number(day), year, base.today);
  return byWord(text, base.today);
}

const monthsOnly = [
  /^(?<month>\d{1,2})[./-](?<year>\d{4})$/,
  /^(?<year>\d{4})[./-](?<month>\d{1,2})$/,
  /^(?<name>[a-z]{3,9})\.?[ -]?(?<year>\d{4}|\d{2})$/,
];
const daysWithYear = [
  /^\d{8}$/,
  /^\d{4}[./-]\d{1,2}[./-]\d{1,2}$/,
  /^\d{1,2}[./-]\d{1,2}[./-](\d{4}|\d{2})$/,
  /^\d{1,2}\.? ?[a-z]{3,9}\.? (\d{4}|\d{2})$/,
  /^[a-z]{3,9}\.? \d{1,2},? \d{4}$/,
];

/**
 * A date of goods as it is typed from a label: a day, or a month as 2027-03. Only with its year, since nobody could tell whether 31.3. is
 * behind or ahead; nothing where it is none.
 */
export function readGoodsDate(typed: string, base: DateBase): string | undefined {
  const text = typed.trim().toLowerCase().replace(/\s+/g, ' ');
  for (const form of monthsOnly) {
    const found = form.exec(text)?.groups;
    if (!found) continue;
    const month = found['name'] ? months.indexOf(found['name'].slice(0, 3)) + 1 : Number(found['month']);
    return dateOf(yearOf(found['year'], base.today), month, 1)?.slice(0, 7);
  }
  return text === 'today' || text === 'yesterday' || daysWithYear.some((form) => form.test(text))
    ? readDate(text, base)
    : undefined;
}

/** A date and time as typed, as 2026-03-10T09:30; a time alone is of today. Nothing where it is none. */
export function readDateTime(typed: string, base: DateBase): string | undefined {
  const m = /^(.*?)(?:[ tT]|^)(\d{1,2})(?::(\d{2}))(?::00)?$/.exec(typed.trim());
  if (!m || Number(m[2]) > 23 || Number(m[3]) > 59) return undefined;
  const date = m[1]!.trim() === '' ? base.today : readDate(m[1]!, base);
  return date && `${date}T${m[2]!.padStart(2, '0')}:${m[3]}`;
}
