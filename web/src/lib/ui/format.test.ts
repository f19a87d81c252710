import { describe, expect, it } from 'vitest';
import { day, exact, exactly, number, plural, sscc, time, when, readNumber, useDecimalComma } from './format';

describe('a quantity is reckoned with exactly', () => {
  it.each([
    ['0.1', '0.2', '0.3'],
    ['1.1', '2.2', '3.3'],
    ['0.000001', '0', '0.000001'],
    ['999999999.999999', '0.000001', '1000000000'],
    ['1 200', '0.5', '1200.5'],
    ['seven', '1', '1'],
  ])('%s and %s are %s', (a, b, sum) => expect(exactly(exact(a).plus(b))).toBe(sum));
});

describe('numbers and times are shown as people read them', () => {
  it('puts a narrow space between thousands and drops needless decimals', () => {
    expect(number(12345.5)).toBe('12\u202f345.5');
    expect(number(40)).toBe('40');
  });
  it('shows a time alone when it is today, and the day with it when it is not', () => {
    expect(when('2026-03-10T11:20:00', '2026-03-10T12:00:00')).toBe('11:20');
    expect(when('2026-03-09T11:20:00', '2026-03-10T12:00:00')).toBe('9 Mar 11:20');
    expect(time(null)).toBe('');
    expect(day('2026-12-01')).toBe('1 Dec');
  });
  it('spaces an SSCC so that it can be read aloud', () =>
    expect(sscc('395212340000071182')).toBe('3 9521234 000007 1182'));
  it('makes plurals of pack names', () => {
    expect(plural('box', 3)).toBe('boxes');
    expect(plural('sack', 1)).toBe('sack');
    expect(plural('bunch', 2)).toBe('bunches');
    expect(plural('each', 2)).toBe('each');
  });
});

describe('a number as it was typed', () => {
  it('is read with a comma only where the site says so', () => {
    expect(readNumber('2.5')).toBe(2.5);
    expect(readNumber('1 200')).toBe(1200);
    expect(readNumber('2,5')).toBeNaN();
    useDecimalComma(true);
    expect(readNumber('2,5')).toBe(2.5);
    expect(readNumber('seven')).toBeNaN();
    expect(exactly(exact('2,5').plus('0.1'))).toBe('2.6');
    useDecimalComma(false);
  });
});
