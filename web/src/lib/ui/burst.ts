/**
 * Tells a scanner from a person. A scanner types its characters within a few hundredths of a second of each other and ends with Enter;
 * a slow one is known by the pace that was learned when it was taught, its evenness, and the form of what it typed. Some devices lay
 * the whole text into a field at once, without a key.
 */
export class Burst {
  /** Most milliseconds between two characters of a scanner that nobody has taught; slow wireless ones take about 30. */
  static readonly gap = 50;
  /** Fewest characters of a label; shorter ones could be typed that fast. */
  static readonly least = 4;
  /** Fewest characters of a slow scanner's label that is told by its even pace. */
  static readonly leastSlow = 6;

  private text = '';
  private gaps: number[] = [];
  private last = -Infinity;
  private before = '';

  /** @param taught Most milliseconds between two characters of this site's scanners, as learned; 0 for none. */
  constructor(private readonly taught: () => number = () => 0) {}

  /** A character was typed, at a time in milliseconds, into a field that held this value. */
  key(character: string, at: number, value: string) {
    const gap = at - this.last;
    if (gap > this.most()) {
      this.text = '';
      this.gaps = [];
      this.before = value;
    } else this.gaps.push(gap);
    this.text += character;
    this.last = at;
  }

  /** Enter was pressed: what was scanned and what the field held before; null where a person typed. */
  end(at: number): { text: string; before: string } | null {
    const { text, before } = this;
    const gaps = [...this.gaps, at - this.last];
    this.text = '';
    this.gaps = [];
    this.last = -Infinity;
    if (text.length < Burst.least || gaps.some((gap) => gap > this.most())) return null;
    if (gaps.every((gap) => gap <= Burst.gap)) return { text, before };
    return text.length >= Burst.leastSlow && (isEven(gaps) || isCode(text)) ? { text, before } : null;
  }

  private most = () => Math.max(Burst.gap, this.taught());
}

/** True for a pace that no person keeps: no pause much longer or shorter than the middle one. */
function isEven(gaps: readonly number[]): boolean {
  const middle = [...gaps].sort((a, b) => a - b)[Math.floor(gaps.length / 2)]!;
  return Math.max(...gaps) <= 1.4 * middle + 5 && Math.min(...gaps) >= middle / 1.5 - 5;
}

/** True when a text of digits ends with its check digit (GS1 modulo 10). */
function checks(digits: string): boolean {
  const sum = [...digits].reverse().reduce((s, digit, i) => s + Number(digit) * (i % 2 === 0 ? 1 : 3), 0);
  return sum % 10 === 0;
}

/** True for what has the form of a barcode's content and can be neither a quantity nor a date: told by its form alone. */
export function isCode(text: string): boolean {
  const plain = text.trim();
  if (/^\][A-Za-z]\d./.test(plain) || plain.includes('\u001d') || /^\(\d{2,4}\)./.test(plain)) return true;
  if (/^https?:\/\//i.test(plain)) return true;
  if (/^\d+$/.test(plain)) return plain.length >= 15 || ([8, 12, 13, 14].includes(plain.length) && checks(plain));
  return /^(01|02)\d{14}/.test(plain) && checks(plain.slice(2, 16));
}

/** True for what may stand in a field of a quantity. */
export const isQuantity = (text: string): boolean => /^[\d\s\u202f.,+-]{1,11}$/.test(text.trim()) && !isCode(text);
