import type { z } from 'zod';
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
  ) {
    super(message);
    this.name = 'OutsideError';
  }
}

export interface HttpRequest {
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  url: string;
  headers?: Record<string, string>;
  body?: string | Uint8Array<ArrayBuffer>;
}

export interface HttpAnswer {
  status: number;
  headers: Headers;
  text: string;
}

/** One request and its answer. Throws `OutsideError` where no answer came. */
export type Http = (request: HttpRequest) => Promise<HttpAnswer>;

const timeoutMs = 15_000;
const largestAnswer = 5_000_000;
/** Failures at which the request cannot have reached the channel. */
const neverArrived = new Set([
  'ECONNREFUSED',
  'ENOTFOUND',
  'EHOSTUNREACH',
  'ENETUNREACH',
  'EAI_AGAIN',
  'UND_ERR_CONNECT_TIMEOUT',
]);

/** Real HTTP. A write that got no answer has an unknown outcome; a read is simply tried again. */
export const realHttp: Http = async ({ method, url, headers, body }) => {
  try {
    const init: RequestInit = { method, redirect: 'follow', cache: 'no-store', signal: AbortSignal.timeout(timeoutMs) };
    if (headers) init.headers = headers;
    if (body !== undefined) init.body = body;
    const answer = await fetch(url, init);
    const text = await answer.text();
    if (text.length > largestAnswer)
      throw new OutsideError('invalid', `the answer from ${new URL(url).host} is larger than 5 MB`);
    return { status: answer.status, headers: answer.headers, text };
  } catch (error) {
    if (error instanceof OutsideError) throw error;
    const code = causeCode(error);
    const arrived = method !== 'GET' && !neverArrived.has(code ?? '');
    throw new OutsideError(
      arrived ? 'unknown-outcome' : 'again-later',
      `no answer from ${new URL(url).host} (${code ?? 'cut off'})`,
    );
  }
};

function causeCode(error: unknown): string | null {
  // Not by its class: an error may come from another realm than this one's.
  const { cause } = (error ?? {}) as { cause?: { code?: unknown; errors?: { code?: unknown }[] } };
  const code = cause?.code ?? cause?.errors?.[0]?.code;
  return typeof code === 'string' ? code : null;
}

/** The one place where an answer's status becomes a kind of error. Gives the answer back where it is good. */
export function accepted(answer: HttpAnswer, wrote: boolean): HttpAnswer {
  const { status } = answer;
  if (status >= 200 && status < 300) return answer;
  throw new OutsideError(kindOf(status, wrote), messageOf(answer), waitOf(answer), fieldOf(answer));
}

function kindOf(status: number, wrote: boolean): OutsideErrorKind {
  if (status === 429 || status === 503) return 'again-later';
  if (status === 401) return 'sign-in-again';
  if (status === 403) return 'not-allowed';
  if (status === 404 || status === 410) return 'gone';
  if (status === 409 || status === 412) return 'conflict';
  if (status === 423) return 'locked';
  if (status >= 500) return wrote ? 'unknown-outcome' : 'again-later';
  return 'invalid';
}

function waitOf({ headers }: HttpAnswer): number | null {
  const seconds = Number(headers.get('retry-after') ?? NaN);
  return Number.isFinite(seconds) ? seconds * 1000 : null;
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
  const { message } = bodyOf(answer);
  return typeof message === 'string' ? message.slice(0, 400) : `answered with status ${answer.status}`;
}

function fieldOf(answer: HttpAnswer): string | null {
  const { field } = bodyOf(answer);
  return typeof field === 'string' ? field : null;
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

/** What was asked for; `null` where the channel says that it is not there any more. */
export async function orGone<T>(asked: Promise<T>): Promise<T | null> {
  return asked.catch((error: unknown) => {
    if (error instanceof OutsideError && error.kind === 'gone') return null;
    throw error;
  });
}

/** A public page's HTML; empty where the public finds none. */
export async function pageOf(http: Http, url: string): Promise<string> {
  const page = await http({ method: 'GET', url });
  return page.status === 404 ? '' : accepted(page, false).text;
}

/** Lets at most `perSecond` requests start in a second; the rest wait their turn. */
export function paced(http: Http, perSecond: number): Http {
  const gapMs = 1000 / perSecond;
  let turn: Promise<unknown> = Promise.resolve();
  return async (request) => {
    const mine = turn;
    turn = mine.then(() => new Promise((resolve) => setTimeout(resolve, gapMs)));
    await mine;
    return http(request);
  };
}
