import { describe, expect, it } from 'vitest';
import { Burst } from './burst';

/** Types a text with a gap between characters, into a field that shows what was typed; gives the time of the last. */
function type(burst: Burst, text: string, gap: number, from: number, value = ''): number {
  let at = from;
  for (const character of text) {
    burst.key(character, at, value);
    value += character;
    at += gap;
  }
  return at - gap;
}

describe('a scan while somebody types in a field', () => {
  it('is told by its speed, and the field gets back what it held', () => {
    const burst = new Burst();
    const typed = type(burst, '12', 180, 0);
    const end = type(burst, ']C100395212340000001417', 8, typed + 900, '12');
    expect(burst.end(end + 8)).toEqual({ text: ']C100395212340000001417', before: '12' });
  });

  it('is told from a slow wireless scanner too', () => {
    const burst = new Burst();
    expect(burst.end(type(burst, 'PO-4471', 35, 0) + 35)?.text).toBe('PO-4471');
  });

  it('is not what a person types, fast as it may be', () => {
    const burst = new Burst();
    expect(burst.end(type(burst, '2026-03-10', 90, 0) + 60)).toBeNull();
    expect(burst.end(type(burst, '240', 20, 5000) + 20)).toBeNull();
  });

  it('is not what a scanner typed and a person ended', () => {
    const burst = new Burst();
    expect(burst.end(type(burst, 'SP-02-0001', 8, 0) + 700)).toBeNull();
  });

  it('is each time a new one', () => {
    const burst = new Burst();
    const first = type(burst, 'CB-05', 8, 0);
    burst.end(first + 8);
    expect(burst.end(first + 20)).toBeNull();
    expect(burst.end(type(burst, 'CC-70', 8, first + 30) + 8)?.text).toBe('CC-70');
  });
});
