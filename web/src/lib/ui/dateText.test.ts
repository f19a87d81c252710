import { describe, expect, test } from 'vitest';
import { readDate, readDateTime, readGoodsDate, type DateForm } from './dateText';

/** A Tuesday. */
const today = '2026-03-10';
const read = (text: string, form: DateForm = 'DayMonthYear') => readDate(text, { today, form });

describe('a date is typed', () => {
  test.each([
    ['2026-03-31', '2026-03-31'],
    ['20260331', '2026-03-31'],
    ['31.3.2026', '2026-03-31'],
    ['31/3/26', '2026-03-31'],
    ['31.3.', '2026-03-31'],
    ['31 Mar', '2026-03-31'],
    ['31 march 2027', '2027-03-31'],
    ['Mar 31', '2026-03-31'],
    ['today', '2026-03-10'],
    [' Tomorrow ', '2026-03-11'],
    ['yesterday', '2026-03-09'],
    ['+3', '2026-03-13'],
    ['in 2 weeks', '2026-03-24'],
    ['fri', '2026-03-13'],
    ['tuesday', '2026-03-10'],
    ['next tuesday', '2026-03-17'],
    ['next friday', '2026-03-13'],
  ])('%s', (text, iso) => expect(read(text)).toBe(iso));

  test('in the form of the site', () => {
    expect(read('3/10/2026')).toBe('2026-10-03');
    expect(read('3/10/2026', 'MonthDayYear')).toBe('2026-03-10');
    expect(read('12/31', 'MonthDayYear')).toBe('2026-12-31');
    expect(read('12/31')).toBeUndefined();
  });

  test('without a year: this one, and the next for what is long past', () => {
    expect(read('20.2.')).toBe('2026-02-20');
    expect(read('10.1.')).toBe('2027-01-10');
    expect(read('10 Jan')).toBe('2027-01-10');
  });

  test.each(['', '31.2.2026', '2026-13-01', '0001-01-01', '9999-12-31', 'soon', '10', 'ma', '5 xyz'])(
    'and %s is none',
    (text) => expect(read(text)).toBeUndefined(),
  );
});

describe('a date and time is typed', () => {
  const at = (text: string) => readDateTime(text, { today, form: 'DayMonthYear' });
  test.each([
    ['2026-03-11T09:30', '2026-03-11T09:30'],
    ['2026-03-11 9:30', '2026-03-11T09:30'],
    ['tomorrow 14:05', '2026-03-11T14:05'],
    ['fri 8:00', '2026-03-13T08:00'],
    ['14:30', '2026-03-10T14:30'],
    ['31.3. 7:00', '2026-03-31T07:00'],
  ])('%s', (text, iso) => expect(at(text)).toBe(iso));
  test.each(['', 'tomorrow', '25:00', '10:75', 'soon 9:00'])('and %s is none', (text) =>
    expect(at(text)).toBeUndefined(),
  );
});

describe('a date of goods is typed from a label', () => {
  const goods = (text: string, form: DateForm = 'DayMonthYear') => readGoodsDate(text, { today, form });

  test.each([
    ['2027-03-31', '2027-03-31'],
    ['20270331', '2027-03-31'],
    ['31.03.27', '2027-03-31'],
    ['31/3/2027', '2027-03-31'],
    ['31 MAR 2027', '2027-03-31'],
    ['31MAR 27', '2027-03-31'],
    ['Mar 31, 2027', '2027-03-31'],
    ['03/2027', '2027-03'],
    ['2027-03', '2027-03'],
    ['MAR 2027', '2027-03'],
    ['MAR 27', '2027-03'],
    ['today', '2026-03-10'],
  ])('%s', (text, iso) => expect(goods(text)).toBe(iso));

  test('in the form of the site', () => {
    expect(goods('03/10/2026')).toBe('2026-10-03');
    expect(goods('03/10/2026', 'MonthDayYear')).toBe('2026-03-10');
  });

  // Behind or ahead: without its year a label's date is none, nor is a word for a day to come.
  test.each(['31.3.', '31 Mar', 'fri', 'tomorrow', '+3', '13/2027', '2027-13', '30.02.2027', 'MAY', 'XYZ 2027', ''])(
    '%s is none',
    (text) => expect(goods(text)).toBeUndefined(),
  );
});
