import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { Problem } from '$lib/api/client';
import { journal } from './journal.svelte';
import { reading } from '$lib/testing/server';
import { pageOf, scanLine, shown } from './scan.svelte';

const after = (ms: number) => new Promise((done) => setTimeout(done, ms));

describe('the scan line', () => {
  beforeEach(() => {
    scanLine.badge = '';
    localStorage.setItem('cues', 'off');
  });

  it('handles scans one after another, though they come while the first is on its way', async () => {
    const begun: string[] = [];
    const ended: string[] = [];
    const stop = scanLine.use(async (text) => {
      begun.push(text);
      // The first takes longest.
      await after(text === 'S0' ? 30 : 1);
      ended.push(text);
      return { words: text, tone: 'taken' };
    });
    const scans = Array.from({ length: 20 }, (_, i) => scanLine.scan(`S${i}`));
    expect(scanLine.waiting).toBe(20);
    await Promise.all(scans);
    expect(ended).toEqual(begun);
    expect(ended).toHaveLength(20);
    expect(scanLine.waiting).toBe(0);
    expect(scanLine.said).toMatchObject({ read: 'S19', words: 'S19' });
    stop();
  });

  it('goes on where the device keeps nothing, and says so until it does again', async () => {
    const heard: number[] = [];
    const stop = scanLine.use(async (text, scan) => {
      heard.push(scan.seq);
      return { words: text, tone: 'taken' };
    }, 'door A-1');
    const full = vi.spyOn(IDBObjectStore.prototype, 'add').mockImplementation(() => {
      throw new DOMException('full', 'QuotaExceededError');
    });
    await scanLine.scan('S1');
    expect([heard, journal.keeps]).toEqual([[0], false]);
    full.mockRestore();
    await scanLine.scan('S2');
    expect([heard[1]! > 0, journal.keeps]).toEqual([true, true]);
    stop();
  });

  it('handles each scan once, in order, also what is scanned while what was left is taken up', async () => {
    await journal.note('door A-2', 'LEFT', new Date());
    journal.page = 'opened anew';
    const heard: string[] = [];
    const page = async (text: string) => {
      await after(5);
      heard.push(text);
      return { words: text };
    };
    const first = scanLine.use(page, 'door A-2', async () => void heard.push('restored'));
    await Promise.all([scanLine.scan('S1'), scanLine.scan('S2')]);
    expect(heard).toEqual(['restored', 'LEFT', 'S1', 'S2']);
    // The page is opened anew while scans are on their way: what they led to is restored after them.
    const way = scanLine.scan('S3');
    first();
    const second = scanLine.use(page, 'door A-2', async () => void heard.push('restored again'));
    await Promise.all([way, scanLine.scan('S4')]);
    expect(heard.slice(4)).toEqual(['S3', 'restored again', 'S4']);
    second();
  });

  it('goes on after a refusal and after a broken handler', async () => {
    const stop = scanLine.use(async (text) => {
      if (text === 'NO') throw new Problem('over', 'Over.', 'Ask.', 422);
      if (text === 'BROKEN') throw new Error('a bug');
      return { words: 'Good.', tone: 'taken' };
    });
    await scanLine.scan('NO');
    expect(scanLine.said).toEqual({ read: 'NO', words: 'Over.', next: 'Ask.', tone: 'refused' });
    await scanLine.scan('BROKEN');
    expect(scanLine.said.tone).toBe('refused');
    await scanLine.scan('YES');
    expect(scanLine.said.words).toBe('Good.');
    stop();
  });

  it('knows a badge by its beginning, with a sign of the scanner before it too, and no page gets it', async () => {
    const seen: string[] = [];
    const stop = scanLine.use(async (text) => {
      seen.push(text);
      return { words: '' };
    });
    await scanLine.scan(']C0BADGE-003');
    expect(scanLine.badge).toBe('BADGE-003');
    await scanLine.scan('A CODE THAT ONLY CONTAINS BADGE-003');
    expect(seen).toEqual(['A CODE THAT ONLY CONTAINS BADGE-003']);
    stop();
  });

  it('a page that is left takes no more scans, and does not stop the one that came after it', async () => {
    const first = scanLine.use(async () => ({ words: 'first' }));
    const second = scanLine.use(async () => ({ words: 'second' }));
    first();
    await scanLine.scan('X');
    expect(scanLine.said.words).toBe('second');
    second();
  });

  it('says what was done without a scan, and does not call it read', async () => {
    const stop = scanLine.use(async () => ({ words: 'A label.' }));
    await scanLine.scan('X');
    scanLine.say({ words: 'Taken: 2 boxes.', next: 'scan the next label', tone: 'taken' });
    expect(scanLine.said).toEqual({ words: 'Taken: 2 boxes.', next: 'scan the next label', tone: 'taken' });
    stop();
  });

  it.each([
    [{ kind: 'Arrival', code: 'A-2624', arrival: 'A-2624' }, '/road/arrivals/A-2624'],
    [{ kind: 'Order', code: 'PO-1/2', order: 'PO-1/2', arrival: null }, '/road/orders/PO-1%2F2'],
    [{ kind: 'Order', code: 'PO-1', order: 'PO-1', arrival: 'A-7' }, '/road/arrivals/A-7'],
    [{ kind: 'Batch', code: 'FE-0310-1' }, '/book?text=FE-0310-1'],
    [{ code: 'A-01-1', kind: 'Bin' }, '/book?text=A-01-1'],
    [{ kind: 'Unknown', code: 'FREMD' }, undefined],
  ] as const)('where no page takes scans, shows the page of %o', (what, page) =>
    expect(pageOf(reading({ item: null, ...what }))).toBe(page),
  );

  it('shows no page of what is wrong', () =>
    expect(
      pageOf(reading({ code: 'H-01', kind: 'Bin', problem: { code: 'other-site', sentence: 'Elsewhere.', next: '' } })),
    ).toBeUndefined());

  it('shows the separator as a sign', () => expect(shown('10AB\u001d21X')).toBe('10AB␝21X'));
});
