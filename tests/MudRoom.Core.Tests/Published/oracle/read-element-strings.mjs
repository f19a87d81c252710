/**
 * Reads element strings with others' readers: verdicts on bracketed text by the linters of the GS1 Barcode Syntax Dictionary in bwip-js (MIT), values of
 * raw text by gs1-barcode-parser (MIT). One JSON array [bracketed, raw] a line in; one object a line out. The argument is the folder of the front end,
 * whose packages these are.
 */
import fs from 'node:fs';
import path from 'node:path';
import vm from 'node:vm';
import { createRequire } from 'node:module';

const web = process.argv[2];
const bwip = createRequire(path.join(web, 'package.json'))('bwip-js');
vm.runInThisContext(fs.readFileSync(path.join(web, 'node_modules/gs1-barcode-parser/src/BarcodeParser.js'), 'utf8'));
const plain = new Set(['00', '01', '02', '10', '20', '21', '22', '240', '241', '250', '251', '400', '401', '402', '420', '422', '710']);

function lint(text) {
  try {
    bwip.raw({ bcid: 'gs1datamatrix', text });
    return 'ok';
  } catch (error) {
    return String(error.message ?? error);
  }
}

function parse(raw) {
  try {
    return globalThis.parseBarcode(raw).parsedCodeItems.filter((i) => plain.has(i.ai)).map((i) => [i.ai, i.data]);
  } catch {
    return null;
  }
}

const lines = fs.readFileSync(0, 'utf8').split('\n').filter(Boolean);
process.stdout.write(lines.map((line) => JSON.parse(line)).map(([text, raw]) => JSON.stringify({ lint: lint(text), parsed: parse(raw) })).join('\n'));
