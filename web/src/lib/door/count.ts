/** A count as it is sent, with nothing said but what was counted. */
import type { Schemas } from '$lib/api/client';

export const plainCount = (arrival: string, item: string, pack: string, packs: string): Schemas['CountRequest'] => ({
  arrival,
  item,
  pack,
  packs,
  batch: null,
  batchProposed: false,
  sourceBatch: null,
  production: null,
  bestBefore: null,
  expiry: null,
  origin: null,
  serial: null,
  aside: null,
  note: null,
  part: null,
  overAllowed: false,
  earlyAllowed: false,
  vendor: null,
  serials: null,
  attributes: null,
  blankAllowed: false,
  fromPaper: false,
});
