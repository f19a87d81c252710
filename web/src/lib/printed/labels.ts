/**
 * Made-up labels for the tests of the reader of print: forty, printed by a laser, a thermal or a dot-matrix printer, photographed a
 * little askew, with noise and uneven light. What stands on each is known.
 */
import { createCanvas, GlobalFonts, type Canvas, type SKRSContext2D } from '@napi-rs/canvas';
import { fileURLToPath } from 'node:url';
import { dotted } from './dotted';

export interface Label {
  name: string;
  lines: string[];
  print: 'laser' | 'thermal' | 'dots';
  /** Degrees. */
  skew: number;
  asks: string[];
  /** What is on it, by field; only what is asked. */
  truth: Record<string, string>;
  /** Batches that came before. */
  before?: string[];
}

const end = (field: 'bestBefore' | 'expiry', value: string) => ({ [field]: value });
const batchAnd = (batch: string, production: string | undefined, field: 'bestBefore' | 'expiry', value: string) => ({
  sourceBatch: batch,
  ...(production ? { production } : {}),
  ...end(field, value),
});

/** Texts as labels of several countries have them. */
const texts: { lines: string[]; asks: string[]; truth: Record<string, string>; before?: string[] }[] = [
  {
    lines: ['FENUGREEK SEED 25 KG', 'LOT: MK-F-2291', 'MFG 31.10.2025', 'BEST BEFORE 30.10.2027'],
    truth: batchAnd('MK-F-2291', '2025-10-31', 'bestBefore', '2027-10-30'),
  },
  {
    lines: ['BATCH NO. TR7741', 'PROD 2026-01-14', 'BBE 2027-01-13'],
    truth: batchAnd('TR7741', '2026-01-14', 'bestBefore', '2027-01-13'),
  },
  { lines: ['Lot 48213', 'Exp. MAR 2027'], truth: batchAnd('48213', undefined, 'expiry', '2027-03') },
  {
    lines: ['CHARGE: 55-0931', 'HERGESTELLT 02.02.26', 'MHD 02.08.27'],
    truth: batchAnd('55-0931', '2026-02-02', 'bestBefore', '2027-08-02'),
  },
  {
    lines: ['LOTE 7734A', 'FAB 12/11/2025', 'CAD 12/11/2028'],
    truth: batchAnd('7734A', '2025-11-12', 'expiry', '2028-11-12'),
  },
  {
    lines: ['ROOTING POWDER', 'B/N: RP-6612', 'USE BY 14 SEP 2027'],
    truth: batchAnd('RP-6612', undefined, 'expiry', '2027-09-14'),
  },
  { lines: ['THT 31-03-2027', 'PARTIJ 90417'], truth: batchAnd('90417', undefined, 'bestBefore', '2027-03-31') },
  { lines: ['LOT  33118', 'EXP  260930'], truth: batchAnd('33118', undefined, 'expiry', '2026-09-30') },
  {
    lines: ['Batch: C-114-26', 'Best before end: 06/2027'],
    truth: batchAnd('C-114-26', undefined, 'bestBefore', '2027-06'),
  },
  {
    lines: ['MFD 05 JAN 2026', 'EXP 04 JAN 2029', 'LOT 26A0057'],
    truth: batchAnd('26A0057', '2026-01-05', 'expiry', '2029-01-04'),
    before: ['26A0041', '25F1120'],
  },
  { lines: ['LOTTO 81-220', 'SCAD 30/06/2027'], truth: batchAnd('81-220', undefined, 'expiry', '2027-06-30') },
  {
    lines: ['SEED POTATO', 'BATCH  SP 4', 'KD-77120', 'PACKED 09.03.2026'],
    truth: { sourceBatch: 'KD-77120', production: '2026-03-09' },
    before: ['KD-76884', 'KD-77001'],
  },
  {
    lines: ['NEEM OIL 5 L', 'NK-2277', 'MFG OKT 2025', 'EXP OKT 2027'],
    truth: batchAnd('NK-2277', '2025-10', 'expiry', '2027-10'),
    before: ['NK-2190', 'NK-2254'],
  },
  {
    lines: ['LOT NO 610044', 'PRODUCTION DATE 2025/12/01', 'EXPIRY DATE 2027/12/01'],
    truth: batchAnd('610044', '2025-12-01', 'expiry', '2027-12-01'),
  },
  { lines: ['DLUO 15.05.27', 'LOT: L-2604'], truth: batchAnd('L-2604', undefined, 'bestBefore', '2027-05-15') },
  {
    lines: ['BATCH 77-B-019', 'MFG FEB 2026', 'BEST BY FEB 2028'],
    truth: batchAnd('77-B-019', '2026-02', 'bestBefore', '2028-02'),
    before: ['77-B-011'],
  },
  { lines: ['LOT:445120 EXP:31.12.2027'], truth: batchAnd('445120', undefined, 'expiry', '2027-12-31') },
  { lines: ['MHD: 11.2027', 'CHARGE 2614-3'], truth: batchAnd('2614-3', undefined, 'bestBefore', '2027-11') },
  {
    lines: ['BONE MEAL', 'BATCH: BM-90-14', 'PKD 18 FEB 26', 'BB 18 FEB 28'],
    truth: batchAnd('BM-90-14', '2026-02-18', 'bestBefore', '2028-02-18'),
  },
  { lines: ['LOT 4471 ', 'USE BEFORE 2028-04-30'], truth: batchAnd('4471', undefined, 'expiry', '2028-04-30') },
].map((t) => ({
  ...t,
  asks: ['sourceBatch', 'production', 'truth' in t && 'expiry' in t.truth ? 'expiry' : 'bestBefore'],
}));

/** Forty: each text twice, by another printer and another hand. */
export const labels: Label[] = [0, 1].flatMap((round) =>
  texts.map((text, i) => {
    const print = (['laser', 'dots', 'thermal', 'laser', 'dots'] as const)[(i + 2 * round) % 5]!;
    const skew = [0, 1.5, -2, 3, -4, 5, -1, 2.5, -3, 4][(i + 3 * round) % 10]!;
    return { ...text, name: `${i + 1}${round ? 'b' : 'a'}, ${print}, ${skew}°`, print, skew };
  }),
);

const fonts = fileURLToPath(new URL('../../../node_modules/@fontsource-variable', import.meta.url));
const at = (family: string) => `${fonts}/${family}/files/${family}-latin-wght-normal.woff2`;

/** Numbers between 0 and 1, the same in every run (a linear congruential generator with the constants of Numerical Recipes). */
function chance(seed: number): () => number {
  let state = seed >>> 0;
  return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
}

function write(pen: SKRSContext2D, label: Label, random: () => number) {
  let y = 110;
  for (const line of label.lines) {
    if (label.print === 'dots') dotted(pen, line, 70, y - 40, 6.2, random);
    else {
      pen.font = label.print === 'laser' ? '44px LabelSans' : '42px LabelMono';
      pen.fillText(line, 70, y);
    }
    y += 84;
  }
}

/** The photograph of a label: PNG. */
export function photograph(label: Label, seed: number): Canvas {
  GlobalFonts.registerFromPath(at('atkinson-hyperlegible-next'), 'LabelSans');
  GlobalFonts.registerFromPath(at('atkinson-hyperlegible-mono'), 'LabelMono');
  const random = chance(seed);
  const [width, height] = [1200, 150 + 84 * label.lines.length + 60];
  const canvas = createCanvas(width, height);
  const pen = canvas.getContext('2d');
  pen.fillStyle = '#b9b2a4';
  pen.fillRect(0, 0, width, height);
  pen.translate(width / 2, height / 2);
  pen.rotate((label.skew * Math.PI) / 180);
  pen.translate(-width / 2, -height / 2);
  pen.fillStyle = label.print === 'thermal' ? '#e9e6df' : '#f6f3ea';
  pen.fillRect(30, 30, width - 60, height - 60);
  pen.fillStyle = label.print === 'thermal' ? '#4a4640' : '#23211e';
  write(pen, label, random);
  pen.resetTransform();
  // Light from one side, and the grain of a small camera.
  const picture = pen.getImageData(0, 0, width, height);
  for (let i = 0; i < picture.data.length; i += 4) {
    const shade = 0.82 + (0.18 * ((i / 4) % width)) / width;
    const grain = (random() - 0.5) * 26;
    for (let c = 0; c < 3; c++) picture.data[i + c] = picture.data[i + c]! * shade + grain;
  }
  pen.putImageData(picture, 0, 0);
  return canvas;
}
