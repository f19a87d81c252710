/**
 * A stand-in server for unit tests: answers calls by path, keeps what it was sent, can be cut off, and does an act once for its id as
 * the real one does. It knows no rules; a test says what is answered.
 */
import { vi } from 'vitest';
import { Problem, type Schemas, problemOf } from '$lib/api/client';
import { session } from '$lib/session.svelte';

export type Call = { path: string; query: URLSearchParams; id: string; body: unknown };
type Answer = (call: Call) => unknown;

export class FakeServer {
  /** Every call that reached it, in order. */
  calls: Call[] = [];
  /** Acts that were done, each id once. */
  done = new Map<string, unknown>();
  cut = false;
  /** Acts are done, and their answers are lost. */
  deaf = false;
  /** So long each answer is on its way, in milliseconds. */
  slow = 0;
  private answers = new Map<string, Answer>();

  constructor() {
    vi.stubGlobal('fetch', (url: string, init: RequestInit) => this.take(url, init));
  }

  on(path: string, answer: Answer): this {
    this.answers.set(path, answer);
    return this;
  }

  /** The bodies sent to one path. */
  sent<T>(path: string): T[] {
    return this.calls.filter((c) => c.path === path).map((c) => c.body as T);
  }

  /** Who waits no longer does not get the answer. */
  private wayBack(signal: AbortSignal | null | undefined) {
    return new Promise<void>((come, gone) => {
      setTimeout(come, this.slow);
      signal?.addEventListener('abort', () => gone(signal.reason));
    });
  }

  private async take(url: string, init: RequestInit): Promise<Response> {
    await Promise.resolve();
    if (this.cut) throw new TypeError('no network');
    const at = new URL(url, 'http://door.example');
    const body = init.body ? JSON.parse(String(init.body)) : undefined;
    const call = { path: at.pathname, query: at.searchParams, id: new Headers(init.headers).get('Act-Id') ?? '', body };
    this.calls.push(call);
    const answer = this.answers.get(at.pathname);
    if (!answer) throw new Error(`The test answers nothing at ${at.pathname}.`);
    try {
      const isAct = init.method === 'POST';
      const given = isAct && this.done.has(call.id) ? this.done.get(call.id) : answer(call);
      if (isAct) this.done.set(call.id, given);
      if (this.deaf && isAct) throw new TypeError('the answer was lost');
      if (this.slow > 0) await this.wayBack(init.signal);
      return new Response(JSON.stringify(given), { status: 200 });
    } catch (problem) {
      if (!(problem instanceof Problem)) throw problem;
      return new Response(JSON.stringify({ code: problem.code, detail: problem.sentence, next: problem.next }), {
        status: problem.status,
      });
    }
  }
}

/** A refusal as the server gives it. */
export const refusal = (code: string, sentence: string, next = 'Look again.') => problemOf({ code, sentence, next });

/** Somebody is signed in at Low Meadow. */
export function signIn(personId = 3, name = 'Leila Fennimore') {
  session.state = {
    signedIn: true,
    personId,
    name,
    roles: ['Receiver'],
    rights: ['See', 'Tally'],
    sites: [],
    token: 't',
    isDemo: true,
  };
  session.away = false;
  session.choose('LM');
}

const spade: Schemas['ItemView'] = {
  code: 'SP-DG',
  name: 'Digging spade',
  unit: 'each',
  packs: [
    { name: 'each', content: 1, isUnit: false, packageType: 'PP' },
    { name: 'box', content: 6, isUnit: false, packageType: 'BX' },
    { name: 'pallet', content: 96, isUnit: true, packageType: 'PX' },
  ],
  needsBatch: false,
  asks: [],
  shelfLifeDays: null,
  rulingDate: 'BestBefore',
  storageClass: 'Ambient',
  inspected: false,
  attributes: [],
  catchWeight: false,
  mass: 2,
  weightTolerance: 0,
  marks: { pictograms: [], handling: [] } as unknown as Schemas['GoodsMarks'],
  measures: [],
};

/** What the server reads from a label: a box of spades, unless the test says otherwise. */
export const reading = (
  more: Partial<Schemas['Reading']> = {},
  item: Partial<Schemas['ItemView']> = {},
): Schemas['Reading'] => ({
  kind: 'Item' as const,
  words: 'Digging spade, box of 6.',
  code: '19521234100014',
  item: { ...spade, ...item },
  pack: 'box',
  packs: 1,
  waiting: 0,
  proposed: false,
  ...more,
});

/** What the server answers to a count. */
export const counted = (sentence = 'Taken.'): Schemas['CountAnswer'] => ({
  sentence,
  itemName: 'Digging spade',
  quantity: 6,
  unit: 'each',
  batch: null,
  standing: 'usable',
  place: 'R-04',
  reason: '',
  units: [],
  warning: null,
});
