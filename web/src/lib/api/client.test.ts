import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { act, ask, device, newActId, Problem, setSite, setToken } from './client';

type Sent = { url: string; init: RequestInit };

let sent: Sent[];
let answer: () => Response | Promise<Response>;

beforeEach(() => {
  sent = [];
  answer = () => new Response('{}', { status: 200 });
  vi.stubGlobal('fetch', async (url: string, init: RequestInit) => {
    sent.push({ url, init });
    return answer();
  });
  setSite('LM');
  setToken('a-token');
});

afterEach(() => vi.unstubAllGlobals());

describe('a question', () => {
  it('goes to the site that is chosen, and leaves out what is blank', async () => {
    await ask('/api/{site}/scan', { text: '(01)0&1=2', arrival: 'A-2618', wanted: '', item: undefined });
    expect(sent[0]!.url).toBe(`/api/LM/scan?${new URLSearchParams({ text: '(01)0&1=2', arrival: 'A-2618' })}`);
    expect(sent[0]!.init.method).toBe('GET');
  });

  it('keeps a number in the path from becoming a path of its own', async () => {
    await ask('/api/{site}/door/tally/{number}', { number: 'A/../B?x' });
    expect(sent[0]!.url).toBe('/api/LM/door/tally/A%2F..%2FB%3Fx');
  });
});

describe('an act', () => {
  const count = () => act('/api/{site}/door/bind', { code: '1', item: 'SP-DG', pack: 'box' }, 'an-id');

  it('carries its id, the device and the anti-forgery token', async () => {
    await count();
    const headers = new Headers(sent[0]!.init.headers);
    expect([headers.get('Act-Id'), headers.get('X-Token'), headers.get('Device')]).toEqual([
      'an-id',
      'a-token',
      device(),
    ]);
    expect(sent[0]!.init.method).toBe('POST');
  });

  it('that is refused says what happened and what to do next', async () => {
    answer = () => new Response(JSON.stringify({ code: 'over', detail: 'Too many.', next: 'Ask.' }), { status: 422 });
    await expect(count()).rejects.toEqual(new Problem('over', 'Too many.', 'Ask.', 422));
  });

  it('that is pressed twice while it is on its way is done once, and both hear the answer', async () => {
    const fresh = () => act('/api/{site}/door/bind', { code: '1', item: 'SP-DG', pack: 'box' });
    let arrive: (given: Response) => void = () => undefined;
    answer = () => new Promise((resolve) => (arrive = resolve));
    const both = Promise.all([fresh(), fresh()]);
    arrive(new Response('{"sentence":"Bound."}', { status: 200 }));
    expect(await both).toEqual([{ sentence: 'Bound.' }, { sentence: 'Bound.' }]);
    expect(sent).toHaveLength(1);

    // Answered, it is done: the same again is another act, and another thing never was this one.
    answer = () => new Response('{}', { status: 200 });
    await Promise.all([fresh(), act('/api/{site}/door/bind', { code: '2', item: 'SP-DG', pack: 'box' })]);
    const ids = sent.map((s) => new Headers(s.init.headers).get('Act-Id'));
    expect(new Set(ids).size).toBe(3);
  });

  it.each([
    ['a gateway', () => new Response('<html>502</html>', { status: 502 })],
    ['a gateway that speaks JSON', () => new Response('{"error":"bad gateway"}', { status: 504 })],
    ['a portal', () => new Response('<html>Welcome to the free network</html>', { status: 200 })],
    ['a cut answer', () => new Response('{"sentence":"Tak', { status: 200 })],
  ])('that is answered by %s has no answer yet, and is the same act when it is done again', async (_, given) => {
    const fresh = () => act('/api/{site}/door/bind', { code: '1', item: 'SP-DG', pack: 'box' });
    answer = given;
    await expect(fresh()).rejects.toMatchObject({ code: 'no-network', status: 0 });
    answer = () => new Response('{"sentence":"Taken."}', { status: 200 });
    await fresh();
    await fresh();
    const ids = sent.slice(-3).map((s) => new Headers(s.init.headers).get('Act-Id'));
    expect(ids[1]).toBe(ids[0]);
    // What was answered is done: the same again is another act.
    expect(ids[2]).not.toBe(ids[1]);
  });

  it('that nothing answers is given up in time', async () => {
    vi.useFakeTimers();
    vi.stubGlobal(
      'fetch',
      (_url: string, init: RequestInit) =>
        new Promise((_, no) => init.signal!.addEventListener('abort', () => no(new Error('aborted')))),
    );
    const silent = expect(count()).rejects.toMatchObject({ status: 0 });
    await vi.advanceTimersByTimeAsync(20_000);
    await silent;
    vi.useRealTimers();
  });

  it('without a network says that nothing was done', async () => {
    answer = () => Promise.reject(new TypeError('failed'));
    await expect(count()).rejects.toMatchObject({ code: 'no-network', status: 0 });
  });

  it('asks who is here when the session has ended, and not for another refusal', async () => {
    let asked = 0;
    const hear = () => asked++;
    window.addEventListener('session-ended', hear);
    answer = () =>
      new Response(JSON.stringify({ code: 'not-signed-in', detail: 'Out.', next: 'In.' }), { status: 401 });
    await expect(count()).rejects.toBeInstanceOf(Problem);
    expect(asked).toBe(1);
    answer = () =>
      new Response(JSON.stringify({ code: 'right-missing', detail: 'No.', next: 'Ask.' }), { status: 403 });
    await expect(count()).rejects.toBeInstanceOf(Problem);
    expect(asked).toBe(1);
    window.removeEventListener('session-ended', hear);
  });
});

describe('names', () => {
  it('of acts are UUIDs of version 7 (RFC 9562), each later than the one before', () => {
    const ids = Array.from({ length: 50 }, newActId);
    for (const id of ids) expect(id).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
    expect([...ids].sort()).toEqual(ids);
    expect(new Set(ids).size).toBe(50);
  });

  it('of a device are made once and kept', () => expect(device()).toBe(device()));
});

describe('the set-up', () => {
  it('is asked for anew once when an answer was given by another version of it', async () => {
    const heard = vi.fn();
    window.addEventListener('set-up-changed', heard);
    const by = async (version?: string) => {
      answer = () => new Response('{}', { status: 200, headers: version ? { 'Set-Up': version } : {} });
      await ask('/api/{site}/site/door');
    };
    await by('4');
    await by('4');
    await by();
    expect(heard).toHaveBeenCalledTimes(0);
    await by('5');
    await by('5');
    expect(heard).toHaveBeenCalledTimes(1);
    window.removeEventListener('set-up-changed', heard);
  });
});
