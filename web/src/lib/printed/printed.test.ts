import { describe, expect, test } from 'vitest';
import { datesIn } from './dates';
import { agreed, offersOf, type Line, type Offer } from './offers';
import { greyOf, softened } from './pixels';

const isoOf = (text: string, monthFirst = false) => datesIn(text, monthFirst).map((d) => d.iso);

/** Lines of words as wide as their letters, one below the other. */
const page = (...texts: string[]): Line[] =>
  texts.map((text, row) => {
    let x = 0;
    return text.split(' ').map((word) => {
      const box = { x0: x, y0: 30 * row, x1: x + 10 * word.length, y1: 30 * row + 20 };
      x += 10 * (word.length + 1);
      return { text: word, confidence: 90, box };
    });
  });
const asks = ['sourceBatch', 'production', 'bestBefore', 'expiry'];
const read = (lines: Line[], more: object = {}) =>
  Object.fromEntries(offersOf(lines, { asks, today: '2026-03-10', ...more }).map((o) => [o.field, o.value]));

describe('a date is read', () => {
  test.each([
    ['2026-03-31', '2026-03-31'],
    ['31.03.26', '2026-03-31'],
    ['31/03/2026', '2026-03-31'],
    ['2026/03/31', '2026-03-31'],
    ['31 MAR 2026', '2026-03-31'],
    ['31MAR26', '2026-03-31'],
    ['MAR 2027', '2027-03'],
    ['03/2027', '2027-03'],
    ['OKT 2027', '2027-10'],
    ['5 AOÛT 2027', '2027-08-05'],
    ['1 MÄRZ 2027', '2027-03-01'],
    ['12 DIC 27', '2027-12-12'],
  ])('%s', (text, iso) => expect(isoOf(text)).toEqual([iso]));
  test('with the month in front only where the site has it so, and with strokes', () => {
    expect(isoOf('03/10/2026')).toEqual(['2026-10-03']);
    expect(isoOf('03/10/2026', true)).toEqual(['2026-03-10']);
    expect(isoOf('03.10.2026', true)).toEqual(['2026-10-03']);
    expect(isoOf('03/25/2026')).toEqual(['2026-03-25']);
  });
  test('with a slashed zero that was taken for an 8 or a 6, where no calendar has that', () => {
    expect(isoOf('36/66/2627')).toEqual(['2027-06-30']);
    expect(isoOf('2628-84-38')).toEqual(['2028-04-30']);
    expect(isoOf('08.08.2028')).toEqual(['2028-08-08']);
  });
  test.each(['31.02.2027', '99.99.2027', 'LOT 4471', 'MK-F-2291', '12.5 KG', '9¢ JAN 2026'])('not in %s', (text) =>
    expect(isoOf(text)).toEqual([]),
  );
});

describe('a label offers', () => {
  test('each value to the field that its word names, in one line or several', () => {
    expect(read(page('LOT: MK-F-2291', 'MFG 31.10.2025', 'BEST BEFORE 30.10.2027'))).toEqual({
      sourceBatch: 'MK-F-2291',
      production: '2025-10-31',
      bestBefore: '2027-10-30',
    });
    expect(read(page('LOT:445120 EXP:31.12.2027'))).toEqual({ sourceBatch: '445120', expiry: '2027-12-31' });
    expect(read(page('EXP 260930'))).toEqual({ expiry: '2026-09-30' });
  });
  test('what stands under its word', () =>
    expect(read(page('LOT EXP', '7741A 2027-01-31'))).toMatchObject({ expiry: '2027-01-31' }));
  test('only what is asked', () =>
    expect(read(page('LOT 4471', 'EXP 2027-01-31'), { asks: ['sourceBatch'] })).toEqual({ sourceBatch: '4471' }));
  test('a number without a word where it looks like those before', () => {
    expect(read(page('NEEM OIL', 'NK-2277'))).toEqual({});
    expect(read(page('NEEM OIL', 'NK-2277'), { batchesBefore: ['NK-2190'] })).toEqual({ sourceBatch: 'NK-2277' });
  });
  test('a number with one sign mistaken, as those before have it', () =>
    expect(read(page('LOT 26A00S7'), { batchesBefore: ['26A0041'] })).toEqual({ sourceBatch: '26A0057' }));
  test('no production in the future, and no end of life that cannot be', () => {
    expect(read(page('MFG 11.03.2026'))).toEqual({});
    expect(read(page('EXP 2045-01-31'))).toEqual({});
  });
  test('nothing where two values are read for one field', () =>
    expect(read(page('LOT 4471', 'EXP 2027-01-31', 'LOT 4472'))).toEqual({ expiry: '2027-01-31' }));
  test('no date as a batch, and a batch that looks a little like one', () => {
    expect(read(page('LOT 31-03-2027'))).toEqual({});
    expect(read(page('CHARGE 2614-3'))).toEqual({ sourceBatch: '2614-3' });
  });
});

describe('of several readings', () => {
  const box = { x0: 0, y0: 0, x1: 1, y1: 1 };
  const of = (value: string, confidence: number): Offer[] => [
    { field: 'sourceBatch', value, read: value, confidence, box },
  ];
  const values = (...readings: Offer[][]) => agreed(readings).map((o) => o.value);
  test('one that is sure is enough, one that is not is nothing', () => {
    expect(values(of('A-1', 85))).toEqual(['A-1']);
    expect(values(of('A-1', 60))).toEqual([]);
    expect(values(of('A-1', 60), of('A-1', 60))).toEqual(['A-1']);
  });
  test('what they differ on is not offered', () => expect(values(of('A-1', 90), of('A-7', 80))).toEqual([]));
  test('a zero rules over what a slashed zero is read as', () =>
    expect(values(of('98417', 88), of('90417', 74))).toEqual(['90417']));
});

test('a picture is grey, as wide in contrast as it can be, and its dots run together', () => {
  const rgba = new Uint8ClampedArray(4 * 64).map((_, i) => (i % 4 === 3 ? 255 : i < 128 ? 100 : 140));
  const grey = greyOf(8, 8, rgba);
  expect([grey.data[0], grey.data[63]]).toEqual([0, 255]);
  const dots = { width: 32, height: 32, data: new Uint8ClampedArray(1024).map((_, i) => (i % 4 === 0 ? 0 : 255)) };
  const soft = softened(dots, 2);
  const span = (p: Uint8ClampedArray) => Math.max(...p.slice(320, 330)) - Math.min(...p.slice(320, 330));
  expect(span(soft.data)).toBeLessThan(span(dots.data));
});
