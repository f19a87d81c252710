import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { newActId, type Schemas } from '$lib/api/client';
import { database } from '$lib/device';
import { journal, type Scanned } from '$lib/journal.svelte';
import { scanLine } from '$lib/scan.svelte';
import { counted, FakeServer, reading, refusal, signIn } from '$lib/testing/server';
import { Draft } from './draft.svelte';
import { waiting } from './waiting.svelte';

type Request = Schemas['CountRequest'];
const scan = '/api/LM/scan';
const count = '/api/LM/door/count';

let server: FakeServer;
let draft: Draft;
/** What each label is read as. */
let labels: Record<string, Schemas['Reading']>;

const spade = reading();
const fork = reading({ words: 'Digging fork, box of 6.', code: 'FK' }, { code: 'FK-DG', name: 'Digging fork' });
const dated = { asks: ['sourceBatch', 'production', 'bestBefore'], needsBatch: true };
const coir = reading({ words: 'Coir brick.', packs: 1 }, { code: 'CB-05', name: 'Coir brick 5 kg', ...dated });
const detail = (more: Partial<Schemas['Reading']>) => reading({ kind: 'Details', item: null, ...more });

beforeEach(async () => {
  server = new FakeServer();
  signIn();
  for (const store of ['waiting', 'scans', 'inhand', 'kept'] as const) await (await database()).clear(store);
  await waiting.load();
  waiting.reachable = true;
  labels = { SPADE: spade, FORK: fork, COIR: coir };
  server.on(
    scan,
    (call) =>
      labels[call.query.get('text')!] ??
      reading({ kind: 'Unknown', item: null, words: 'Unknown.', code: call.query.get('text')!.replace(/^~/, '') }),
  );
  server.on(count, (call) => counted(`Taken: ${(call.body as Request).packs} ${(call.body as Request).item}.`));
  draft = new Draft('A-2618');
});

describe('a scan at the door', () => {
  it('of the same thing is one more', async () => {
    await draft.scan('SPADE');
    expect((await draft.scan('SPADE')).words).toContain('2 boxes');
    await draft.scan('SPADE');
    expect(draft.packs).toBe('3');
    expect(Number(draft.content)).toBe(18);
    expect(server.sent(count)).toEqual([]);
  });

  it('of another thing takes what stands filled in', async () => {
    await draft.scan('SPADE');
    await draft.scan('SPADE');
    const said = await draft.scan('FORK');
    expect(said).toMatchObject({ tone: 'taken' });
    expect(said.words).toBe('Taken: 2 SP-DG. Digging fork, box of 6.');
    expect(server.sent<Request>(count)).toMatchObject([
      { arrival: 'A-2618', item: 'SP-DG', pack: 'box', packs: '2', scanned: 'SPADE' },
    ]);
    expect(draft.reading?.item?.code).toBe('FK-DG');
    expect(draft.packs).toBe('1');
  });

  it('after something that is no number was typed begins at one', async () => {
    await draft.scan('SPADE');
    draft.packs = 'seven';
    expect(draft.words).toBe('?');
    await draft.scan('SPADE');
    expect(draft.packs).toBe('1');
  });

  it('of another pack of the same item is another count', async () => {
    labels['EACH'] = reading({ pack: 'each', words: 'Digging spade.' });
    await draft.scan('SPADE');
    await draft.scan('EACH');
    expect(server.sent<Request>(count)).toMatchObject([{ pack: 'box', packs: '1' }]);
    expect(draft.pack).toBe('each');
  });

  it('of the same item with another batch reads what is still open after the first is taken', async () => {
    let open = 40;
    labels['BATCH-A'] = reading({ packs: open, proposed: true, sourceBatch: 'A' }, { code: 'CB-05' });
    server.on(scan, (call) =>
      call.query.get('text') === 'BATCH-A'
        ? labels['BATCH-A']
        : reading({ packs: open, proposed: true, sourceBatch: 'B' }, { code: 'CB-05' }),
    );
    server.on(count, () => {
      open -= 30;
      return counted();
    });
    await draft.scan('BATCH-A');
    draft.packs = '30';
    await draft.scan('BATCH-B');
    expect(draft.sourceBatch).toBe('B');
    expect(draft.packs).toBe('10');
  });

  it('of the piece in hand, once more, takes nothing', async () => {
    labels['PIECE-1'] = reading({ serial: 'S-1', pack: 'each' }, { code: 'IC-08', asks: ['serial'] });
    await draft.scan('PIECE-1');
    const again = await draft.scan('PIECE-1');
    expect(again.words).toContain('in hand already');
    expect(again.next).toContain('next piece');
    expect(server.sent(count)).toEqual([]);
  });

  it('of a piece that is on hand is refused and leaves what is in hand', async () => {
    labels['PIECE-2'] = reading(
      { serial: 'S-2', problem: { code: 'serial-here', sentence: 'Serial S-2 is on hand already.', next: 'Look.' } },
      { code: 'IC-08', asks: ['serial'] },
    );
    expect(await draft.scan('PIECE-2')).toMatchObject({ tone: 'refused', words: 'Serial S-2 is on hand already.' });
    expect(draft.reading).toBeNull();
    await draft.scan('SPADE');
    await draft.scan('PIECE-2');
    expect(draft.reading?.item?.code).toBe('SP-DG');
    expect(server.sent(count)).toEqual([]);
  });

  it('keeps what stands filled in when that is refused, and says why', async () => {
    server.on(count, () => {
      throw refusal('over', '12 each would be over.');
    });
    await draft.scan('SPADE');
    await expect(draft.scan('FORK')).rejects.toMatchObject({ sentence: '12 each would be over.' });
    expect(draft.reading?.item?.code).toBe('SP-DG');
    expect(waiting.all).toEqual([]);
  });

  it('of a proposed quantity begins at one, since somebody counts now', async () => {
    labels['SPADE'] = reading({ packs: 8, proposed: true });
    const first = await draft.scan('SPADE');
    expect(first.next).toContain('look whether');
    expect(draft.packs).toBe('8');
    await draft.scan('SPADE');
    expect(draft.packs).toBe('1');
    await draft.scan('SPADE');
    expect(draft.packs).toBe('2');
  });

  it('fills batch and date of the item before it, in the order in which they are asked', async () => {
    labels['NC-7'] = detail({ words: 'Source batch NC-7.', sourceBatch: 'NC-7' });
    labels['270309'] = detail({ words: 'Best before 2027-03-09.', bestBefore: '2027-03-09' });
    expect((await draft.scan('COIR')).next).toBe('the source batch of this item');
    expect((await draft.scan('NC-7')).next).toBe('the dates of this batch');
    expect((await draft.scan('270309')).next).toBe('take it');
    await draft.take();
    expect(server.sent<Request>(count)).toMatchObject([
      { item: 'CB-05', sourceBatch: 'NC-7', bestBefore: '2027-03-09' },
    ]);
    expect(server.calls.filter((c) => c.path === scan).map((c) => c.query.get('wanted') ?? '')).toEqual([
      '',
      'sourceBatch,production,bestBefore',
      'production,bestBefore',
    ]);
  });

  it('that carries item, batch, date and count fills all of them at once', async () => {
    labels['WHOLE'] = { ...coir, sourceBatch: 'NC-8', production: '2026-02-01', bestBefore: '2028-02-01', packs: 4 };
    expect((await draft.scan('WHOLE')).next).toBe('scan again for one more, or take it');
    expect(draft.wanted()).toEqual([]);
    expect(draft.packs).toBe('4');
  });

  it('of another batch of the same item is another count', async () => {
    labels['A'] = { ...coir, sourceBatch: 'NC-A', bestBefore: '2028-02-01' };
    labels['B'] = { ...coir, sourceBatch: 'NC-B', bestBefore: '2028-02-01' };
    await draft.scan('A');
    await draft.scan('A');
    await draft.scan('B');
    expect(server.sent<Request>(count)).toMatchObject([{ sourceBatch: 'NC-A', packs: '2' }]);
    expect(draft.sourceBatch).toBe('NC-B');
  });

  it('takes serial numbers one after another and counts down', async () => {
    labels['PUMP'] = reading(
      { pack: 'each', words: 'Pump.', line: { open: 3 } as Schemas['LineOption'] },
      { code: 'PU-01', name: 'Pump', asks: ['serial'] },
    );
    for (const serial of ['P1', 'P2', 'P3']) labels[serial] = detail({ words: `Serial ${serial}.`, serial });
    await draft.scan('PUMP');
    await draft.scan('P1');
    expect(draft.serial).toBe('P1');
    expect((await draft.scan('P2')).next).toBe('scan the next serial number, 1 more after this');
    expect((await draft.scan('P3')).next).toBe('take it');
    await draft.take();
    expect(server.sent<Request>(count).map((c) => c.serial)).toEqual(['P1', 'P2', 'P3']);
  });

  it('of a code with several items asks which, and goes on with the one that is named', async () => {
    labels['SHARED'] = reading({
      words: 'Either.',
      several: ['SP-DG', 'FK-DG'].map((code) => ({ code, name: code, aboard: true })),
    });
    server.on(scan, (call) => (call.query.get('item') === 'FK-DG' ? fork : labels[call.query.get('text')!]!));
    expect((await draft.scan('SHARED')).next).toContain('choose the item');
    expect(draft.several?.items.map((i) => i.code)).toEqual(['SP-DG', 'FK-DG']);
    await draft.scan('fk-dg');
    expect(draft.reading?.item?.code).toBe('FK-DG');
    expect(draft.several).toBeNull();
  });

  it('of an unknown code leaves the count in hand alone', async () => {
    await draft.scan('SPADE');
    // What the scanner types before a code is no part of what is asked about, or bound.
    await draft.scan('~WHAT');
    expect(draft.unknown).toBe('WHAT');
    expect(draft.packs).toBe('1');
    expect(server.sent(count)).toEqual([]);
  });

  it('of goods on no order shows them, to be counted aside', async () => {
    labels['STRAY'] = reading({ problem: { code: 'not-on-arrival', sentence: 'On no order here.', next: '' } });
    expect(await draft.scan('STRAY')).toMatchObject({ words: 'On no order here.', tone: 'refused' });
    expect(draft.aside).toBe('NotOnOrder');
  });

  it('of an announced unit takes in the whole unit, after what stands filled in', async () => {
    labels['UNIT'] = reading({ kind: 'AdvisedUnit', item: null, sscc: '395212340000000014' });
    server.on('/api/LM/door/count-unit', () => ({ sentence: 'Unit taken in.' }));
    await draft.scan('SPADE');
    expect((await draft.scan('UNIT')).words).toBe('Unit taken in.');
    expect(server.calls.map((c) => c.path).slice(-2)).toEqual([count, '/api/LM/door/count-unit']);
  });

  it('of the same labelled unit twice does not count it twice', async () => {
    labels['PALLET'] = reading({ pack: 'pallet', sscc: '395212340000000014' });
    await draft.scan('PALLET');
    expect((await draft.scan('PALLET')).words).toContain('The same unit again');
    expect(draft.packs).toBe('1');
  });
});

describe('taking a count', () => {
  it('pressed twice counts once', async () => {
    await draft.scan('SPADE');
    await Promise.all([draft.take(), draft.take()]);
    expect(server.sent(count)).toHaveLength(1);
  });

  it('that was refused and put right is a new act', async () => {
    await draft.scan('SPADE');
    let no = true;
    server.on(count, () => {
      if (no) throw refusal('over', 'Over.');
      return counted();
    });
    await draft.take();
    no = false;
    draft.packs = '2';
    draft.changed();
    await draft.take();
    const ids = server.calls.filter((c) => c.path === count).map((c) => c.id);
    expect(new Set(ids).size).toBe(2);
    expect(draft.reading).toBeNull();
  });

  it('asks once for what is recommended, and leaves it blank the second time', async () => {
    server.on(count, (call) => {
      if (!(call.body as Request).blankAllowed) throw refusal('recommended', 'Harvest is blank.');
      return counted();
    });
    await draft.scan('SPADE');
    await draft.take();
    expect(draft.error).toMatchObject({ sentence: 'Harvest is blank.' });
    await draft.take();
    expect(draft.error).toBeNull();
    expect(server.sent<Request>(count).map((c) => c.blankAllowed)).toEqual([false, true]);
  });

  it('of several pack levels adds them up', async () => {
    await draft.scan('SPADE');
    draft.packs = '2';
    draft.more = [
      { pack: 'pallet', packs: '1' },
      { pack: 'each', packs: '' },
    ];
    expect(Number(draft.content)).toBe(12 + 96);
  });

  it('measured in another unit says what was typed, not what it comes to', async () => {
    labels['HOSE'] = reading();
    labels['HOSE'].item = { ...labels['HOSE'].item!, unit: 'm', measures: ['ft', 'yd'] };
    await draft.scan('HOSE');
    expect([draft.words, draft.unit]).toEqual(['6', 'm']);
    draft.pack = 'ft';
    draft.packs = '12.5';
    expect([draft.words, draft.unit]).toEqual(['12.5 ft', '']);
    draft.more = [{ pack: 'box', packs: '2' }];
    expect(draft.words).toBe('12.5 ft and 2 boxes');
  });

  it('whose answer is lost is kept, and sent again under its own id', async () => {
    await draft.scan('SPADE');
    server.deaf = true;
    await draft.take();
    expect(draft.taken?.sentence).toContain('Kept on this device');
    expect(waiting.onTheirWay).toHaveLength(1);
    server.deaf = false;
    const id = server.calls.at(-1)!.id;
    server.on('/api/LM/door/counts', (call) =>
      (call.body as { id: string }[]).map((w) => ({
        id: w.id,
        answer: server.done.get(w.id) ?? 'again',
        problem: null,
      })),
    );
    await waiting.sendAll();
    expect(server.sent<{ id: string }[]>('/api/LM/door/counts')[0]![0]!.id).toBe(id);
    expect(waiting.all).toEqual([]);
  });
});

describe('goods that have something of their own', () => {
  const pallet = (more: Partial<Schemas['Reading']>) => reading({ pack: 'pallet', words: 'Pallet.', ...more }, dated);

  it.each([
    ['a unit number', { sscc: '395212340000000014' }, { sscc: '395212340000000021' }],
    ['a batch', { sourceBatch: 'NC-1' }, { sourceBatch: 'NC-2' }],
    ['a best before', { bestBefore: '2028-01-01' }, { bestBefore: '2028-02-01' }],
    ['an expiry', { expiry: '2028-01-01' }, { expiry: '2028-02-01' }],
    ['a production date', { production: '2026-01-01' }, { production: '2026-02-01' }],
    ['an origin', { origin: 'LK' }, { origin: 'IN' }],
    ['a unit number, beside one without', {}, { sscc: '395212340000000021' }],
  ])('%s are not one more of what is in hand', async (_, first, second) => {
    labels['P1'] = pallet(first);
    labels['P2'] = pallet(second);
    await draft.scan('P1');
    await draft.scan('P2');
    await draft.take();
    expect(server.sent<Request>(count)).toMatchObject([
      { packs: '1', ...first },
      { packs: '1', ...second },
    ]);
  });

  it('three pallets with three numbers are three counts', async () => {
    const numbers = ['395212340000000014', '395212340000000021', '395212340000000038'];
    for (const sscc of numbers) labels[sscc] = pallet({ sscc });
    for (const sscc of numbers) await draft.scan(sscc);
    await draft.take();
    expect(server.sent<Request>(count).map((c) => [c.sscc, c.packs])).toEqual(numbers.map((n) => [n, '1']));
  });

  it('a known batch with another date is a question, and nothing is counted by the next scan', async () => {
    const problem = { code: 'batch-dates-differ', sentence: 'NC-1 came with best before 2028-01-01.', next: 'Look.' };
    labels['P'] = pallet({ sourceBatch: 'NC-1', bestBefore: '2029-01-01', problem });
    expect(await draft.scan('P')).toMatchObject({ tone: 'refused', words: problem.sentence });
    expect(draft.error).toMatchObject({ code: 'batch-dates-differ' });
    expect(server.sent(count)).toEqual([]);
  });

  it('a batch that seems to have swallowed a date is asked about before anything else is scanned', async () => {
    const problem = { code: 'batch-swallows', sentence: 'The separator may be missing.', next: 'Say which.' };
    const instead = detail({ sourceBatch: '2291', production: '2025-10-31' });
    labels['P'] = pallet({ sourceBatch: '229111251031', problem, instead } as Partial<Schemas['Reading']>);
    await draft.scan('P');
    expect(await draft.scan('SPADE')).toMatchObject({ tone: 'refused', words: problem.sentence });
    draft.splitBatch();
    expect([draft.sourceBatch, draft.production]).toEqual(['2291', '2025-10-31']);
    await draft.scan('SPADE');
    expect(server.sent<Request>(count)).toMatchObject([{ sourceBatch: '2291', production: '2025-10-31' }]);
  });

  it('a label that says other than what stands there fills nothing until a person says which is right', async () => {
    labels['A'] = { ...coir, sourceBatch: 'NC-A', bestBefore: '2028-02-01' };
    labels['B'] = detail({ words: 'Source batch NC-B.', sourceBatch: 'NC-B' });
    await draft.scan('A');
    await draft.scan('B');
    expect(draft.sourceBatch).toBe('NC-A');
    await draft.settleInstead(false);
    expect(server.sent<Request>(count)).toMatchObject([{ sourceBatch: 'NC-A' }]);
    expect(draft.sourceBatch).toBe('NC-B');
  });

  it('a text that is no code waits for one press before it is a batch', async () => {
    labels['WRONG'] = reading({
      kind: 'Unknown',
      item: null,
      offers: 'sourceBatch',
      sourceBatch: 'WRONG',
      code: 'WRONG',
      words: 'WRONG is no code here.',
    });
    await draft.scan('COIR');
    await draft.scan('WRONG');
    expect(draft.sourceBatch).toBe('');
    await draft.scan('SPADE');
    expect(server.sent<Request>(count)).toMatchObject([{ sourceBatch: null }]);
    await draft.take();
    await draft.scan('COIR');
    await draft.scan('WRONG');
    await draft.accept();
    expect(draft.sourceBatch).toBe('WRONG');
  });
});

describe('a label scanned twice within a moment', () => {
  const settings = {
    scanner: { prefix: '', suffix: '', separator: '', pace: 0, repeatWithin: 300 },
  } as unknown as Schemas['CountSettings'];

  it('is counted once and asked about once', async () => {
    draft = new Draft('A-2618', () => settings);
    await draft.scan('SPADE', { seq: 0, at: 1000 });
    expect((await draft.scan('SPADE', { seq: 0, at: 1250 })).words).toContain('twice within a moment');
    expect(draft.packs).toBe('1');
    await draft.itWasTwo();
    expect(draft.packs).toBe('2');
    await draft.scan('SPADE', { seq: 0, at: 2000 });
    expect(draft.packs).toBe('3');
  });

  it('is a question no longer when the goods are left', async () => {
    draft = new Draft('A-2618', () => settings);
    for (const at of [1000, 1200]) await draft.scan('SPADE', { seq: 0, at });
    draft.clear();
    expect(draft.repeated).toBeNull();
    await draft.scan('SPADE', { seq: 0, at: 5000 });
    expect([draft.packs, draft.repeated]).toEqual(['1', null]);
  });

  it('is no question where the site asks none, though both come in the same millisecond', async () => {
    for (const at of [1000, 1000]) await draft.scan('SPADE', { seq: 0, at });
    expect([draft.packs, draft.repeated]).toEqual(['2', null]);
  });

  it('is asked about once in each burst, and no question is forgotten over the next', async () => {
    draft = new Draft('A-2618', () => settings);
    for (const at of [1000, 1200, 1400, 2000, 2200]) await draft.scan('SPADE', { seq: 0, at });
    expect([draft.packs, draft.repeated]).toEqual(['3', { text: 'SPADE', times: 2 }]);
    await draft.itWasTwo();
    expect([draft.packs, draft.repeated]).toEqual(['5', null]);
  });
});

describe('a press and a scan at the same time', () => {
  it('lose nothing: the scan waits until what was pressed is answered', async () => {
    await draft.scan('SPADE');
    const pressed = draft.take();
    await Promise.all([pressed, draft.scan('FORK')]);
    expect(draft.reading?.item?.code).toBe('FK-DG');
    await draft.take();
    expect(server.sent<Request>(count).map((c) => c.item)).toEqual(['SP-DG', 'FK-DG']);
  });

  it('leave nothing in hand that is on its way: a page closed then counts it once', async () => {
    await draft.scan('SPADE');
    const pressed = draft.take();
    draft.changed();
    await pressed;
    await expect.poll(async () => (await journal.hand('door A-2618'))?.held).toBeNull();
    server.cut = true;
    await draft.scan('COIR').catch(() => undefined);
    expect((await journal.hand('door A-2618'))?.held).toBeNull();
  });
});

describe('a page that is closed', () => {
  /** The page is closed: nothing of it is left but what lies on the disk. */
  const reopen = async () => {
    journal.page = newActId();
    waiting.all = [];
    await waiting.load();
    draft = new Draft('A-2618');
    await draft.restore();
  };
  /** All that lies on the disk unhandled. */
  const unhandled = async () => ((await (await database()).getAll('scans')) as Scanned[]).map((s) => s.text);
  const place = 'door A-2618';

  it('finds what was in hand, as it was typed', async () => {
    await draft.scan('COIR');
    draft.packs = '7';
    draft.sourceBatch = 'NC-9';
    draft.changed();
    await expect.poll(async () => (await journal.hand<{ packs: string }>(place))?.held?.packs).toBe('7');
    await reopen();
    expect([draft.reading?.item?.code, draft.packs, draft.sourceBatch]).toEqual(['CB-05', '7', 'NC-9']);
    await draft.take();
    expect(server.sent<Request>(count)).toMatchObject([{ item: 'CB-05', packs: '7', sourceBatch: 'NC-9' }]);
    await reopen();
    expect(draft.reading).toBeNull();
  });

  it('while nothing answers loses none of its scans, and works each in once', async () => {
    let hang = true;
    const fetched = vi.fn(() => (hang ? new Promise(() => undefined) : Promise.reject(new TypeError('no network'))));
    vi.stubGlobal('fetch', fetched);
    const closed = draft;
    const stop = scanLine.use((text, scan) => closed.scan(text, scan), place);
    for (const text of ['SPADE', 'FORK', 'COIR']) void scanLine.scan(text);
    await expect.poll(unhandled).toEqual(['SPADE', 'FORK', 'COIR']);
    await expect.poll(() => fetched.mock.calls.length).toBe(1);
    stop();
    hang = false;
    (scanLine as unknown as { queue: Promise<void> }).queue = Promise.resolve();
    await reopen();
    const here = draft;
    const end = scanLine.use((text, scan) => here.scan(text, scan), place);
    await scanLine.scan('SPADE');
    expect(waiting.onTheirWay.map((w) => w.text)).toEqual(['SPADE', 'FORK', 'COIR', 'SPADE']);
    expect(waiting.onTheirWay.map((w) => w.text)).toEqual(['SPADE', 'FORK', 'COIR', 'SPADE']);
    expect(await unhandled()).toEqual([]);
    end();
  });

  it('between the taking of one and the next scan works that scan in once more, and the first not again', async () => {
    await draft.scan('SPADE', { seq: await journal.note(place, 'SPADE', new Date()), at: 0 });
    const fork = await journal.note(place, 'FORK', new Date());
    // The spade is taken because of the fork's scan, and the page is closed before the fork stands there.
    await draft.take();
    await reopen();
    expect((await journal.left(place)).map((s) => s.text)).toEqual(['FORK']);
    await draft.scan('FORK', { seq: fork, at: 0 });
    expect(await unhandled()).toEqual([]);
    await draft.take();
    expect(server.sent<Request>(count).map((c) => [c.item, c.packs])).toEqual([
      ['SP-DG', '1'],
      ['FK-DG', '1'],
    ]);
  });

  it('keeps what is in hand for who scanned it; the next person begins with an empty hand', async () => {
    await draft.scan('SPADE');
    signIn(4, 'Maren Oduya');
    await reopen();
    expect(draft.reading).toBeNull();
    await draft.scan('FORK');
    signIn();
    await reopen();
    expect(draft.reading?.item?.code).toBe('SP-DG');
  });
});

describe('an error after the server has counted', () => {
  it('is no refusal: pressed again, or sent again, it is the same act and counted once', async () => {
    await draft.scan('SPADE');
    let gateway = true;
    const real = globalThis.fetch;
    vi.stubGlobal('fetch', async (url: string, init: RequestInit) => {
      const answer = await real(url, init);
      return gateway && url.includes('/door/count') ? new Response('<html>502</html>', { status: 502 }) : answer;
    });
    await draft.take();
    expect(draft.taken?.sentence).toContain('Kept on this device');
    await draft.take();
    gateway = false;
    server.on('/api/LM/door/counts', (call) =>
      (call.body as { id: string }[]).map((w) => ({
        id: w.id,
        answer: server.done.get(w.id) ?? 'twice',
        problem: null,
      })),
    );
    await waiting.sendAll();
    const ids = server.calls.filter((c) => c.path === count).map((c) => c.id);
    expect(ids).toHaveLength(1);
    expect(
      server
        .sent<{ id: string }[]>('/api/LM/door/counts')
        .flat()
        .map((w) => w.id),
    ).toEqual(ids);
    expect(waiting.all).toEqual([]);
  });
});

describe('what came back from a dead spot', () => {
  const box = {
    code: 'SPADE',
    item: 'SP-DG',
    name: 'Digging spade',
    pack: 'box',
    isUnit: false,
    asks: [],
  } as unknown as Schemas['CodeAboard'];
  const back = { code: 'over', sentence: 'Over.', next: 'Ask.' };

  it('is in hand again with all that was kept with it, and taken under its own id and label', async () => {
    labels['BATCH-7'] = detail({ words: 'Batch.', sourceBatch: 'B-7' });
    labels['SPADE'] = reading({}, dated);
    await waiting.keepScan('A-2618', 'SPADE', 'Digging spade', box);
    await waiting.addDetail(waiting.all[0]!.seq!, 'BATCH-7');
    waiting.all = [{ ...waiting.all[0]!, back, sscc: '395212340000000014', typed: { packs: '4' } }];
    const entry = waiting.all[0]!;
    await draft.takeUp(entry);
    expect([draft.packs, draft.sourceBatch, draft.error]).toMatchObject(['4', 'B-7', { code: 'over' }]);
    expect(waiting.all).toEqual([]);
    await draft.take();
    expect(server.calls.filter((c) => c.path === count).map((c) => c.id)).toEqual([entry.id]);
    expect(server.sent<Request>(count)).toMatchObject([{ units: ['395212340000000014'], packs: '4' }]);
  });

  it('keeps several labels of the same goods together, and sends them as one count', async () => {
    await (
      await database()
    ).put('kept', {
      arrival: 'LM A-2618',
      codes: [{ ...box, asks: ['sourceBatch', 'production', 'bestBefore'] }],
      tally: { settings: {} },
    });
    server.cut = true;
    await draft.scan('SPADE');
    await draft.scan('NC-0310-2');
    await draft.scan('(15)280201');
    expect(waiting.all.map((w) => [w.text, w.details])).toEqual([['SPADE', ['NC-0310-2', '(15)280201']]]);
    server.cut = false;
    labels['NC-0310-2'] = detail({ sourceBatch: 'NC-0310-2' });
    labels['(15)280201'] = detail({ bestBefore: '2028-02-01' });
    server.on('/api/LM/door/counts', (call) =>
      (call.body as { id: string }[]).map((w) => ({ id: w.id, answer: counted(), problem: null })),
    );
    await waiting.sendAll();
    expect(
      server
        .sent<{ request: Request }[]>('/api/LM/door/counts')
        .flat()
        .map((w) => w.request),
    ).toMatchObject([{ sourceBatch: 'NC-0310-2', bestBefore: '2028-02-01' }]);
  });

  it('is left uncounted only with a reason, which goes into the book and can be taken back', async () => {
    const said: unknown[] = [];
    server.on('/api/LM/door/not-counted', (call) => {
      said.push(call.body);
      return { sentence: 'Not counted.' };
    });
    await waiting.keepScan('A-2618', 'SPADE', 'Digging spade', box);
    waiting.all = [{ ...waiting.all[0]!, back }];
    await waiting.notToCount(waiting.all[0]!, 'scanned from the wrong stack');
    expect(waiting.cameBack).toEqual([]);
    expect(waiting.notCounted).toHaveLength(1);
    await waiting.takeBackLeft(waiting.notCounted[0]!);
    expect(waiting.cameBack).toHaveLength(1);
    expect(said).toMatchObject([
      { reason: 'scanned from the wrong stack', takesBack: null },
      { takesBack: expect.any(String) },
    ]);
  });
});
