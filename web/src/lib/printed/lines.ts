/** The lines of a page as the reader of print gives them, with the words that it could make out. */
import type { Block } from 'tesseract.js';
import type { Line } from './offers';

export function linesOf(blocks: readonly Block[] | null): Line[] {
  return (blocks ?? [])
    .flatMap((b) => b.paragraphs)
    .flatMap((p) => p.lines)
    .map((line) => line.words.map((w) => ({ text: w.text, confidence: w.confidence, box: w.bbox })))
    .filter((line) => line.length > 0)
    .sort((a, b) => a[0]!.box.y0 - b[0]!.box.y0);
}
