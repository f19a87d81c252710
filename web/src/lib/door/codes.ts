/**
 * What a device in a dead spot can say of a scan by itself: which item of the arrival it names. It judges nothing and reads no
 * details; the scan is kept as it is, and the server reads it when the network is back.
 */
import type { Schemas } from '$lib/api/client';

type Code = Schemas['CodeAboard'];

/** A scan without its symbology identifier (ISO/IEC 15424), brackets, separators and blanks. */
export const bare = (text: string): string =>
  text
    .replace(/^\][A-Za-z]\d/, '')
    .replaceAll('\u001d', '')
    .replace(/[()\s]/g, '')
    .toUpperCase();

/** What a scanner typed, without what it types before and behind each code. */
function inside(text: string, scanner?: Schemas['ScannerSettings']): string {
  let code = text;
  if (scanner?.prefix && code.startsWith(scanner.prefix)) code = code.slice(scanner.prefix.length);
  if (scanner?.suffix && code.endsWith(scanner.suffix)) code = code.slice(0, -scanner.suffix.length);
  return scanner?.separator ? code.replaceAll(scanner.separator, '\u001d') : code;
}

/** The code of the arrival that a scan names, when all that it could name is one item: the whole of it, a GTIN with or without leading noughts, or the GTIN of an element string or a GS1 Digital Link. */
export function named(codes: readonly Code[], text: string, scanner?: Schemas['ScannerSettings']): Code | undefined {
  const plain = bare(inside(text, scanner));
  const digits = /^\d{8}$|^\d{12,14}$/.test(plain) ? plain.padStart(14, '0') : '';
  const gtin = (/^01(\d{14})/.exec(plain) ?? /^HTTPS?:\/\/.*?\/01\/(\d{14})(?:[/?]|$)/.exec(plain))?.[1] ?? '';
  const could = codes.filter((c) => {
    const code = c.code.toUpperCase();
    return code === plain || (digits !== '' && code === digits) || (gtin !== '' && code === gtin);
  });
  return could.every((c) => c.item === could[0]?.item) ? could[0] : undefined;
}

/** Identifiers that say something of goods and name none: batch, dates, serial, counts, measures, origin (GS1 General Specifications, section 3). */
const detail = /^(1[0-7]|20|21|30|3[1-6]\d\d|37|42[0-7])/;

/**
 * True when a scan says something of the goods scanned before it and names none of its own: an element string of details, or a
 * plain text where a batch or serial number is still asked for. It is not read here, only kept with them.
 */
export function isDetail(text: string, asks: readonly string[], scanner?: Schemas['ScannerSettings']): boolean {
  const code = inside(text.trim(), scanner);
  const elements = /^\](C1|d2|Q3|e0)/.test(code) || code.includes('\u001d') || code.startsWith('(');
  const plain = bare(code);
  if (elements) return detail.test(plain);
  if (/^HTTPS?:/.test(plain) || /^\d{8}$|^\d{12,14}$|^\d{16,}$/.test(plain)) return false;
  if (/^\d{6}$/.test(plain))
    return asks.some((a) => ['production', 'bestBefore', 'expiry', 'sourceBatch', 'serial'].includes(a));
  return asks.includes('sourceBatch') || asks.includes('serial');
}

/** The identifiers of what an item may ask for, and how long each is where its length is fixed (GS1 General Specifications, section 3). */
const fields: Readonly<Record<string, string>> = {
  '10': 'sourceBatch',
  '11': 'production',
  '15': 'bestBefore',
  '17': 'expiry',
  '21': 'serial',
};
const fixed: Readonly<Record<string, number>> = {
  '00': 18,
  '01': 14,
  '02': 14,
  '11': 6,
  '12': 6,
  '13': 6,
  '15': 6,
  '16': 6,
  '17': 6,
  '20': 2,
};

/** What an item asks for that these labels do not say yet: one that says its batch leaves no text to be its batch. */
export function stillAsked(
  asks: readonly string[],
  texts: readonly string[],
  scanner?: Schemas['ScannerSettings'],
): string[] {
  const said = texts.flatMap((text) => identifiers(inside(text.trim(), scanner))).map((id) => fields[id]);
  return asks.filter((field) => !said.includes(field));
}

/** The identifiers of an element string, as far as they can be told. */
function identifiers(code: string): string[] {
  if (code.startsWith('(')) return [...code.matchAll(/\((\d{2,4})\)/g)].map((found) => found[1]!);
  const found: string[] = [];
  let rest = code.replace(/^\][A-Za-z]\d/, '');
  while (rest) {
    const id = rest.slice(0, 2);
    found.push(id);
    const length = fixed[id];
    const end = rest.indexOf('\u001d');
    if (length === undefined && end < 0) break;
    rest = rest.slice(length === undefined ? end : 2 + length);
    if (rest.startsWith('\u001d')) rest = rest.slice(1);
  }
  return found;
}
