import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import { database } from '$lib/device';
import { sscc, takeBatch, takeSscc } from './numbers';

describe('numbers of a device', () => {
  beforeEach(async () => {
    const db = await database();
    await db.clear('blocks');
    await db.clear('batches');
  });
  // With its check digit all 18 digits, weighted 3 and 1, sum to a multiple of ten (GS1 General Specifications, check digit).
  it('end with the check digit of the rest', () => {
    const made = sscc('39521234', 711);
    expect(made).toHaveLength(18);
    const sum = [...made].reduce((s, d, i) => s + Number(d) * (i % 2 === 0 ? 3 : 1), 0);
    expect(sum % 10).toBe(0);
    expect(made.startsWith('39521234000000711')).toBe(true);
  });
  it('are given once each, by several at the same time too, until the block is used up', async () => {
    await (await database()).add('blocks', { site: 'LM', kind: 'Unit', start: '39521234', next: 10, to: 19 });
    const given = await Promise.all(Array.from({ length: 12 }, () => takeSscc('LM')));
    expect(new Set(given.filter(Boolean)).size).toBe(10);
    expect(given.filter((g) => !g)).toHaveLength(2);
    expect(await takeSscc('HB')).toBeUndefined();
  });
  it('of a batch are the same for the same scan of the day', async () => {
    await (await database()).add('blocks', { site: 'LM', kind: 'Batch', start: '', next: 1001, to: 1050 });
    expect(await takeBatch('LM', 'CB-0310-', '', '(01)1(10)A')).toBe('CB-0310-1001');
    expect(await takeBatch('LM', 'CB-0310-', '', '(01)1(10)B')).toBe('CB-0310-1002');
    expect(await takeBatch('LM', 'CB-0310-', '', '(01)1(10)A')).toBe('CB-0310-1001');
  });
});
