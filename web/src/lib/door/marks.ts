/** Words of marks on goods: pictograms of the Globally Harmonized System, handling marks of ISO 780, reasons of an aside. */
import type { Schemas } from '$lib/api/client';

export const hazards: Record<Schemas['HazardPictogram'], string> = {
  ExplodingBomb: 'explosive',
  Flame: 'flammable',
  FlameOverCircle: 'oxidising',
  GasCylinder: 'gas under pressure',
  Corrosion: 'corrosive',
  SkullAndCrossbones: 'toxic',
  ExclamationMark: 'harmful',
  HealthHazard: 'health hazard',
  Environment: 'harms water life',
};

export const handling: Record<Schemas['HandlingMark'], string> = {
  ThisWayUp: 'this way up',
  Fragile: 'fragile',
  KeepDry: 'keep dry',
  KeepFromFrost: 'keep from frost',
  KeepFromSun: 'keep from sun',
  DoNotStack: 'do not stack',
  UseNoHooks: 'use no hooks',
};
