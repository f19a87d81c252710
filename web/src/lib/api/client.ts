/** Calls to the server. All types come from its OpenAPI document; none is written by hand. */
import { v7 } from 'uuid';
import type { components, paths } from './generated/schema';

export type Schemas = components['schemas'];

type Json<T> = T extends { content: { 'application/json': infer B } } ? B : never;
export type AskPath = {
  [P in keyof paths]: paths[P] extends { get: { responses: { 200: unknown } } } ? P : never;
}[keyof paths];
export type ActPath = {
  [P in keyof paths]: paths[P] extends { post: { responses: { 200: unknown } } } ? P : never;
}[keyof paths];
export type AnswerOf<P extends AskPath> = paths[P] extends { get: { responses: { 200: infer R } } } ? Json<R> : never;
export type ActAnswerOf<P extends ActPath> = paths[P] extends { post: { responses: { 200: infer R } } }
  ? Json<R>
  : never;
export type BodyOf<P extends ActPath> = paths[P] extends { post: { requestBody: infer R } } ? Json<R> : never;

/** A refusal: what happened and what to do next. */
export class Problem extends Error {
  constructor(
    readonly code: string,
    readonly sentence: string,
    readonly next: string,
    readonly status: number,
  ) {
    super(sentence);
  }
}

let token = '';
let site = '';

export const setToken = (value: string | null | undefined) => (token = value ?? '');
export const setSite = (value: string) => (site = value);

/** This device's own name, made once and kept. */
export function device(): string {
  const kept = localStorage.getItem('device');
  if (kept) return kept;
  const made = `${matchMedia('(max-width: 700px)').matches ? 'handheld' : 'desk'}-${crypto.getRandomValues(new Uint16Array(1))[0]}`;
  localStorage.setItem('device', made);
  return made;
}

/** A new act id (UUID version 7, RFC 9562): ids made one after another lie side by side in the server's indexes. */
export const newActId = (): string => v7();

type Values = Record<string, string | number | null | undefined>;

function address(path: string, values: Values): string {
  const left = { ...values, site };
  const filled = path.replace(/\{(\w+)\}/g, (_, name: string) => {
    const value = (left as Values)[name];
    delete (left as Values)[name];
    return encodeURIComponent(String(value));
  });
  delete (left as Values)['site'];
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(left))
    if (value !== null && value !== undefined && value !== '') query.set(name, String(value));
  return query.size ? `${filled}?${query}` : filled;
}

/** Asks; throws a Problem when refused. */
export async function ask<P extends AskPath>(path: P, values: Values = {}): Promise<AnswerOf<P>> {
  return send(address(path, values), { method: 'GET' });
}

/** Does an act. The same id again does nothing and gets the same answer. */
export async function act<P extends ActPath>(path: P, body: BodyOf<P>, id = newActId()): Promise<ActAnswerOf<P>> {
  return send(address(path, {}), {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', 'X-Token': token, 'Act-Id': id, Device: device() },
    body: JSON.stringify(body),
  });
}

/** Signs out. */
export const signOut = () => send<void>('/api/session', { method: 'DELETE', headers: { 'X-Token': token } });

async function send<T>(url: string, init: RequestInit): Promise<T> {
  let response: Response;
  try {
    response = await fetch(url, init);
  } catch {
    throw new Problem(
      'no-network',
      'The server does not answer.',
      'Nothing was done. Try again when the network is back.',
      0,
    );
  }
  if (response.ok) {
    const text = await response.text();
    return (text ? JSON.parse(text) : undefined) as T;
  }
  const problem = await response.json().catch(() => ({}));
  // The session ended, or somebody else signed in on this device: the page asks who is here.
  if (problem.code === 'not-signed-in' || problem.code === 'token-missing')
    window.dispatchEvent(new Event('session-ended'));
  throw new Problem(
    problem.code ?? `http-${response.status}`,
    problem.detail ?? 'The server refused, and did not say why.',
    problem.next ?? 'Try again.',
    response.status,
  );
}
