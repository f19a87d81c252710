import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { limits, type Schemas } from '$lib/api/client';
import { database } from '$lib/device';
import { session } from '$lib/session.svelte';
import { counted, FakeServer, reading, refusal, signIn } from '$lib/testing/server';
import { plainCount } from './count';
import { countOf, waiting } from './waiting.svelte';

type Sent = { id: string; request: Schemas['CountRequest'] }[];
const counts = '/api/LM/door/counts';
const box = {
  code: '19521234100014',
  item: 'SP-DG',
  name: 'Digging spade',
  pack: 'box',
  isUnit: false,
} as unknown as Schemas['CodeAboard'];
const pallet = { ...box, pack: 'pallet', isUnit: true, batchStart: 'SP-0310-', batchEnd: '' };

let server: FakeServer;

beforeEach(async () => {
  server = new FakeServer();
  signIn();
  const db = await database();
  for (const store of ['waiting', 'blocks', 'batches', 'kept'] as const) await db.clear(store);
  await waiting.load();
  waiting.reachable = true;
  server.on('/api/LM/scan', (call) => reading({ code: call.query.get('text')! }));
  server.on(counts, (call) => (call.body as Sent).map((w) => ({ id: w.id, answer: counted(), problem: null })));
});

const keep = async (n: number) => {
  for (let i = 0; i < n; i++) await waiting.keepScan('A-2618', `S${i}`, `Scan ${i}`, box);
};

describe('what waits on a device', () => {
  it('survives that the page is closed', async () => {
    await keep(3);
    waiting.all = [];
    await waiting.load();
    expect(waiting.all.map((w) => w.text)).toEqual(['S0', 'S1', 'S2']);
  });

  it('is sent in order, each once, under the id it was given when it was scanned', async () => {
    await keep(50);
    const ids = waiting.all.map((w) => w.id);
    await Promise.all([waiting.sendAll(), waiting.sendAll()]);
    expect(
      server
        .sent<Sent>(counts)
        .flat()
        .map((w) => w.id),
    ).toEqual(ids);
    expect(server.sent<Sent>(counts).map((s) => s.length)).toEqual([32, 18]);
    expect(waiting.all).toEqual([]);
    expect(await (await database()).count('waiting')).toBe(0);
  });

  it('stays when the network fails in the middle, and goes on from there', async () => {
    await keep(40);
    let requests = 0;
    server.on(counts, (call) => {
      if (++requests === 2) throw new TypeError('no network');
      return (call.body as Sent).map((w) => ({ id: w.id, answer: counted(), problem: null }));
    });
    await waiting.sendAll();
    expect(waiting.reachable).toBe(false);
    expect(waiting.onTheirWay).toHaveLength(8);
    await waiting.sendAll();
    expect(waiting.all).toEqual([]);
    expect(waiting.reachable).toBe(true);
  });

  it('is sent again when its answer was lost: the server sees the same id', async () => {
    await keep(1);
    server.deaf = true;
    await waiting.sendAll();
    server.deaf = false;
    await waiting.sendAll();
    const ids = server
      .sent<Sent>(counts)
      .flat()
      .map((w) => w.id);
    expect(ids).toHaveLength(2);
    expect(new Set(ids).size).toBe(1);
  });

  it('comes back to the person when it is refused, and holds none of the others up', async () => {
    await keep(3);
    server.on(counts, (call) =>
      (call.body as Sent).map((w, i) =>
        i === 1
          ? { id: w.id, answer: null, problem: { code: 'over', sentence: 'Over.', next: 'Ask.' } }
          : { id: w.id, answer: counted(), problem: null },
      ),
    );
    await waiting.sendAll();
    expect(waiting.cameBack.map((w) => [w.text, w.back?.sentence])).toEqual([['S1', 'Over.']]);
    expect(waiting.onTheirWay).toEqual([]);
    await waiting.load();
    expect(waiting.cameBack).toHaveLength(1);
  });

  it('comes back when nobody can read it, and the rest is counted', async () => {
    await keep(2);
    server.on('/api/LM/scan', (call) =>
      call.query.get('text') === 'S0' ? reading({ kind: 'Unknown', item: null, words: 'Nobody knows S0.' }) : reading(),
    );
    await waiting.sendAll();
    expect(waiting.cameBack.map((w) => w.back?.sentence)).toEqual(['Nobody knows S0.']);
    expect(server.sent<Sent>(counts).flat()).toHaveLength(1);
  });

  it('of somebody else waits until they are back', async () => {
    await keep(1);
    signIn(4, 'Maren Oduya');
    await keep(1);
    await waiting.sendAll();
    expect(waiting.onTheirWay.map((w) => w.personName)).toEqual(['Leila Fennimore']);
    signIn(3, 'Leila Fennimore');
    await waiting.sendAll();
    expect(waiting.all).toEqual([]);
  });

  it('is not sent while somebody works on who changed in a dead spot', async () => {
    await keep(1);
    session.away = true;
    await waiting.sendAll();
    expect(server.calls).toEqual([]);
    expect(waiting.onTheirWay).toHaveLength(1);
  });

  it('keeps the order of counts and put-away steps', async () => {
    await keep(1);
    await waiting.keep({
      id: 'step',
      arrival: '',
      words: 'down',
      step: { path: '/api/{site}/shelf/put-down', body: { task: 7, bin: 'A-01' } as Schemas['PutDownRequest'] },
    });
    await keep(1);
    server.on('/api/LM/shelf/put-down', () => ({ sentence: 'Down.' }));
    await waiting.sendAll();
    expect(server.calls.map((c) => c.path).filter((p) => p !== '/api/LM/scan')).toEqual([
      counts,
      '/api/LM/shelf/put-down',
      counts,
    ]);
  });

  it('sends what was found at the bench in its order, and gives back what is refused', async () => {
    const find = (piece: number) =>
      waiting.keep({
        id: `find-${piece}`,
        arrival: '',
        words: `piece ${piece}`,
        step: {
          path: '/api/{site}/bench/find',
          body: { inspection: 'I-0026', piece, characteristic: 1, value: '0.08' } as Schemas['FindRequest'],
        },
      });
    await find(1);
    await find(2);
    await keep(1);
    expect(waiting.findingsOf('I-0026').map((w) => w.id)).toEqual(['find-1', 'find-2']);
    expect(waiting.findingsOf('I-0025')).toEqual([]);
    server.on('/api/LM/bench/find', () => ({ sentence: 'Gap, piece 1: 0.08 mm.' }));
    await waiting.sendAll();
    expect(server.calls.map((c) => c.path).filter((p) => p !== '/api/LM/scan')).toEqual([
      '/api/LM/bench/find',
      '/api/LM/bench/find',
      counts,
    ]);
    expect(waiting.findingsOf('I-0026')).toEqual([]);
  });

  it('gives a pallet its number and batch from the blocks of the device', async () => {
    const db = await database();
    await db.add('blocks', { site: 'LM', kind: 'Unit', start: '39521234', next: 10, to: 19 });
    await db.add('blocks', { site: 'LM', kind: 'Batch', start: '', next: 1001, to: 1050 });
    const kept = await waiting.keepScan('A-2618', 'P', 'Pallet', pallet);
    expect(kept.sscc).toMatch(/^39521234\d{10}$/);
    expect(kept.batch).toBe('SP-0310-1001');
    await waiting.sendAll();
    expect(server.sent<Sent>(counts)[0]![0]!.request).toMatchObject({ units: [kept.sscc], batch: 'SP-0310-1001' });
  });

  it('of goods without a label takes no number', async () => {
    await (await database()).add('blocks', { site: 'LM', kind: 'Unit', start: '39521234', next: 10, to: 19 });
    expect((await waiting.keepScan('A-2618', 'B', 'Box', box)).sscc).toBeUndefined();
  });

  it('is gone when the person has said to leave it uncounted', async () => {
    await keep(2);
    await waiting.forget(waiting.all[0]!);
    await waiting.load();
    expect(waiting.all.map((w) => w.text)).toEqual(['S1']);
  });
});

describe('a count that somebody stands by', () => {
  const count = '/api/LM/door/count';
  const entry = () =>
    waiting.keep({
      id: crypto.randomUUID(),
      arrival: 'A-2618',
      words: 'w',
      body: plainCount('A-2618', 'SP-DG', 'box', '1'),
    });

  it('is answered at once', async () => {
    server.on(count, () => counted('Taken.'));
    expect(await waiting.sendNow(await entry())).toMatchObject({ sentence: 'Taken.' });
    expect(waiting.all).toEqual([]);
  });

  it('waits behind what was scanned before it', async () => {
    await keep(1);
    server.on(count, () => counted());
    expect(await waiting.sendNow(await entry())).toBe('waits');
    await waiting.sendAll();
    await expect.poll(() => waiting.all.length).toBe(0);
    expect(server.sent(count)).toEqual([]);
  });

  it('tells its refusal and is not kept, since the form still holds it', async () => {
    server.on(count, () => {
      throw refusal('over', 'Over.');
    });
    await expect(waiting.sendNow(await entry())).rejects.toMatchObject({ code: 'over' });
    expect(waiting.all).toEqual([]);
  });

  it('is kept when there is no network', async () => {
    server.cut = true;
    expect(await waiting.sendNow(await entry())).toBe('waits');
    expect(waiting.reachable).toBe(false);
    expect(waiting.onTheirWay).toHaveLength(1);
  });
});

describe('a step that somebody stands by', () => {
  const find = '/api/LM/bench/find';
  const step = {
    path: '/api/{site}/bench/find' as const,
    body: { inspection: 'I-0024', piece: 1, characteristic: 2, value: '0.2', pass: null, reason: null, isSure: false },
  };
  const full = () =>
    vi.spyOn(IDBDatabase.prototype, 'transaction').mockImplementation(() => {
      throw new DOMException('No room is left.', 'QuotaExceededError');
    });

  it('is sent once where the device can keep nothing, and its answer is told', async () => {
    server.on(find, () => ({ sentence: 'Found.' }));
    const room = full();
    try {
      expect(await waiting.keepAndSend(step, 'piece 1')).toEqual({ sentence: 'Found.' });
    } finally {
      room.mockRestore();
    }
    expect(server.sent(find)).toHaveLength(1);
    expect(waiting.all).toEqual([]);
  });

  it('is refused, not lost unseen, where the device can keep nothing and there is no network', async () => {
    server.cut = true;
    const room = full();
    try {
      await expect(waiting.keepAndSend(step, 'piece 1')).rejects.toMatchObject({ status: 0 });
    } finally {
      room.mockRestore();
    }
    expect(waiting.all).toEqual([]);
  });

  it('comes through a network that is slower than anybody waits, since nobody stands by when it is sent late', async () => {
    const usual = { ...limits };
    Object.assign(limits, { scan: 20, late: 200 });
    try {
      server.on(find, () => ({ sentence: 'Found.' }));
      // One that is answered at once: nobody has waited for long yet.
      expect(await waiting.keepAndSend(step, 'piece 0')).toEqual({ sentence: 'Found.' });
      server.calls = [];
      server.slow = 60;
      expect(await waiting.keepAndSend(step, 'piece 1')).toBe('waits');
      for (let tries = 0; tries < 6 && waiting.onTheirWay.length > 0; tries++) await waiting.sendAll();
      expect(waiting.onTheirWay).toEqual([]);
      expect(waiting.reachable).toBe(true);
      // One act, however often it was sent: longer is waited each time.
      expect(server.calls.length).toBeGreaterThan(2);
      expect(new Set(server.calls.map((c) => c.id)).size).toBe(1);
    } finally {
      Object.assign(limits, usual);
    }
  });

  it('is kept, then sent', async () => {
    server.cut = true;
    expect(await waiting.keepAndSend(step, 'piece 1')).toBe('waits');
    expect(waiting.onTheirWay.map((w) => w.words)).toEqual(['piece 1']);
  });
});

describe('a scan that was read late', () => {
  it('counts one, for nobody has looked how many there are', () => {
    expect(countOf(reading({ packs: 8, proposed: true }), 'A-1').packs).toBe('1');
  });
  it('counts what the barcode says where it says so', () => {
    expect(countOf(reading({ packs: 4, sourceBatch: 'B', bestBefore: '2027-01-31' }), 'A-1')).toMatchObject({
      packs: '4',
      sourceBatch: 'B',
      bestBefore: '2027-01-31',
    });
  });
});

describe('a scan kept in a dead spot', () => {
  const attach = '/api/LM/road/arrivals/attach';
  const picture = () => ({
    id: crypto.randomUUID(),
    name: 'torn.jpg',
    bytes: new TextEncoder().encode('bytes').buffer as ArrayBuffer,
  });

  it('takes with it what was typed, beside what its label says, and its pictures first', async () => {
    const order: string[] = [];
    server.on('/api/LM/scan', () => reading({ sourceBatch: 'LABEL-7', packs: 1 }));
    server.on(attach, (call) => {
      order.push((call.body as { name: string }).name);
      return { id: 41, name: 'torn.jpg' };
    });
    server.on(counts, (call) => {
      order.push('counted');
      return (call.body as Sent).map((w) => ({ id: w.id, answer: counted(), problem: null }));
    });
    const kept = await waiting.keepScan('A-2618', 'S', 'Box', box);
    expect(await waiting.amend(kept.seq!, { packs: '4', origin: 'LK', attributes: { Field: '9' } }, [picture()])).toBe(
      true,
    );
    // The page is closed in between.
    waiting.all = [];
    await waiting.load();
    await waiting.sendAll();
    expect(order).toEqual(['torn.jpg', 'counted']);
    expect(server.sent<Sent>(counts)[0]![0]!.request).toMatchObject({
      packs: '4',
      sourceBatch: 'LABEL-7',
      origin: 'LK',
      attributes: { Field: '9' },
      pictures: [41],
    });
  });

  it('sends a picture again under its own id when the answer was lost, so that it is kept once', async () => {
    server.on(attach, () => ({ id: 41, name: 'torn.jpg' }));
    const kept = await waiting.keepScan('A-2618', 'S', 'Box', box);
    await waiting.amend(kept.seq!, {}, [picture()]);
    server.deaf = true;
    await waiting.sendAll();
    server.deaf = false;
    await waiting.sendAll();
    const sent = server.calls.filter((c) => c.path === attach).map((c) => c.id);
    expect(sent.length).toBeGreaterThan(1);
    expect(new Set(sent).size).toBe(1);
    expect(waiting.all).toEqual([]);
  });

  it('that is on its way takes nothing more, so that nothing is called kept and then not counted', async () => {
    const kept = await waiting.keepScan('A-2618', 'S', 'Box', box);
    const sending = waiting.sendAll();
    expect(await waiting.amend(kept.seq!, { packs: '9' }, [])).toBe(false);
    await sending;
    expect(server.sent<Sent>(counts)[0]![0]!.request.packs).toBe('1');
    // Where it came back, it may be added to again: only what still waits is.
    server.cut = true;
    const again = await waiting.keepScan('A-2618', 'T', 'Box', box);
    await waiting.sendAll();
    expect(await waiting.amend(again.seq!, { packs: '9' }, [])).toBe(true);
  });

  it('of a piece that was taken while its answer was lost is acknowledged, though the piece is on hand by then', async () => {
    const problem = { code: 'serial-here', sentence: 'Serial S-1 is on hand already.', next: 'Look.' };
    let taken = false;
    server.on('/api/LM/scan', () => reading({ serial: 'S-1', pack: 'each', ...(taken ? { problem } : {}) }));
    server.on(counts, (call) => {
      taken = true;
      return (call.body as Sent).map((w) => ({ id: w.id, answer: counted(), problem: null }));
    });
    await waiting.keepScan('A-2618', 'S', 'Piece', box);
    server.deaf = true;
    await waiting.sendAll();
    expect(waiting.onTheirWay).toHaveLength(1);
    server.deaf = false;
    await waiting.sendAll();
    expect(waiting.all).toEqual([]);
  });

  it('that was sent already takes nothing more, and is not laid back', async () => {
    const kept = await waiting.keepScan('A-2618', 'S', 'Box', box);
    await waiting.sendAll();
    expect(await waiting.amend(kept.seq!, { packs: '9' }, [])).toBe(false);
    expect(await (await database()).count('waiting')).toBe(0);
  });
});
