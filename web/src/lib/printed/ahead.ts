/** What reads printed text, and where it lies: fetched before it is needed where an item may need it. */
import coreUrl from 'tesseract.js-core/tesseract-core-simd-lstm.wasm.js?url';
import workerUrl from 'tesseract.js/dist/worker.min.js?url';

export { coreUrl, workerUrl };

/** The folder of what the reader has learned. */
export const dataFolder = (): string => `${location.origin}/printed`;

let asked = false;

/** Fetches program and data in the background, some time after the page has its own, so that they lie on the device in a dead spot. */
export function fetchAhead(after = 8000): void {
  if (asked || !('serviceWorker' in navigator)) return;
  asked = true;
  setTimeout(() => {
    for (const url of [workerUrl, coreUrl, `${dataFolder()}/eng.traineddata.gz`])
      void fetch(url).catch(() => (asked = false));
  }, after);
}
