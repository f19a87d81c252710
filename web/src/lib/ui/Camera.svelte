<script lang="ts">
  /**
   * Reads barcodes with the device's camera, by a reader that ships with the application. What it reads goes to the scan line as a
   * scanner would type it, with its symbology identifier in front; the same code counts again only after it was out of sight.
   */
  import { scanLine } from '$lib/scan.svelte';
  import readerUrl from 'zxing-wasm/reader/zxing_reader.wasm?url';
  let { onclose }: { onclose: () => void } = $props();
  let video = $state<HTMLVideoElement>();
  let words = $state('Hold a code before the camera.');
  const every = 120;
  const outOfSight = 1200;

  /** What a device without a working camera says, in words a receiver can do something with. */
  function why(problem: unknown): string {
    const name = problem instanceof DOMException ? problem.name : '';
    if (name === 'NotAllowedError') return 'The camera is not allowed here. Allow it in the settings of the browser.';
    if (name === 'NotFoundError') return 'This device has no camera.';
    if (name === 'NotReadableError')
      return 'Another program has the camera. Close it, then open the camera here again.';
    return `The camera could not be opened: ${problem instanceof Error ? problem.message : String(problem)}`;
  }

  $effect(() => {
    let stopped = false;
    let stream: MediaStream | undefined;
    void run().catch((problem: unknown) => {
      if (!stopped) words = why(problem);
    });
    return () => {
      stopped = true;
      stream?.getTracks().forEach((track) => track.stop());
    };

    async function run() {
      if (!window.isSecureContext || !navigator.mediaDevices) {
        words = 'A camera works only over HTTPS. Open Mud Room by its https address.';
        return;
      }
      const { prepareZXingModule, readBarcodes } = await import('zxing-wasm/reader');
      await prepareZXingModule({ overrides: { locateFile: () => readerUrl }, fireImmediately: true });
      stream = await navigator.mediaDevices.getUserMedia({
        video: { facingMode: 'environment', width: { ideal: 1280 } },
      });
      if (stopped || !video) return stream.getTracks().forEach((track) => track.stop());
      video.srcObject = stream;
      await video.play();
      const canvas = new OffscreenCanvas(1, 1);
      const pen = canvas.getContext('2d', { willReadFrequently: true })!;
      let last = '';
      let seenAt = 0;
      while (!stopped) {
        if (video.videoWidth > 0) {
          [canvas.width, canvas.height] = [video.videoWidth, video.videoHeight];
          pen.drawImage(video, 0, 0);
          const found = await readBarcodes(pen.getImageData(0, 0, canvas.width, canvas.height), {
            formats: [
              'Code128',
              'DataMatrix',
              'QRCode',
              'EAN-13',
              'EAN-8',
              'UPC-A',
              'UPC-E',
              'ITF',
              'DataBar',
              'DataBarExpanded',
            ],
            tryHarder: true,
            textMode: 'Plain',
            maxNumberOfSymbols: 1,
          });
          const code = found.find((f) => f.isValid && f.text);
          const now = performance.now();
          if (code) {
            const text = code.symbologyIdentifier + code.text;
            if (text !== last || now - seenAt > outOfSight) {
              words = 'Read.';
              void scanLine.scan(text);
            }
            [last, seenAt] = [text, now];
          }
        }
        await new Promise((done) => setTimeout(done, every));
      }
    }
  });
</script>

<section class="camera" aria-label="Camera">
  <video bind:this={video} playsinline muted></video>
  <p role="status">{words}</p>
  <button class="button" onclick={onclose}>Put the camera away</button>
</section>

<style>
  .camera {
    flex: none;
    display: grid;
    grid-template-columns: auto 1fr auto;
    gap: 14px;
    align-items: center;
    padding: 8px 16px;
    border-top: 2px solid var(--wall);
    background: var(--paper);
  }
  video {
    width: 210px;
    height: 118px;
    object-fit: cover;
    background: #000;
    border-radius: 4px;
  }
  @media (max-width: 700px) {
    .camera {
      grid-template-columns: 1fr auto;
    }
    video {
      grid-column: 1/-1;
      width: 100%;
      height: 160px;
    }
  }
</style>
