/** Calls to the server. All types come from its OpenAPI document; none is written by hand. */
import { v7 } from 'uuid';
import type { components, paths } from './generated/schema';

import type { RefusalCode } from './refusals';

/** What the device itself refuses, or says of the network. */
export type DeviceCode = 'no-network' | 'badge-again' | 'detail-unread' | 'not-an-item' | 'not-today';

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
    readonly code: RefusalCode | DeviceCode,
    readonly sentence: string,
    readonly next: string,
    /** Of HTTP; 0 where the server gave no answer of its own: nothing came, it came too late or cut, or a gateway spoke instead. */
    readonly status: number,
  ) {
    super(sentence);
  }

  /** True when nobody knows whether the server did what it was asked: the same act is sent again, under the same id. */
  get isOpen(): boolean {
    return this.status === 0 || this.status >= 500;
  }
}

/** What a scan or a count was refused with, as a problem. */
export const problemOf = (refused: { code: string; sentence: string; next: string }): Problem =>
  new Problem(refused.code as RefusalCode, refused.sentence, refused.next, 422);

/** How long an answer is waited for, in milliseconds. */
export const limits = {
  /** Scans and counts: no answer by then is a dead spot, and counting goes on. */
  scan: 2000,
  /** The same sent late, when nobody stands by: the longest that a slow network is given. */
  late: 10_000,
  /** What shows a page, and most acts. */
  usual: 20_000,
  /** Files and plans. */
  long: 300_000,
} as const;

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

function address(path: string, values: Values, at = site): string {
  const left = { ...values, site: at };
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
export async function ask<P extends AskPath>(
  path: P,
  values: Values = {},
  limit: number = limits.usual,
): Promise<AnswerOf<P>> {
  return send(address(path, values), { method: 'GET' }, limit);
}

/** Ids of acts whose answers are not known, by what they do: the same thing done again is the same act. */
const unanswered = new Map<string, string>();

/** Acts that are on their way, by what they do. */
const onTheWay = new Map<string, Promise<unknown>>();

/**
 * Does an act. The same id again does nothing and gets the same answer. Where no id is given, the same act again is the same one as
 * long as its answer is not known: pressed twice while it is on its way, or once more after an error, it is done once.
 * @param at The code of another site where it is done; left out for the one where the person is.
 */
export async function act<P extends ActPath>(
  path: P,
  body: BodyOf<P>,
  id?: string,
  limit: number = limits.usual,
  at?: string,
): Promise<ActAnswerOf<P>> {
  const url = address(path, {}, at);
  const content = JSON.stringify(body);
  if (id) return sendAct(url, content, id, limit);
  const same = `${url} ${content}`;
  const before = onTheWay.get(same);
  if (before) return before as Promise<ActAnswerOf<P>>;
  const used = unanswered.get(same) ?? newActId();
  const sending = sendAct<ActAnswerOf<P>>(url, content, used, limit);
  onTheWay.set(same, sending);
  try {
    const answer = await sending;
    unanswered.delete(same);
    return answer;
  } catch (problem) {
    if (problem instanceof Problem) {
      if (problem.isOpen) unanswered.set(same, used);
      else unanswered.delete(same);
    }
    throw problem;
  } finally {
    onTheWay.delete(same);
  }
}

const sendAct = <T>(url: string, content: string, id: string, limit: number): Promise<T> =>
  send<T>(
    url,
    {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'X-Token': token, 'Act-Id': id, Device: device() },
      body: content,
    },
    limit,
  );

/** Signs out. */
export const signOut = () =>
  send<void>('/api/session', { method: 'DELETE', headers: { 'X-Token': token } }, limits.usual);

const silence = () =>
  new Problem('no-network', 'The server does not answer.', 'Try again when the network is back.', 0);

/** The answer as text, within a time limit that covers all of it; throws where none came whole. */
async function fetchText(url: string, init: RequestInit, limit: number): Promise<{ response: Response; text: string }> {
  const late = new AbortController();
  const timer = setTimeout(() => late.abort(), limit);
  try {
    const response = await fetch(url, { ...init, signal: late.signal });
    return { response, text: await response.text() };
  } catch {
    throw silence();
  } finally {
    clearTimeout(timer);
  }
}

/** The version of the set-up by which the last answer was given. */
let setUp: string | null = null;

/** Says so to the page where the set-up has changed since the last answer: what was kept of it is asked for anew. */
function noteSetUp(response: Response) {
  const version = response.headers.get('Set-Up');
  if (version === null || version === setUp) return;
  const known = setUp !== null;
  setUp = version;
  if (known) window.dispatchEvent(new Event('set-up-changed'));
}

/** What was answered as JSON; undefined where it is none: cut short, or the page of a gateway or portal. */
function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

async function send<T>(url: string, init: RequestInit, limit: number): Promise<T> {
  const { response, text } = await fetchText(url, init, limit);
  const answer = parsed(text);
  noteSetUp(response);
  if (response.ok) {
    if (text === '' && init.method === 'DELETE') return undefined as T;
    // A page where an answer should be: a portal or gateway spoke, and not the server.
    if (answer === undefined) throw silence();
    return answer as T;
  }
  const problem = answer as { code?: string; detail?: string; next?: string } | undefined;
  // Every refusal of the server has its code; without one, something in between answered.
  if (typeof problem?.code !== 'string') throw silence();
  // The session ended, or somebody else signed in on this device: the page asks who is here.
  if (problem.code === 'not-signed-in' || problem.code === 'token-missing')
    window.dispatchEvent(new Event('session-ended'));
  throw new Problem(
    problem.code as RefusalCode,
    problem.detail ?? 'The server refused, and did not say why.',
    problem.next ?? 'Try again.',
    response.status,
  );
}
