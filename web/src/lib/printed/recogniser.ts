/** The reader of print on the device: made once, by what ships with the application. */
import type { Worker } from 'tesseract.js';
import { coreUrl, dataFolder, workerUrl } from './ahead';
import { linesOf } from './lines';
import type { Grey } from './pixels';
import type { Recognise } from './reader';

let worker: Promise<Worker> | undefined;

async function make(): Promise<Worker> {
  const { createWorker, OEM } = await import('tesseract.js');
  return createWorker('eng', OEM.LSTM_ONLY, {
    workerPath: workerUrl,
    workerBlobURL: false,
    corePath: coreUrl,
    langPath: dataFolder(),
    cacheMethod: 'none',
  });
}

/** Reads a grey picture on the device. */
export const recognise: Recognise = async (picture) => {
  worker ??= make();
  try {
    const read = await (await worker).recognize(drawn(picture), { rotateAuto: true }, { blocks: true, text: false });
    return { lines: linesOf(read.data.blocks), turn: read.data.rotateRadians ?? 0 };
  } catch (problem) {
    worker = undefined;
    throw problem;
  }
};

function drawn(picture: Grey): HTMLCanvasElement {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [picture.width, picture.height];
  const pen = canvas.getContext('2d')!;
  const image = pen.createImageData(picture.width, picture.height);
  for (let i = 0; i < picture.data.length; i++) {
    image.data.fill(picture.data[i]!, 4 * i, 4 * i + 3);
    image.data[4 * i + 3] = 255;
  }
  pen.putImageData(image, 0, 0);
  return canvas;
}
