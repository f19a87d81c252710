/** How numbers and times are shown. */
import Big from 'big.js';

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

/** GateHand → gate hand */
export const roleWord = (role: string) => role.replace(/(?<=[a-z])(?=[A-Z])/g, ' ').toLowerCase();

/** "1 order", "3 orders". */
export const counted = (count: number, word: string) => `${number(count)} ${plural(word, count)}`;

let decimalComma = false;

/** Whether this site types a comma before decimals. */
export const useDecimalComma = (on: boolean) => (decimalComma = on);

/** A number as it was typed, with a point before its decimals. */
function plainNumber(text: string): string {
  const plain = text.replace(/[\s\u202f\u00a0]/g, '');
  return decimalComma && !plain.includes('.') ? plain.replace(',', '.') : plain;
}

/** A number as it was typed, to be shown or compared; not a number where it is none. The server reads it by the same rule, exactly. */
export const readNumber = (text: string): number => Number(plainNumber(text));

/** A quantity as it was typed, to be reckoned with: exact, and 0 where it is no number. */
export function exact(text: string | number): Big {
  try {
    return new Big(typeof text === 'number' ? text : plainNumber(text));
  } catch {
    return new Big(0);
  }
}

/** A quantity as it is sent: all its digits, and no exponent. */
export const exactly = (quantity: Big): string => quantity.toFixed();
