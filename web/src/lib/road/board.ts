/** Where things lie on the day board: minutes to pixels and back. No rules of planning. */
import type { Schemas } from '$lib/api/client';

/** Minutes since midnight of a wall clock time. */
export const minuteOf = (iso: string): number => Number(iso.slice(11, 13)) * 60 + Number(iso.slice(14, 16));

/** A wall clock time on a day. Minutes beyond midnight stay on the day's last minute. */
export function at(date: string, minute: number): string {
  const whole = Math.max(0, Math.min(24 * 60 - 1, Math.round(minute)));
  return `${date}T${String(Math.floor(whole / 60)).padStart(2, '0')}:${String(whole % 60).padStart(2, '0')}:00`;
}

/** To the next five minutes. */
export const snap = (minute: number): number => Math.round(minute / 5) * 5;

/** The hours a board shows: the doors' hours and all that stands on it, whole hours. */
export function span(times: { from: string; to: string }[], date: string): { from: number; to: number } {
  const on = times.filter((t) => t.from.slice(0, 10) === date);
  if (on.length === 0) return { from: 6 * 60, to: 18 * 60 };
  const from = Math.min(...on.map((t) => minuteOf(t.from)));
  const to = Math.max(...on.map((t) => (t.to.slice(0, 10) > date ? 24 * 60 : minuteOf(t.to))));
  return { from: Math.floor(from / 60) * 60, to: Math.min(24 * 60, Math.ceil((to + 1) / 60) * 60) };
}

/** A day so many days later. */
export function later(date: string, days: number): string {
  const next = new Date(`${date}T12:00:00Z`);
  next.setUTCDate(next.getUTCDate() + days);
  return next.toISOString().slice(0, 10);
}

/** Tue 10 Mar */
export const dayName = (date: string): string =>
  new Date(`${date}T12:00:00Z`).toLocaleDateString('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    timeZone: 'UTC',
  });

/** True for what somebody must look at: a broken rule nobody overruled, no door, or late and not counted in. */
export const needsLook = (b: Schemas['DayBlock']) =>
  b.card.state !== 'CountedIn' &&
  (b.broken.some((r) => !r.overruled) ||
    (b.door === null && b.card.state !== 'AtDoor') ||
    (b.card.rank === 0 && b.card.state === 'Expected'));

/** Every door with its loads in the order of time; what must be looked at stands elsewhere, and once. */
export const byDoor = (day: Schemas['DayAnswer']) =>
  day.doors.map((door) => ({
    door,
    blocks: day.blocks
      .filter((b) => b.door === door.number && !needsLook(b))
      .sort((a, b) => a.start.localeCompare(b.start)),
  }));
