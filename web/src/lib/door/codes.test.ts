import { describe, expect, it } from 'vitest';
import { isDetail, named, readScan, stillAsked, typedBy } from './codes';
import shared from './scan-cases.json';

const plain = { isUnit: false, batchStart: null, batchEnd: '', asks: [], attributes: [] };
const codes = [
  { code: 'CB-05', item: 'CB-05', name: 'Coir brick', pack: 'each', content: 1, unit: 'each', ...plain },
  { code: '09521234100072', item: 'CB-05', name: 'Coir brick', pack: 'each', content: 1, unit: 'each', ...plain },
  { code: '19521234100079', item: 'CB-05', name: 'Coir brick', pack: 'carton', content: 4, unit: 'each', ...plain },
];

describe('what a device says of a scan by itself', () => {
  it.each(shared.cases)('reads $text as the server does', (one) => {
    const read = readScan(one.text, shared.scanner);
    expect(read.key).toBe(one.names);
    expect(read.isUnit).toBe(one.unit ?? false);
    expect(read.isDetail).toBe(one.detail ?? false);
    expect(isDetail(one.text, [], shared.scanner)).toBe(one.detail ?? false);
    expect(read.elements.get('10')).toBe(one.batch);
    expect(read.elements.get('21')).toBe(one.serial);
  });
  it.each([
    ['CB-05', 'each'],
    ['cb-05', 'each'],
    ['9521234100072', 'each'],
    ['19521234100079', 'carton'],
    ['(01)19521234100079(10)L7', 'carton'],
    [']C10119521234100079\u001d10L7', 'carton'],
    [']Q1https://id.gs1.org/01/19521234100079/10/L7', 'carton'],
    ['https://shop.example/eu/01/09521234100072?17=271231', 'each'],
  ])('finds the pack of %s', (text, pack) => expect(named(codes, text)?.pack).toBe(pack));
  it.each(['', '4012345123456', 'CB-0', '(00)395212340000000014', '(10)19521234100079'])(
    'claims nothing of %s',
    (text) => expect(named(codes, text)).toBeUndefined(),
  );
  it('reads an address whose percent signs are spoilt, and loses no scan over it', () => {
    const read = readScan('https://id.example.org/01/19521234100079/10/A%');
    expect(read.key).toBe('19521234100079');
    expect(read.elements.get('10')).toBe('A%');
  });
  it('claims nothing of a code that two items aboard have', () =>
    expect(named([...codes, { ...codes[0]!, item: 'CB-10', code: 'CB-05' }], 'CB-05')).toBeUndefined());
  it('takes off what this scanner types before and behind each code', () =>
    expect(
      named(codes, '~~19521234100079#', { pace: 0, repeatWithin: 0, prefix: '~~', suffix: '#', separator: '' })?.pack,
    ).toBe('carton'));
  it.each([']d201195212341000791027\u001d10L7', 'CB-05'])(
    'reads %s the same from a taught scanner as from any',
    (code) => {
      const taught = { pace: 0, repeatWithin: 0, prefix: '~', suffix: '', separator: '^' };
      expect(typedBy(code, taught)).not.toBe(code);
      expect(readScan(typedBy(code, taught), taught)).toEqual(readScan(code));
    },
  );
});

describe('what the labels of a pack do not say yet', () => {
  const asks = ['sourceBatch', 'production', 'bestBefore'];

  it.each([
    ['(01)06391234500010(10)NG-1', ['production', 'bestBefore']],
    [']C101063912345000101527030110NG-1', ['production']],
    [']C1010639123450001010NG-1\u001d15270301', ['production']],
    ['06391234500010', asks],
    ['NG-1', asks],
  ])('is asked for still: %s', (label, left) => {
    expect(stillAsked(asks, [label])).toEqual(left);
  });

  it('is what no further label says either', () => {
    expect(stillAsked(asks, ['06391234500010', '(10)NG-1(15)270301', '(11)260301'])).toEqual([]);
  });
});
