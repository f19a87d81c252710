import { describe, expect, it } from 'vitest';
import { Burst, isCode, isQuantity } from './burst';

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

describe('a slow scanner that was taught', () => {
  const gtin = '195212341000140';

  it('is told by its even pace, so that its code never becomes a quantity', () => {
    const burst = new Burst(() => 105);
    const typed = type(burst, '1', 0, 0);
    const end = type(burst, gtin, 70, typed + 400, '1');
    expect(burst.end(end + 70)).toEqual({ text: gtin, before: '1' });
    // Nobody has taught it: at this pace it cannot be told from a person.
    const untaught = new Burst();
    expect(untaught.end(type(untaught, gtin, 70, 0) + 70)).toBeNull();
  });

  it('is not a person who types about as fast, but unevenly', () => {
    const burst = new Burst(() => 105);
    let at = 0;
    for (const [i, character] of [...'LOT-2291'].entries())
      burst.key(character, (at += [40, 95, 60, 30, 100][i % 5]!), '');
    expect(burst.end(at + 80)).toBeNull();
    // Short numbers are typed, whatever the pace.
    expect(burst.end(type(burst, '12000', 70, at + 900) + 70)).toBeNull();
  });
});

describe('a text that comes whole, without keys', () => {
  it.each([
    ']C10109521234000013',
    '(01)09521234000013',
    '0109521234000013',
    '09521234000013',
    '9521234000013',
    '119521234100918',
    '10AB\u001d21X',
    'https://id.example/01/09521234000013',
  ])('%s is a code by its form, and no quantity', (text) => {
    expect(isCode(text)).toBe(true);
    expect(isQuantity(text)).toBe(false);
  });
  it.each(['12', '2.5', '2,5', '1 200', '240000'])('%s may be a quantity', (text) => {
    expect(isCode(text)).toBe(false);
    expect(isQuantity(text)).toBe(true);
  });
  it.each(['NC-0310-2', 'LOT 7', '2026-03-10'])('%s is neither', (text) => expect(isCode(text)).toBe(false));
});
