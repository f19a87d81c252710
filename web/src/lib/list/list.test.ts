import { describe, expect, it } from 'vitest';
import { compare, csv, fits, type ListColumn } from './list';

describe('the order of a list', () => {
  it('has numbers by size, words as in a dictionary, and what is empty last', () => {
    expect([10, 9, 100].sort(compare)).toEqual([9, 10, 100]);
    expect(['A-10', 'A-2', 'a-1'].sort(compare)).toEqual(['a-1', 'A-2', 'A-10']);
    expect(['Örn', 'Olm', 'Zeder'].sort(compare)).toEqual(['Olm', 'Örn', 'Zeder']);
    expect([null, 'x', '', 'a'].sort(compare).slice(0, 2)).toEqual(['a', 'x']);
    // A zero is a value.
    expect([null, 0, 1].sort(compare)).toEqual([0, 1, null]);
  });
});

describe('looking in a list', () => {
  it('finds a row by parts of several of its values', () => {
    expect(fits(['Terracotta pot 18 cm', 'TP-18', 640], 'tp- terra')).toBe(true);
    expect(fits(['Terracotta pot 18 cm', 'TP-18', 640], '640')).toBe(true);
    expect(fits(['Terracotta pot 18 cm', null], 'glazed')).toBe(false);
    expect(fits(['anything'], '')).toBe(true);
  });
});

describe('a list as a file (RFC 4180)', () => {
  const column = (key: string, value?: (row: string[]) => string | number | null): ListColumn<string[]> =>
    ({ key, word: key, value }) as ListColumn<string[]>;
  const file = (...cells: string[]) => csv([column('What', (r) => r[0]!), column('Acts')], [cells]).split('\r\n')[1];

  it('quotes what would break a line, and leaves out columns that have no value', () => {
    expect(csv([column('What', (r) => r[0]!), column('Acts')], [['a']])).toBe('\ufeffWhat\r\na\r\n');
    expect(file('one, two')).toBe('"one, two"');
    expect(file('14" pot')).toBe('"14"" pot"');
    expect(file('two\nlines')).toContain('"two');
  });
  it('gives a spreadsheet no formula to work out, and leaves numbers alone', () => {
    expect(file('=1+1')).toBe("'=1+1");
    expect(file('@home')).toBe("'@home");
    expect(csv([column('n', () => -4)], [[]])).toBe('\ufeffn\r\n-4\r\n');
  });
});
