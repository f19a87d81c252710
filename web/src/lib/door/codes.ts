/**
 * What a device in a dead spot can say of a scan by itself: what it names, and which details it has. It judges nothing; the scan is
 * kept as it is, and the server reads it when the network is back. Both read the cases of scan-cases.json alike.
 */
import type { Schemas } from '$lib/api/client';

type Code = Schemas['CodeAboard'];
type ScannerSettings = Schemas['ScannerSettings'];

/** A scan, read. */
export type ScanRead = {
  /** The text without what the scanner types around it and without a symbology identifier. */
  text: string;
  /** The narrowest that it names: the unit, the item by its GTIN in 14 digits, a batch, a serial; else the text. */
  key: string;
  isUnit: boolean;
  /** Elements of goods that are not named in it. */
  isDetail: boolean;
  /** Application identifiers with their values; none for a text that carries no elements. */
  elements: ReadonlyMap<string, string>;
};

/** Symbology identifiers (ISO/IEC 15424) that carry element strings, and those that carry a GTIN alone. */
const carryElements = ['C1', 'd2', 'Q3', 'e0', 'J1'];
const carryGtin = ['E0', 'E3', 'E4', 'I1'];

/**
 * Characters of an element whose length is predefined, its identifier included, by its first two digits (GS1 General
 * Specifications, section 7.8).
 */
const predefined: Readonly<Record<string, number>> = {
  '00': 20,
  '01': 16,
  '02': 16,
  '03': 16,
  '04': 18,
  '11': 8,
  '12': 8,
  '13': 8,
  '14': 8,
  '15': 8,
  '16': 8,
  '17': 8,
  '18': 8,
  '19': 8,
  '20': 4,
  '31': 10,
  '32': 10,
  '33': 10,
  '34': 10,
  '35': 10,
  '36': 10,
  '41': 16,
};

/** Characters of an application identifier, by its first two digits. */
const lengthOf = (start: string): number =>
  /^(0\d|1\d|2[0-2]|30|37|9\d)/.test(start) ? 2 : /^(23|24|25|4[0-2]|71)/.test(start) ? 3 : 4;

/** True when the last digit is the GS1 check digit of those before it. */
const checks = (digits: string): boolean =>
  [...digits].reverse().reduce((sum, digit, i) => sum + Number(digit) * (i % 2 === 0 ? 1 : 3), 0) % 10 === 0;

/** What a scanner typed, without what it types before and behind each code. */
function inside(text: string, scanner?: ScannerSettings): string {
  let code = text.trim();
  if (scanner?.prefix && code.startsWith(scanner.prefix)) code = code.slice(scanner.prefix.length);
  if (scanner?.suffix && code.endsWith(scanner.suffix)) code = code.slice(0, -scanner.suffix.length);
  return scanner?.separator ? code.replaceAll(scanner.separator, '\u001d') : code;
}

/** What a taught scanner types when it reads a code: the way back of what is read here. */
export const typedBy = (code: string, scanner: ScannerSettings): string =>
  scanner.prefix + (scanner.separator ? code.replaceAll('\u001d', scanner.separator) : code) + scanner.suffix;

/** Reads a scan as the server would, as far as a device can. */
export function readScan(typed: string, scanner?: ScannerSettings): ScanRead {
  const whole = inside(typed, scanner);
  const symbology = /^\]([A-Za-z][A-Za-z0-9])./s.exec(whole)?.[1] ?? '';
  const text = symbology ? whole.slice(3) : whole;
  const plain: ScanRead = { text, key: text, isUnit: false, isDetail: false, elements: new Map() };
  if (carryElements.includes(symbology)) return ofElements(text, plain);
  if (carryGtin.includes(symbology))
    return { ...plain, key: (symbology === 'E3' ? text.slice(0, 13) : text).padStart(14, '0') };
  if (!symbology && looksLikeElements(text)) return ofElements(text, plain);
  const link = linked(text);
  if (link) return ofElements(link, plain);
  if (/^\d{18}$/.test(text) && checks(text)) return { ...plain, isUnit: true };
  if (/^(\d{8}|\d{12,14})$/.test(text) && checks(text)) return { ...plain, key: text.padStart(14, '0') };
  return plain;
}

const looksLikeElements = (text: string): boolean =>
  text.startsWith('(') ||
  text.includes('\u001d') ||
  (/^0[12]\d{14}./s.test(text) && checks(text.slice(2, 16))) ||
  (/^00\d{18}/.test(text) && checks(text.slice(2, 20))) ||
  /^(\d{16,17}|\d{19,})$/.test(text);

/** A part of an address without its percent signs; as it stands where they are spoilt. */
function decoded(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
}

/** The elements of a GS1 Digital Link as an element string with brackets; undefined for another text. */
function linked(text: string): string | undefined {
  const found = /^https?:\/\/[^/]+(?:\/[^?#]*?)?\/(00|01)\/([^?#]*)(?:\?([^#]*))?/i.exec(text);
  if (!found) return undefined;
  const path = [found[1]!, ...found[2]!.split('/')].map(decoded);
  const query = (found[3] ?? '').split('&').map((p) => p.split('=').map(decoded));
  const pairs = [...path.flatMap((ai, i) => (i % 2 === 0 ? [[ai, path[i + 1] ?? '']] : [])), ...query];
  return pairs
    .filter(([ai]) => /^\d{2,4}$/.test(ai ?? ''))
    .map(([ai, value]) => `(${ai})${value ?? ''}`)
    .join('');
}

function ofElements(text: string, plain: ScanRead): ScanRead {
  const elements = split(text);
  const unit = elements.get('00');
  const named = unit ?? elements.get('01') ?? elements.get('02');
  const key = named ?? elements.get('10') ?? elements.get('21') ?? bracketed(elements);
  return { ...plain, key, isUnit: unit !== undefined, isDetail: named === undefined, elements };
}

const bracketed = (elements: ReadonlyMap<string, string>): string =>
  [...elements].map(([ai, value]) => `(${ai})${value}`).join('');

/** The rest behind a separator in front. */
const withoutSeparator = (text: string): string => (text.startsWith('\u001d') ? text.slice(1) : text);

function split(text: string): Map<string, string> {
  if (text.startsWith('('))
    return new Map([...text.matchAll(/\((\d{2,4})\)([^(]*)/g)].map((found) => [found[1]!, found[2]!.trim()]));
  const found = new Map<string, string>();
  let rest = withoutSeparator(text);
  while (rest) {
    const length = predefined[rest.slice(0, 2)];
    const end = rest.indexOf('\u001d');
    const element = rest.slice(0, length ?? (end < 0 ? undefined : end));
    const ai = element.slice(0, lengthOf(element));
    found.set(ai, element.slice(ai.length));
    rest = withoutSeparator(rest.slice(element.length));
  }
  return found;
}

/** The code of the arrival that a scan names, when all that it could name is one item. */
export function named(codes: readonly Code[], text: string, scanner?: ScannerSettings): Code | undefined {
  const read = readScan(text, scanner);
  // The whole text as a code goes first, as with the server: a vendor's code may look like something else.
  const item = read.elements.size > 0 ? (read.elements.get('01') ?? read.elements.get('02')) : read.key;
  const could = codes.filter((c) => [read.text, item].some((name) => name?.toUpperCase() === c.code.toUpperCase()));
  return could.every((c) => c.item === could[0]?.item) ? could[0] : undefined;
}

/**
 * True when a scan says something of the goods scanned before it and names none of its own: an element string of details, or a
 * plain text where a batch or serial number is still asked for. It is not read here, only kept with them.
 */
export function isDetail(text: string, asks: readonly string[], scanner?: ScannerSettings): boolean {
  const read = readScan(text, scanner);
  if (read.elements.size > 0) return read.isDetail;
  if (read.isUnit || /^https?:/i.test(read.text) || /^(\d{8}|\d{12,14}|\d{16,})$/.test(read.text)) return false;
  if (/^\d{6}$/.test(read.text))
    return asks.some((a) => ['production', 'bestBefore', 'expiry', 'sourceBatch', 'serial'].includes(a));
  return asks.includes('sourceBatch') || asks.includes('serial');
}

/** The identifiers of what an item may ask for (GS1 General Specifications, section 3). */
const fields: Readonly<Record<string, string>> = {
  '10': 'sourceBatch',
  '11': 'production',
  '15': 'bestBefore',
  '17': 'expiry',
  '21': 'serial',
  '7003': 'expiry',
};

/** What an item asks for that these labels do not say yet: one that says its batch leaves no text to be its batch. */
export function stillAsked(asks: readonly string[], texts: readonly string[], scanner?: ScannerSettings): string[] {
  const said = texts.flatMap((text) => [...readScan(text, scanner).elements.keys()]).map((id) => fields[id]);
  return asks.filter((field) => !said.includes(field));
}
