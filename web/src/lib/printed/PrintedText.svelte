<script lang="ts">
  /**
   * Reads what a label prints in letters only: a picture is taken, and what is found in it is offered, each beside the piece of the
   * picture that it was read from. Nothing is taken before somebody has looked at it and pressed.
   */
  import ScanText from '@lucide/svelte/icons/scan-text';
  import { ask, type Schemas } from '$lib/api/client';
  import type { Offer } from './offers';
  import { greyOf, readLabel, widest } from './reader';

  let {
    item,
    asks,
    values,
    settings,
    ontake,
  }: {
    item: string;
    asks: readonly string[];
    /** What stands in the fields now. */
    values: Record<string, string | null | undefined>;
    settings: Pick<Schemas['CountSettings'], 'today' | 'dateForm'>;
    ontake: (field: Offer['field'], value: string) => void;
  } = $props();

  const printed = ['sourceBatch', 'production', 'bestBefore', 'expiry'];
  const wanted = $derived(asks.filter((field) => printed.includes(field)));
  const words: Record<Offer['field'], string> = {
    sourceBatch: 'Source batch',
    production: 'Production',
    bestBefore: 'Best before',
    expiry: 'Expiry',
  };
  let picture = $state.raw<HTMLCanvasElement>();
  let offers = $state.raw<Offer[]>([]);
  let said = $state('');
  let busy = $state(false);

  async function read(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const file = field.files?.[0];
    if (!file) return;
    [busy, offers, said] = [true, [], 'Reading the picture. This takes some seconds.'];
    try {
      const taken = await createImageBitmap(file);
      const scale = Math.min(1, widest / Math.max(taken.width, taken.height));
      const canvas = document.createElement('canvas');
      [canvas.width, canvas.height] = [Math.round(taken.width * scale), Math.round(taken.height * scale)];
      const pen = canvas.getContext('2d', { willReadFrequently: true })!;
      pen.imageSmoothingQuality = 'high';
      pen.drawImage(taken, 0, 0, canvas.width, canvas.height);
      // Batches that came before help to tell a batch's number. A network that hangs is not waited for.
      const [{ recognise }, batchesBefore] = await Promise.all([
        import('./recogniser'),
        Promise.race([
          ask('/api/{site}/door/batches-before/{item}', { item }).catch(() => []),
          new Promise<string[]>((done) => setTimeout(() => done([]), 1500)),
        ]),
      ]);
      const grey = greyOf(canvas.width, canvas.height, pen.getImageData(0, 0, canvas.width, canvas.height).data);
      offers = await readLabel(
        grey,
        { asks: wanted, batchesBefore, today: settings.today, monthFirst: settings.dateForm === 'MonthDayYear' },
        recognise,
      );
      picture = canvas;
      said =
        offers.length > 0
          ? 'Look whether it says so on the label, then take it.'
          : 'Nothing in the picture could be read for certain. Come closer and hold the camera straight, or type it.';
    } catch (problem) {
      said =
        problem instanceof DOMException && problem.name === 'InvalidStateError'
          ? 'That file is no picture.'
          : 'The print could not be read on this device. Type it.';
    } finally {
      busy = false;
      field.value = '';
    }
  }

  /** The piece of the picture that an offer was read from, with a little around it, turned as it was to be read. */
  function cut(canvas: HTMLCanvasElement, offer: Offer) {
    const margin = 10;
    const { x0, y0, x1, y1 } = offer.box;
    [canvas.width, canvas.height] = [x1 - x0 + 2 * margin, y1 - y0 + 2 * margin];
    const pen = canvas.getContext('2d')!;
    pen.translate(margin - x0 + picture!.width / 2, margin - y0 + picture!.height / 2);
    pen.rotate(offer.turn ?? 0);
    pen.drawImage(picture!, -picture!.width / 2, -picture!.height / 2);
  }

  function take(offer: Offer) {
    ontake(offer.field, offer.value);
    offers = offers.filter((o) => o !== offer);
    said = `${words[offer.field]} ${offer.value} taken.`;
  }
</script>

{#if wanted.some((field) => !values[field]) || offers.length > 0 || said}
  <div class="printed">
    <label class="button"
      ><ScanText size={18} aria-hidden="true" />
      {busy ? 'Reading' : 'Read what is printed'}<input
        type="file"
        name="printed"
        accept="image/*"
        capture="environment"
        class="sr-only"
        disabled={busy}
        onchange={(e) => {
          e.stopPropagation();
          void read(e);
        }}
      /></label
    >
    <p class="quiet" role="status">{said}</p>
    {#if offers.length > 0}
      <ul {@attach (list) => list.scrollIntoView({ block: 'center' })}>
        {#each offers as offer (offer.field)}
          <li>
            <canvas {@attach (canvas) => cut(canvas, offer)} aria-hidden="true"></canvas>
            <span
              ><b>{words[offer.field]} <span class="c">{offer.value}</span></b>
              {#if values[offer.field] && values[offer.field] !== offer.value}<span class="quiet"
                  >instead of {values[offer.field]}</span
                >{/if}</span
            >
            <button type="button" class="button" onclick={() => take(offer)}
              >Take<span class="sr-only"> {words[offer.field]} {offer.value}</span></button
            >
          </li>
        {/each}
      </ul>
    {/if}
  </div>
{/if}

<style>
  .printed {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 12px;
    align-items: center;
  }
  .printed > label {
    display: inline-flex;
    gap: 6px;
    align-items: center;
  }
  .printed > label:focus-within {
    outline: 3px solid var(--lamp);
  }
  .printed > p:empty {
    display: none;
  }
  ul {
    flex-basis: 100%;
    display: grid;
    gap: 6px;
  }
  li {
    display: grid;
    grid-template-columns: minmax(90px, 210px) 1fr auto;
    gap: 12px;
    align-items: center;
    background: var(--paper);
    border: 1px solid var(--line);
    padding: 6px 8px;
  }
  canvas {
    width: 100%;
    max-height: 56px;
    object-fit: contain;
    border: 1px solid var(--line);
    background: #fff;
  }
  @media (max-width: 700px) {
    .button {
      min-height: 48px;
    }
    li {
      grid-template-columns: 1fr auto;
    }
    canvas {
      grid-column: 1/-1;
      max-height: 64px;
    }
  }
</style>
