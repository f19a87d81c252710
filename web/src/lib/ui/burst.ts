/**
 * Tells a scanner from a person, where somebody was typing into a field when a label was scanned: a scanner types its
 * characters within a few hundredths of a second of each other and ends with Enter. A person does not.
 */
export class Burst {
  /** Most milliseconds between two characters of a scanner; slow wireless ones take about 30. */
  static readonly gap = 50;
  /** Fewest characters of a label; shorter ones could be typed that fast. */
  static readonly least = 4;

  private text = '';
  private last = -Infinity;
  private before = '';

  /** A character was typed, at a time in milliseconds, into a field that held this value. */
  key(character: string, at: number, value: string) {
    if (at - this.last > Burst.gap) {
      this.text = '';
      this.before = value;
    }
    this.text += character;
    this.last = at;
  }

  /** Enter was pressed: what was scanned and what the field held before; null where a person typed. */
  end(at: number): { text: string; before: string } | null {
    const scanned = at - this.last <= Burst.gap && this.text.length >= Burst.least;
    const result = scanned ? { text: this.text, before: this.before } : null;
    this.text = '';
    this.last = -Infinity;
    return result;
  }
}
