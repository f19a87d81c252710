import type { Schemas } from '$lib/api/client';
import { number } from '$lib/ui/format';

/** The limits of a characteristic in words: "209 to 215 mm", "holds or slips". */
export function limitsOf(c: {
  unit?: string | null;
  lower?: number | null;
  upper?: number | null;
  passWord: string;
  failWord: string;
}): string {
  if (!c.unit) return `${c.passWord} or ${c.failWord}`;
  const [low, high] = [c.lower ?? null, c.upper ?? null];
  if (low !== null && high !== null) return `${number(low)} to ${number(high)} ${c.unit}`;
  return high !== null ? `at most ${number(high)} ${c.unit}` : `at least ${number(low ?? 0)} ${c.unit}`;
}

/** How a measured value is had, in words. */
export const ways: Record<Schemas['HowHad'], string> = {
  Typed: 'typed',
  Gauge: 'read by a gauge',
  Scale: 'read from a scale',
  Counted: 'counted',
};

/** How a value is had, behind its limits: ", counted"; nothing where it is typed or looked at. */
export const hadBy = (c: Pick<Schemas['CharacteristicView'], 'unit' | 'had'>): string =>
  c.unit && c.had !== 'Typed' ? `, ${ways[c.had]}` : '';

/** Where a characteristic's values come from: "looking", "caliper", "caliper, read by a gauge". */
export const valueFrom = (c: { unit?: string | null; gauge?: string | null; had?: Schemas['HowHad'] }): string =>
  !c.unit
    ? 'looking'
    : [c.gauge, !c.gauge || (c.had ?? 'Typed') !== 'Typed' ? ways[c.had ?? 'Typed'] : null].filter(Boolean).join(', ');

/** True for a piece that a characteristic is looked at on. */
export const isAsked = (c: Pick<Schemas['CharacteristicView'], 'pieces'>, piece: number): boolean =>
  !!c.pieces && piece >= c.pieces.first && piece <= c.pieces.last;
