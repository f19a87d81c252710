/** How numbers and times are shown. */

/** Thousands apart by a narrow space, no needless decimals. */
export const number = (value: number) =>
  new Intl.NumberFormat('en', { maximumFractionDigits: 6 }).format(value).replaceAll(',', '\u202f');

/** 11:20 */
export const time = (iso: string | null | undefined) => (iso ? iso.slice(11, 16) : '');

/** 10 Mar */
export function day(iso: string | null | undefined): string {
  if (!iso) return '';
  const [, month, date] = iso.slice(0, 10).split('-');
  return `${Number(date)} ${['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'][Number(month) - 1]}`;
}

/** 10 Mar 11:20, or only the time when it is today. */
export const when = (iso: string | null | undefined, today?: string) =>
  !iso ? '' : today && iso.slice(0, 10) === today.slice(0, 10) ? time(iso) : `${day(iso)} ${time(iso)}`;

/** An SSCC in groups that can be read aloud. */
export const sscc = (code: string) => `${code.slice(0, 1)} ${code.slice(1, 8)} ${code.slice(8, 14)} ${code.slice(14)}`;

/** box → boxes; units of measure stay as they are */
export const plural = (word: string, count: number) =>
  count === 1 || ['each', 'kg', 'm', 'L'].includes(word) ? word : /(x|ch)$/.test(word) ? `${word}es` : `${word}s`;

/** "1 order", "3 orders". */
export const counted = (count: number, word: string) => `${number(count)} ${plural(word, count)}`;

let decimalComma = false;

/** Whether this site types a comma before decimals. */
export const useDecimalComma = (on: boolean) => (decimalComma = on);

/** A number as it was typed; not a number where it is none. The server reads it by the same rule, exactly. */
export function readNumber(text: string): number {
  const plain = text.replace(/[\s\u202f\u00a0]/g, '');
  return plain === '' ? 0 : Number(decimalComma && !plain.includes('.') ? plain.replace(',', '.') : plain);
}
