import { describe, expect, it } from 'vitest';
import { hadBy, isAsked, limitsOf, valueFrom } from './limits';

describe('a characteristic in words', () => {
  const looked = { passWord: 'holds', failWord: 'slips' };

  it('has limits on both sides, on one, or none where it is looked at', () => {
    expect(limitsOf({ unit: 'mm', lower: 209, upper: 215, ...looked })).toBe('209 to 215 mm');
    expect(limitsOf({ unit: '%', upper: 9, ...looked })).toBe('at most 9 %');
    expect(limitsOf({ unit: 'g', lower: 22, ...looked })).toBe('at least 22 g');
    expect(limitsOf(looked)).toBe('holds or slips');
  });

  it('says how its value is had only where that is not by typing it', () => {
    expect(hadBy({ unit: '%', had: 'Counted' })).toBe(', counted');
    expect(hadBy({ unit: 'g', had: 'Scale' })).toBe(', read from a scale');
    expect(hadBy({ unit: 'mm', had: 'Typed' })).toBe('');
    expect(hadBy({ unit: null, had: 'Gauge' })).toBe('');
  });

  it('says where its values come from', () => {
    expect(valueFrom({ unit: null, gauge: 'lens' })).toBe('looking');
    expect(valueFrom({ unit: 'mm', gauge: 'caliper', had: 'Typed' })).toBe('caliper');
    expect(valueFrom({ unit: 'mm', gauge: 'caliper', had: 'Gauge' })).toBe('caliper, read by a gauge');
    expect(valueFrom({ unit: 'mm' })).toBe('typed');
    expect(valueFrom({ unit: '%', gauge: null, had: 'Counted' })).toBe('counted');
  });
});

describe('the pieces of a characteristic', () => {
  it('are those of its own run, both ends included', () => {
    const own = { pieces: { first: 6, last: 8 } };
    expect([5, 6, 8, 9].map((piece) => isAsked(own, piece))).toEqual([false, true, true, false]);
  });

  it('are none until a sample is drawn', () => {
    expect(isAsked({ pieces: null }, 1)).toBe(false);
  });
});
