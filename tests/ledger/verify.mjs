// Verifies an exported ledger by docs/formats/ledger.md, without any code of the application: node verify.mjs FILE [HEAD]
import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { createInterface } from 'node:readline';

/** The fields of an entry in the order in which they are hashed, by the version of its hash. */
const first = [
  'previousHash', 'seq', 'siteId', 'kind', 'atTicks', 'personId', 'personName', 'device', 'actId', 'subject', 'sentence',
  'undoes', 'itemId', 'batchId', 'unitId', 'serial', 'quantity', 'fromAccount', 'fromBinId', 'fromStanding', 'toAccount',
  'toBinId', 'toStanding',
];
const second = [...first, 'hashVersion', 'lotId', 'toLotId'];
const fields = { 1: first, 2: second, 3: [...second, 'fact'] };

/** A field as it is hashed: its length in UTF-16 units, a colon, its text, a line feed; -1 and no text for none. */
const field = (value) => (value === null ? '-1:\n' : `${String(value).length}:${value}\n`);

export function hash(entry) {
  const names = fields[entry.hashVersion];
  if (!names) throw new Error(`Entry ${entry.seq} has a hash of version ${entry.hashVersion}, which nobody has described.`);
  for (const name of names) if (entry[name] === undefined) throw new Error(`Entry ${entry.seq} says nothing of ${name}.`);
  return createHash('sha256').update(names.map((name) => field(entry[name])).join(''), 'utf8').digest('hex');
}

export async function verify(file, head) {
  let before = { seq: 0, hash: '0'.repeat(64) };
  for await (const line of createInterface({ input: createReadStream(file, 'utf8') })) {
    const entry = JSON.parse(line);
    if (entry.seq !== before.seq + 1) throw new Error(`After entry ${before.seq} comes ${entry.seq}.`);
    if (entry.previousHash !== before.hash) throw new Error(`Entry ${entry.seq} does not follow from the one before it.`);
    if (entry.hash !== hash(entry)) throw new Error(`Entry ${entry.seq} was changed after it was written.`);
    before = entry;
  }
  if (head && before.hash !== head) throw new Error(`The chain ends at ${before.seq} with another head than ${head}.`);
  return before;
}

if (process.argv[1]?.endsWith('verify.mjs') && process.argv[2])
  verify(process.argv[2], process.argv[3]).then(
    (last) => console.log(`${last.seq} entries hold together; the head is ${last.hash}.`),
    (fault) => {
      console.error(fault.message);
      process.exitCode = 1;
    },
  );
