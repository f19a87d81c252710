// @vitest-environment node
import { createWorker, OEM } from 'tesseract.js';
import { createCanvas } from '@napi-rs/canvas';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { labels, photograph } from './labels';
import { linesOf } from './lines';
import type { Grey } from './pixels';
import { greyOf, readLabel } from './reader';

const data = fileURLToPath(new URL('../../../node_modules/@tesseract.js-data/eng/4.0.0_best_int', import.meta.url));
let worker: Awaited<ReturnType<typeof createWorker>>;
beforeAll(async () => {
  worker = await createWorker('eng', OEM.LSTM_ONLY, { langPath: data, gzip: true, cacheMethod: 'none' });
}, 60000);
afterAll(() => worker.terminate());

async function recognise(picture: Grey) {
  const canvas = createCanvas(picture.width, picture.height);
  const pen = canvas.getContext('2d');
  const image = pen.createImageData(picture.width, picture.height);
  picture.data.forEach((value, i) => image.data.set([value, value, value, 255], 4 * i));
  pen.putImageData(image, 0, 0);
  const read = await worker.recognize(
    canvas.toBuffer('image/png'),
    { rotateAuto: true },
    { blocks: true, text: false },
  );
  return { lines: linesOf(read.data.blocks), turn: read.data.rotateRadians ?? 0 };
}

test('of 40 photographed labels at least 34 are offered right and at most 2 anything wrong', async () => {
  expect(labels).toHaveLength(40);
  const rows: string[] = [];
  let [right, wrong] = [0, 0];
  for (const [i, label] of labels.entries()) {
    const canvas = photograph(label, i + 1);
    const { data } = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height);
    const wanted = { asks: label.asks, batchesBefore: label.before ?? [], today: '2026-03-10' };
    const offers = await readLabel(greyOf(canvas.width, canvas.height, data), wanted, recognise);
    const isWrong = offers.some((o) => label.truth[o.field] !== o.value);
    const isRight = !isWrong && Object.keys(label.truth).every((field) => offers.some((o) => o.field === field));
    right += Number(isRight);
    wrong += Number(isWrong);
    if (!isRight)
      rows.push(
        `${label.name}: ${JSON.stringify(label.truth)} was offered ${offers.map((o) => `${o.field} ${o.value}`).join(', ')}`,
      );
  }
  const told = `${right} right, ${wrong} wrong.\n${rows.join('\n')}`;
  if (process.env['MUDROOM_LABELS']) console.log(told);
  expect(right, told).toBeGreaterThanOrEqual(34);
  expect(wrong, told).toBeLessThanOrEqual(2);
}, 600000);
