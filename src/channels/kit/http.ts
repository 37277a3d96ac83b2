import type { z } from 'zod';
import type { KeptThere } from './kept';
import type { Rendition } from './kept';
import type { OutsideErrorKind } from '@/core/errands/retry';

/** An error from outside: its kind decides the cure, never its words. */
export class OutsideError extends Error {
  constructor(
    readonly kind: OutsideErrorKind,
    message: string,
    /** How long the channel asked us to wait, in milliseconds. */
    readonly waitMs: number | null = null,
    /** The channel's name for the field it objects to. */
    readonly field: string | null = null,
    options?: ErrorOptions,
  ) {
    super(message, options);
    this.name = 'OutsideError';
  }
}

/** True for an error from outside, whichever copy of this module made it: parts of an application are bundled apart. */
export function isOutsideError(error: unknown): error is OutsideError {
  return error instanceof Error && error.name === 'OutsideError' && 'kind' in error && 'waitMs' in error;
}

export interface HttpRequest {
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  url: string;
  headers?: Record<string, string>;
  body?: string | Uint8Array<ArrayBuffer>;
  /** Doing it twice does no harm, whatever its method: it puts the same there again. */
  repeatable?: boolean;
  /** It tells nothing of ours, whatever its method: it reads, or signs in. */
  tellsNothing?: boolean;
  /** A page for the public may lead on to another; a call never does. */
  follow?: boolean;
}

/** True where it carries something of ours away: it is asked about before it leaves. */
export function tells({ method, tellsNothing }: HttpRequest): boolean {
  return method !== 'GET' && tellsNothing !== true;
}

/** True where it changes something there that would be changed twice: its outcome is not known until an answer came. */
export function writes(request: HttpRequest): boolean {
  return tells(request) && request.repeatable !== true;
}

export interface HttpAnswer {
  status: number;
  headers: Headers;
  text: string;
}

/** One request and its answer. Throws `OutsideError` where no answer came. */
export type Http = (request: HttpRequest) => Promise<HttpAnswer>;

/**
 * What is asked when the line stands, right before the first octet that tells something: throws where it may not go any
 * more.
 */
export type Lastly = () => void;

/**
 * Keeps what the last question threw, as it was thrown: what carries it through a line wraps it into errors of its own.
 */
export function lastWord(lastly: Lastly | undefined): { ask: Lastly; refusal: () => Error | null } {
  let thrown: Error | null = null;
  const ask = () => {
    try {
      lastly?.();
    } catch (error) {
      thrown = error as Error;
      throw error;
    }
  };
  return { ask, refusal: () => thrown };
}

/** The way over HTTP itself, under the one door. */
export type HttpLine = (request: HttpRequest, lastly?: Lastly) => Promise<HttpAnswer>;

/** The one place where an answer's status becomes a kind of error. Gives the answer back where it is good. */
export function accepted(answer: HttpAnswer, wrote: boolean): HttpAnswer {
  const { status } = answer;
  if (status >= 200 && status < 300) return answer;
  if (status >= 300 && status < 400) {
    const to = answer.headers.get('location') ?? 'another address';
    throw new OutsideError('invalid', `led on to ${to.slice(0, 200)} instead of answering: nothing was followed`);
  }
  throw new OutsideError(kindOf(status, wrote), messageOf(answer), waitOf(answer), fieldOf(answer));
}

function kindOf(status: number, wrote: boolean): OutsideErrorKind {
  if (status === 408 || status === 425 || status === 429 || status === 503) return 'again-later';
  if (status === 401) return 'sign-in-again';
  if (status === 403) return 'not-allowed';
  if (status === 404 || status === 410) return 'gone';
  if (status === 409 || status === 412) return 'conflict';
  if (status === 423) return 'locked';
  if (status >= 500) return wrote ? 'unknown-outcome' : 'again-later';
  return 'invalid';
}

/**
 * How long it asks us to wait (RFC 9110, section 10.2.3), in milliseconds: as seconds, or as a date. `null`: it does
 * not say.
 */
export function waitOf({ headers }: HttpAnswer): number | null {
  const said = headers.get('retry-after')?.trim() ?? '';
  if (/^\d{1,15}$/.test(said)) return Number(said) * 1000;
  const at = /^[A-Z][a-z]{2}, \d{2} [A-Z][a-z]{2} \d{4} [\d:]{8} GMT$/.test(said) ? Date.parse(said) : NaN;
  const now = Date.parse(headers.get('date') ?? '');
  return Number.isNaN(at) ? null : Math.max(0, at - (Number.isNaN(now) ? Date.now() : now));
}

function bodyOf({ text }: HttpAnswer): Record<string, unknown> {
  try {
    const body: unknown = JSON.parse(text);
    return body !== null && typeof body === 'object' ? (body as Record<string, unknown>) : {};
  } catch {
    return {};
  }
}

function messageOf(answer: HttpAnswer): string {
  // Problem details (RFC 9457) say it as `detail`.
  const { message, detail } = bodyOf(answer);
  const said = message ?? detail;
  return typeof said === 'string' ? said.slice(0, 400) : `answered with status ${answer.status}`;
}

function fieldOf(answer: HttpAnswer): string | null {
  const { field, pointer } = bodyOf(answer);
  if (typeof field === 'string') return field;
  return typeof pointer === 'string' ? pointer.replace(/^#?\//, '').replaceAll('/', '.') : null;
}

/** Reads an answer's JSON with a schema. An answer of another shape is an error that says so. */
export function readAnswer<T>(answer: HttpAnswer, schema: z.ZodType<T>, what: string): T {
  let body: unknown;
  try {
    body = JSON.parse(answer.text);
  } catch {
    throw new OutsideError('invalid', `${what}: the answer is no JSON`);
  }
  const parsed = schema.safeParse(body);
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0];
  throw new OutsideError('invalid', `${what}: the answer has an unexpected shape at ${issue?.path.join('.') ?? '?'}`);
}

/** What was asked for; `null` where the channel says that it is not there any more. Any other error is thrown on. */
export async function orGone<T>(asked: Promise<T>): Promise<T | null> {
  return asked.catch((error: unknown) => {
    if (isOutsideError(error) && error.kind === 'gone') return null;
    throw error;
  });
}

/** A public page's HTML; empty where the public finds none. */
export async function pageOf(http: Http, url: string): Promise<string> {
  const page = await http({ method: 'GET', url, follow: true });
  return page.status === 404 ? '' : accepted(page, false).text;
}

const underWay = new WeakMap<KeptThere, Map<string, Promise<unknown>>>();

/** Does something for an account that needs doing once: what is under way already is waited for, not begun again. */
export function onceAt<T>(kept: KeptThere, key: string, work: () => Promise<T>): Promise<T> {
  const mine = underWay.get(kept) ?? new Map<string, Promise<unknown>>();
  underWay.set(kept, mine);
  const running = mine.get(key);
  if (running) return running as Promise<T>;
  const made = work().finally(() => mine.delete(key));
  mine.set(key, made);
  return made;
}

/** Puts each picture there that the account is not known to hold yet. */
export async function sentOnce(
  kept: KeptThere,
  pictures: readonly Rendition[],
  send: (rendition: Rendition) => Promise<void>,
): Promise<void> {
  for (const picture of pictures) {
    if (kept.get('picture', picture.name) !== null) continue;
    await onceAt(kept, `picture ${picture.name}`, async () => {
      await send(picture);
      kept.put('picture', picture.name, 'there');
    });
  }
}
