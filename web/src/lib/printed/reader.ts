/**
 * Reads the print in a photograph by a program that ships with the application and runs on the device, so that it works in a dead
 * spot. Program and data are some megabytes: they are fetched when the first picture is read, or before, in the background.
 */
import { agreed, offersOf, type Box, type Line, type Offer, type Wanted } from './offers';
import { greyOf, softened, type Grey } from './pixels';

/** What reads the text of a grey picture: its lines, and how far it was turned for them to lie level, in radians. */
export type Recognise = (picture: Grey) => Promise<{ lines: Line[]; turn: number }>;

/** Wider than this no picture is read: more pixels cost time and tell nothing. */
export const widest = 1400;

/**
 * How far the grain of the picture and the dots of a printer are run together, in pixels of a picture 1200 wide; the best first.
 */
const softness = [2, 3, 0, 4];

/**
 * Offers of a photograph. It is read up to four times, each time with its dots run together otherwise, until two
 * readings agree on all that is asked.
 */
export async function readLabel(picture: Grey, wanted: Wanted, recognise: Recognise): Promise<Offer[]> {
  const readings: Offer[][] = [];
  for (const pixels of softness) {
    const radius = Math.round((pixels * picture.width) / 1200);
    const { lines, turn } = await recognise(radius > 0 ? softened(picture, radius) : picture);
    readings.push(offersOf(lines, wanted).map((o) => ({ ...o, turn })));
    const found = agreed(readings);
    if (isComplete(found) && found.every((f) => readings.filter((r) => says(r, f)).length > 1)) break;
  }
  return agreed(readings);
}

const says = (reading: Offer[], offer: Offer): boolean =>
  reading.some((o) => o.field === offer.field && o.value === offer.value);

/** A batch and an end of life; many labels say nothing of the production. */
const isComplete = (offers: Offer[]): boolean =>
  offers.some((o) => o.field === 'sourceBatch') && offers.some((o) => o.field === 'bestBefore' || o.field === 'expiry');

export { greyOf };
export type { Box, Offer, Wanted };
