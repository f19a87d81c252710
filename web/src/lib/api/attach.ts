import { act, type Schemas } from './client';

/** Attaches a paper or picture to an arrival; the server looks into it and refuses what it is not. */
export async function attach(arrival: string, file: File): Promise<Schemas['AttachmentView']> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  let text = '';
  // In portions: a call takes only so many arguments.
  for (let i = 0; i < bytes.length; i += 32768) text += String.fromCharCode(...bytes.subarray(i, i + 32768));
  return act('/api/{site}/road/arrivals/attach', { arrival, name: file.name, content: btoa(text) });
}
