/** What a list is made of, and what it says as a file. */
import type { Snippet } from 'svelte';

export type ListValue = string | number | null | undefined;

/** A column of a list of rows T. */
export type ListColumn<T> = {
  key: string;
  word: string;
  cell: Snippet<[T]>;
  /** Figures: they stand to the right. */
  number?: boolean;
  /** Names its row, and is never hidden. */
  fixed?: boolean;
  /** What the device sorts and looks by, and what stands in the file; a column without is neither sorted nor in the file. */
  value?: (row: T) => ListValue;
  /** The server's names of this order, upwards and downwards; for lists that come page by page. */
  sorts?: { up?: string; down?: string };
};

const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** Numbers by size, words as in a dictionary with A-2 before A-10, and what is empty last. */
export function compare(a: ListValue, b: ListValue): number {
  const [noA, noB] = [a ?? '', b ?? ''].map((v) => v === '');
  if (noA || noB) return Number(noA) - Number(noB);
  return typeof a === 'number' && typeof b === 'number' ? a - b : collator.compare(String(a), String(b));
}

/** True when every word that is looked for stands somewhere in the values of a row. */
export function fits(values: readonly ListValue[], looked: string): boolean {
  const row = values
    .map((v) => String(v ?? ''))
    .join(' ')
    .toLowerCase();
  return looked
    .toLowerCase()
    .split(/\s+/)
    .every((word) => row.includes(word));
}

/** A value in a file (RFC 4180). What a spreadsheet would take for a formula gets an apostrophe before it. */
function field(value: ListValue): string {
  const text = typeof value === 'number' ? String(value) : String(value ?? '').replace(/^[=+\-@\t\r]/, "'$&");
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/** Rows as CSV, in UTF-8 with a byte-order mark so that a spreadsheet knows it. */
export function csv<T>(columns: readonly ListColumn<T>[], rows: readonly T[]): string {
  const told = columns.filter((c) => c.value);
  const lines = [told.map((c) => field(c.word)), ...rows.map((row) => told.map((c) => field(c.value!(row))))];
  return '\ufeff' + lines.map((line) => line.join(',') + '\r\n').join('');
}
