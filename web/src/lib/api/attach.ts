import { act, limits, type Schemas } from './client';

/** The bytes of a file as Base64. */
export async function base64(file: File): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  let text = '';
  // In portions: a call takes only so many arguments.
  for (let i = 0; i < bytes.length; i += 32768) text += String.fromCharCode(...bytes.subarray(i, i + 32768));
  return btoa(text);
}

/**
 * Attaches a paper or picture to an arrival, or to one count of it by its act; the server looks into it and refuses
 * what it is not. With an id of
 * its own it is attached once, however often it is sent.
 */
export async function attach(
  arrival: string,
  file: File,
  count?: string,
  id?: string,
): Promise<Schemas['AttachmentView']> {
  return act(
    '/api/{site}/road/arrivals/attach',
    { arrival, name: file.name, content: await base64(file), count: count ?? null },
    id,
    limits.long,
  );
}
