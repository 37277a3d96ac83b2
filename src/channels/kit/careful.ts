import { isOutsideError, OutsideError, type Http } from './http';
import type { Answer, ChannelClient, Connection, Remote } from './kind';

/** What a client is held to. */
export interface Care {
  connection: Connection;
  /** Credentials that are no secrets, by name: a user, a profile. */
  open: ReadonlySet<string>;
  /** Further hosts on which it may give addresses, and have its pages. */
  allowed(): ReadonlySet<string>;
  /** Told of an address on a host that is not the channel's: it is passed on to nobody. */
  foreign(host: string, address: string): void;
}

/** Texts that must stand in no message: credentials as they are, and as they go over the wire. Short ones are words. */
function secretsOf(credentials: Record<string, string>, open: ReadonlySet<string>): string[] {
  const values = Object.entries(credentials).flatMap(([name, text]) =>
    text.length >= 6 && !open.has(name) ? [text] : [],
  );
  const pairs = Object.values(credentials).flatMap((a) => values.map((b) => btoaUtf8(`${a}:${b}`)));
  return [...values, ...values.map(encodeURIComponent), ...values.map(btoaUtf8), ...pairs].sort(
    (a, b) => b.length - a.length,
  );
}

function btoaUtf8(text: string): string {
  return Buffer.from(text, 'utf8').toString('base64');
}

/** A message without any of the secrets. */
function struck(message: string, { connection: { credentials }, open }: Pick<Care, 'connection' | 'open'>): string {
  return secretsOf(credentials, open).reduce((text, secret) => text.replaceAll(secret, '[secret]'), message);
}

/** True where an address is of the web, and on the channel's own host or an allowed one. */
function isTheirs(address: string, { connection, allowed }: Care): boolean {
  if (!URL.canParse(address)) return false;
  const { protocol, host, username } = new URL(address);
  if (!/^https?:$/.test(protocol) || username !== '') return false;
  return host === new URL(connection.address).host || allowed().has(host);
}

/** A way out that leads to the channel's own host alone; its public pages may stand on an allowed one. */
export function ownHostOnly(http: Http, care: Care): Http {
  return (request) => {
    const home = new URL(care.connection.address).host;
    const there = URL.canParse(request.url) ? new URL(request.url).host : '';
    if (there === home || (request.follow === true && isTheirs(request.url, care))) return http(request);
    return Promise.reject(
      new OutsideError(
        'invalid',
        `it gave an address on ${there || 'no host'}, which is not its own: nothing was asked there`,
      ),
    );
  };
}

/** An answer about an entry, with what was kept of it where the place did not tell it again. */
function withKept(asked: unknown, answer: unknown): unknown {
  if (!isObject(asked) || asked.kept === undefined || !isObject(answer)) return answer;
  if ('wire' in answer) return { ...answer, remote: withKept(asked, answer.remote) };
  return answer.id === asked.id && answer.kept === undefined ? { ...answer, kept: asked.kept } : answer;
}

const isObject = (value: unknown): value is Record<string, unknown> => value !== null && typeof value === 'object';

/**
 * A client of which no secret gets out by a message, and no address of a host that is not the channel's by an answer.
 * What `client` throws is thrown on, its words cleaned.
 */
export function careful(client: ChannelClient, care: Care): ChannelClient {
  const clean = (address: string | null) => {
    if (address === null || address === '' || isTheirs(address, care)) return address;
    care.foreign(URL.canParse(address) ? new URL(address).host || address.slice(0, 80) : address.slice(0, 80), address);
    return null;
  };
  const remote = (remote: Remote): Remote => {
    const gifts = Object.entries(remote.gifts ?? {}).flatMap(([gift, value]) => {
      // A number in a register is no address.
      const kept = gift === 'remote id' ? value : clean(value);
      return kept === null ? [] : [[gift, kept] as const];
    });
    return {
      ...remote,
      ...(remote.note === undefined ? {} : { note: struck(remote.note, care).slice(0, 300) }),
      publicUrl: clean(remote.publicUrl),
      link: clean(remote.link),
      ...(remote.gifts ? { gifts: Object.fromEntries(gifts) } : {}),
    };
  };
  const looked = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(looked);
    if (value === null || typeof value !== 'object') return value;
    if ('wire' in value) return { ...(value as Answer), remote: remote((value as Answer).remote) };
    return 'publicUrl' in value ? remote(value as Remote) : value;
  };
  const told = (error: unknown): unknown => {
    if (!(error instanceof Error)) return error;
    if (isOutsideError(error))
      return new OutsideError(error.kind, struck(error.message, care), error.waitMs, error.field, {
        cause: error.cause,
      });
    error.message = struck(error.message, care);
    return error;
  };
  const wrapped = Object.entries(client).map(([name, call]) => [
    name,
    async (...args: unknown[]) => {
      try {
        return withKept(args[0], looked(await (call as (...all: unknown[]) => Promise<unknown>)(...args)));
      } catch (error) {
        throw told(error);
      }
    },
  ]);
  return Object.fromEntries(wrapped) as unknown as ChannelClient;
}
