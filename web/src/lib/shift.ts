/**
 * Who signed in by badge on this device today, for changing the person in a dead spot. Of a PIN only a salted hash by a slow function is
 * kept, for the day; five wrong tries and the badge waits for the network.
 */
import { Problem, type Schemas } from './api/client';
import { database } from './device';

type Person = {
  badge: string;
  day: string;
  salt: Uint8Array;
  hash: string;
  tries: number;
  state: Schemas['SessionAnswer'];
};

const rounds = 200_000;
const mostTries = 5;

async function hashOf(pin: string, salt: Uint8Array): Promise<string> {
  const key = await crypto.subtle.importKey('raw', new TextEncoder().encode(pin), 'PBKDF2', false, ['deriveBits']);
  const bits = await crypto.subtle.deriveBits(
    { name: 'PBKDF2', hash: 'SHA-256', salt: new Uint8Array(salt), iterations: rounds },
    key,
    256,
  );
  return [...new Uint8Array(bits)].map((b) => b.toString(16).padStart(2, '0')).join('');
}

/** Keeps who signed in by badge. Without a secure context nothing is kept. */
export async function remember(badge: string, pin: string, state: Schemas['SessionAnswer'], day: string) {
  if (!globalThis.crypto?.subtle) return;
  const salt = crypto.getRandomValues(new Uint8Array(16));
  const person: Person = { badge, day, salt, hash: await hashOf(pin, salt), tries: 0, state };
  await (await database()).put('people', person);
}

/** The session of who signed in here today; refused for everybody else. */
export async function knownToday(badge: string, pin: string, day: string): Promise<Schemas['SessionAnswer']> {
  const db = await database();
  const person = (await db.get('people', badge)) as Person | undefined;
  if (!person || person.day !== day)
    throw new Problem(
      'not-today',
      'Without a network only who signed in on this device by badge today can work on.',
      'Go where the network reaches, and scan the badge there.',
      0,
    );
  if (person.tries >= mostTries)
    throw new Problem('locked-out', 'Too many tries: this badge waits for the network.', 'Sign in when it is back.', 0);
  if ((await hashOf(pin, person.salt)) !== person.hash) {
    await db.put('people', { ...person, tries: person.tries + 1 });
    throw new Problem('sign-in-failed', 'Badge and PIN do not belong together.', 'Try again.', 0);
  }
  await db.put('people', { ...person, tries: 0 });
  return person.state;
}
