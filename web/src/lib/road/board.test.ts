import type { Schemas } from '$lib/api/client';
import { describe, expect, it } from 'vitest';
import { at, byDoor, dayName, later, minuteOf, needsLook, snap, span } from './board';

describe('the day board', () => {
  it('reads and writes wall clock times', () => {
    expect(minuteOf('2026-03-10T13:25:00')).toBe(805);
    expect(at('2026-03-10', 805)).toBe('2026-03-10T13:25:00');
  });
  it('keeps a move on its day', () => {
    expect(at('2026-03-10', 25 * 60)).toBe('2026-03-10T23:59:00');
    expect(at('2026-03-10', -20)).toBe('2026-03-10T00:00:00');
  });
  it('moves in steps of five minutes', () => expect([snap(801), snap(803)]).toEqual([800, 805]));
  it('shows whole hours around all that stands on it', () => {
    const day = '2026-03-10';
    expect(span([{ from: `${day}T06:10:00`, to: `${day}T17:00:00` }], day)).toEqual({ from: 360, to: 1080 });
    expect(span([], day)).toEqual({ from: 360, to: 1080 });
  });
  it('cuts what runs past midnight', () => {
    const day = '2026-03-10';
    expect(span([{ from: `${day}T20:00:00`, to: '2026-03-11T01:00:00' }], day).to).toBe(1440);
  });
  it('goes on over the end of a month', () => expect(later('2026-02-28', 1)).toBe('2026-03-01'));
  it('names a day', () => expect(dayName('2026-03-10')).toBe('Tue 10 Mar'));
});

const block = (number: string, more: object = {}) =>
  ({
    card: { number, state: 'Expected', rank: 2 },
    door: 1,
    start: '2026-03-10T09:00:00',
    broken: [],
    ...more,
  }) as unknown as Schemas['DayBlock'];

it('what must be looked at stands first and once, the rest by door in the order of time', () => {
  const late = block('A-1', { card: { number: 'A-1', state: 'Expected', rank: 0 } });
  const doorless = block('A-2', { door: null });
  const breaks = block('A-3', { broken: [{ overruled: false }] });
  const overruled = block('A-4', { broken: [{ overruled: true }], start: '2026-03-10T11:00:00' });
  const done = block('A-5', { card: { number: 'A-5', state: 'CountedIn', rank: 0 }, broken: [{ overruled: false }] });
  const blocks = [overruled, late, doorless, breaks, done];
  expect(blocks.filter(needsLook).map((b) => b.card.number)).toEqual(['A-1', 'A-2', 'A-3']);
  const day = { doors: [{ number: 1 }, { number: 2 }], blocks } as unknown as Schemas['DayAnswer'];
  expect(byDoor(day).map((d) => d.blocks.map((b) => b.card.number))).toEqual([['A-5', 'A-4'], []]);
});
