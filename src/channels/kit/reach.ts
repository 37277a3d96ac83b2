import { lookup } from 'node:dns';
import { isIP, type LookupFunction } from 'node:net';
import ipaddr from 'ipaddr.js';
import { Agent, fetch as reachOut, type Dispatcher, type Response } from 'undici';
import { lastWord, OutsideError, writes, type HttpLine, type HttpRequest, type Lastly } from './http';

const connectMs = 5_000;
const wholeMs = 15_000;
const largestAnswer = 5_000_000;
/** A page for the public may lead on so often. */
const mostHops = 3;

/** Failures at which the request cannot have reached the channel. */
const neverArrived = new Set([
  'ECONNREFUSED',
  'ENOTFOUND',
  'EHOSTUNREACH',
  'ENETUNREACH',
  'EAI_AGAIN',
  'UND_ERR_CONNECT_TIMEOUT',
]);
const privateCode = 'PRIVATE_ADDRESS';

/**
 * Hosts and addresses of private networks that may be reached, as the environment names them: `127.0.0.1, cms.local`.
 */
export function privateHosts(said: string | undefined): ReadonlySet<string> {
  return new Set(
    (said ?? '')
      .split(',')
      .map((text) => text.trim().toLowerCase())
      .filter((candidate) => candidate !== ''),
  );
}

/** True where an address is on the open internet. What is not understood is not. */
export function isOpen(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  // An IPv4 address in IPv6 clothes is what it is (RFC 4291, section 2.5.5.2).
  return ipaddr.process(address).range() === 'unicast';
}

/**
 * The way out over HTTP. A host is resolved once, its addresses are looked at, and the connection goes to one of those:
 * a private one only where its host or it is among `allowed`. Nothing is followed but a page for the public: few times,
 * to the same scheme, without a body. An answer has 15 seconds in all and 5 MB, counted while it is read and after it
 * is unpacked. Throws an `OutsideError`: `unknown-outcome` where a writing may have arrived, else `again-later` or what
 * was not let go.
 */
export function makeHttp(allowed: ReadonlySet<string>): HttpLine {
  const may = (host: string, address: string) => isOpen(address) || allowed.has(host) || allowed.has(address);
  const agent = new Agent({
    connect: { lookup: checkedLookup(may), timeout: connectMs },
    headersTimeout: wholeMs,
    bodyTimeout: wholeMs,
  });
  return async (request, lastly) => {
    const last = lastWord(lastly);
    const line = agent.compose(askedLast(last.ask));
    const url = new URL(request.url);
    const host = url.hostname.replace(/^\[|\]$/g, '').toLowerCase();
    if (isIP(host) !== 0 && !may(host, host)) throw privately(host, host);
    // The whole of it, from the first octet sent to the last read, has one limit.
    const signal = AbortSignal.timeout(wholeMs);
    const once = async () => {
      const answer = await send(request, url, line, signal);
      const text = await textOf(answer, url.host, writes(request));
      return { status: answer.status, headers: new Headers([...answer.headers]), text };
    };
    try {
      return await once().catch((error: unknown) => {
        // A connection that was kept open may have been let go there just now: what harms nobody twice is asked once
        // more.
        if (writes(request) || !letGo.has(causeOf(error).code ?? '')) throw error;
        return once();
      });
    } catch (error) {
      throw last.refusal() ?? asOutside(error, request, url.host);
    }
  };
}

/** Asks when the connection stands and nothing was written on it yet. */
const askedLast =
  (lastly: Lastly): Dispatcher.DispatcherComposeInterceptor =>
  (dispatch) =>
  (options, handler) =>
    dispatch(options, {
      onRequestStart(controller, context: unknown) {
        lastly();
        handler.onRequestStart?.(controller, context);
      },
      onRequestUpgrade: (...upgrade) => handler.onRequestUpgrade?.(...upgrade),
      onResponseStart: (...start) => handler.onResponseStart?.(...start),
      onResponseData: (...data) => handler.onResponseData?.(...data),
      onResponseEnd: (...end) => handler.onResponseEnd?.(...end),
      onResponseError: (...error) => handler.onResponseError?.(...error),
    });

/** How a connection ends that the other side let go of. */
const letGo = new Set(['ECONNRESET', 'EPIPE', 'UND_ERR_SOCKET']);

async function send(request: HttpRequest, url: URL, dispatcher: Dispatcher, signal: AbortSignal): Promise<Response> {
  const { method, headers = {}, body, follow = false } = request;
  let at = url;
  for (let hops = 0; ; hops += 1) {
    const answer = await reachOut(at, {
      method,
      headers,
      redirect: 'manual',
      dispatcher,
      signal,
      ...(body === undefined ? {} : { body }),
    });
    const to = answer.headers.get('location');
    // A call that is led elsewhere would turn a write into the reading of another page.
    if (!follow || answer.status < 300 || answer.status >= 400 || to === null) return answer;
    const next = URL.canParse(to, at) ? new URL(to, at) : null;
    await answer.body?.cancel();
    if (next === null || next.protocol !== url.protocol || hops >= mostHops)
      throw new OutsideError('invalid', `the page leads on to ${to.slice(0, 200)}: it was not followed`);
    if (next.host !== url.host)
      throw new OutsideError('invalid', `the page leads away to ${next.host}: it was not followed`);
    at = next;
  }
}

/** The answer's text. What is larger is not read to its end. */
async function textOf(answer: Response, host: string, wrote: boolean): Promise<string> {
  if (answer.body === null) return '';
  const parts: Uint8Array[] = [];
  let size = 0;
  for await (const part of answer.body) {
    const bytes = part as Uint8Array;
    size += bytes.byteLength;
    // Whatever it says, it was said after the writing.
    if (size > largestAnswer)
      throw new OutsideError(wrote ? 'unknown-outcome' : 'invalid', `the answer from ${host} is larger than 5 MB`);
    parts.push(bytes);
  }
  return Buffer.concat(parts).toString('utf8');
}

/**
 * Resolves a host and looks at every address of it; the connection goes to what was looked at, never to a second
 * answer.
 */
function checkedLookup(may: (host: string, address: string) => boolean): LookupFunction {
  return (host, options, done) =>
    lookup(host, { ...options, all: true }, (error, found) => {
      const shut = found?.find((address) => !may(host.toLowerCase(), address.address));
      const problem = error ?? (shut ? Object.assign(new Error(shut.address), { code: privateCode }) : null);
      if (problem !== null) return done(problem, []);
      return options.all === true ? done(null, found) : done(null, found[0]?.address ?? '', found[0]?.family);
    });
}

/** The address at which a host may be reached. Throws an `OutsideError` where it is private, or there is none. */
export function reachable(host: string, allowed: ReadonlySet<string>): Promise<string> {
  const may = (name: string, address: string) => isOpen(address) || allowed.has(name) || allowed.has(address);
  return new Promise((resolve, reject) =>
    checkedLookup(may)(host, { all: false }, (error, address) => {
      if (error === null && typeof address === 'string') return resolve(address);
      const { code, message } = (error ?? {}) as { code?: string; message?: string };
      reject(
        code === privateCode
          ? privately(host, message ?? '')
          : new OutsideError('again-later', `no answer from ${host} (${code ?? 'not found'})`),
      );
    }),
  );
}

function privately(host: string, address: string): OutsideError {
  const where = host === address ? host : `${host} (${address})`;
  return new OutsideError(
    'not-allowed',
    `${where} lies in a private network. Whoever keeps the house allows such a host by NUNTIAX_PRIVATE`,
  );
}

/** A write that got no answer has an unknown outcome; a read is simply tried again. */
function asOutside(error: unknown, request: HttpRequest, host: string): Error {
  if (error instanceof OutsideError) return error;
  const { code, message } = causeOf(error);
  if (code === privateCode) return privately(host.replace(/:\d+$/, ''), message);
  const arrived = writes(request) && !neverArrived.has(code ?? '');
  return new OutsideError(
    arrived ? 'unknown-outcome' : 'again-later',
    `no answer from ${host} (${code ?? 'cut off'})`,
    null,
    null,
    { cause: error },
  );
}

function causeOf(error: unknown): { code: string | null; message: string } {
  // Not by its class: an error may come from another realm than this one's.
  const { cause } = (error ?? {}) as { cause?: { code?: unknown; message?: string; errors?: { code?: unknown }[] } };
  const code = cause?.code ?? cause?.errors?.[0]?.code;
  return { code: typeof code === 'string' ? code : null, message: cause?.message ?? '' };
}
