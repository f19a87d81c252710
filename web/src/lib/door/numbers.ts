/**
 * Numbers reserved for this device: SSCCs and batch sequence numbers that it may give in a dead spot. The server never gives them to
 * anybody else; what is not used here is never used.
 */
import { act, type Schemas } from '$lib/api/client';
import { database } from '$lib/device';

type Kind = Schemas['BlockKind'];
export type Block = { key?: number; site: string; kind: Kind; start: string; next: number; to: number };

/** Fewer than this left: the device asks for more while it can. */
const few = 15;

/**
 * The SSCC with a serial reference: what the site's numbers begin with, the reference filled up to 17 digits, and the
 * check digit (GS1 modulo 10).
 */
export function sscc(start: string, serial: number): string {
  const body = start + String(serial).padStart(17 - start.length, '0');
  const sum = [...body].reduce((s, digit, i) => s + Number(digit) * (i % 2 === 0 ? 3 : 1), 0);
  return body + ((10 - (sum % 10)) % 10);
}

const of = async (site: string, kind: Kind): Promise<Block[]> =>
  ((await (await database()).getAll('blocks')) as Block[]).filter(
    (b) => b.site === site && b.kind === kind && b.next <= b.to,
  );

/** Asks for more numbers where few are left. */
export async function fill(site: string) {
  for (const kind of ['Unit', 'Batch'] as const) {
    const left = (await of(site, kind)).reduce((sum, b) => sum + b.to - b.next + 1, 0);
    if (left >= few) continue;
    const given = await act('/api/{site}/door/numbers', { kind });
    await (
      await database()
    ).add('blocks', { site, kind, start: given.start, next: given.from, to: given.to } satisfies Block);
  }
}

/** The next number of a block, given once; undefined when none is left. */
async function take(site: string, kind: Kind): Promise<{ start: string; number: number } | undefined> {
  const tx = (await database()).transaction('blocks', 'readwrite', { durability: 'strict' });
  const block = ((await tx.store.getAll()) as Block[]).find(
    (b) => b.site === site && b.kind === kind && b.next <= b.to,
  );
  if (!block) return undefined;
  const number = block.next;
  await tx.store.put({ ...block, next: number + 1 });
  await tx.done;
  return { start: block.start, number };
}

/** An SSCC of this device's own. */
export async function takeSscc(site: string): Promise<string | undefined> {
  const given = await take(site, 'Unit');
  return given && sscc(given.start, given.number);
}

/** The own batch number for what a scan says: the same scan on the same day gets the same. */
export async function takeBatch(site: string, start: string, end: string, scan: string): Promise<string | undefined> {
  const key = `${site} ${start} ${scan}`;
  const db = await database();
  const before = (await db.get('batches', key)) as { number: string } | undefined;
  if (before) return before.number;
  const given = await take(site, 'Batch');
  if (!given) return undefined;
  const number = `${start}${given.number}${end}`;
  await db.put('batches', { key, number });
  return number;
}
