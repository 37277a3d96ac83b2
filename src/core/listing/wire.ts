import { z } from 'zod';
import type { Wire, WireCodec } from './channel-rules';
import { cleanHtml } from '../words/markup';
import { minorDigits, parsePrice, toDecimal, currencies, type Currency } from '../base/money';
import { listedStates, type ListedState } from './listed-states';
import type { ShownValue } from './shown';
import { isoDate, timeOfDay } from '../base/scalars';
import { instantOf, isZone, toLocal, type Instant } from '../base/zones';

/** What was found where something else belongs: kept as text, so that it is seen rather than lost. */
function asFound(value: unknown): ShownValue | null {
  if (value === undefined || value === null) return null;
  return { kind: 'text', text: typeof value === 'string' ? value : JSON.stringify(value) };
}

/** The moment of a date and time that were found somewhere: of a day or a time that is none, none. */
function momentFound(date: string, time: string, zone: string, second: boolean): Instant | null {
  if (!isoDate.safeParse(date).success || !timeOfDay.safeParse(time).success) return null;
  return instantOf({ date, time }, zone, second ? 'second' : 'first');
}

function wrongKind(value: ShownValue): never {
  throw new Error(`codec cannot write a value of kind ${value.kind}`);
}

/** Plain text under one key. An empty text is no value. */
export function textAt(key: string): WireCodec {
  return {
    put: (value) => (value.kind === 'text' ? { [key]: value.text } : wrongKind(value)),
    take: (wire) => (wire[key] === '' ? null : asFound(wire[key])),
  };
}

/** A text of several names as a list under one key. A list that holds anything but texts is kept as it is found. */
export function namesAt(key: string): WireCodec {
  return {
    put: (value) => (value.kind === 'text' ? { [key]: value.text.split(', ') } : wrongKind(value)),
    take: (wire) => {
      const raw = wire[key];
      if (!Array.isArray(raw) || !raw.every((name) => typeof name === 'string')) return asFound(raw);
      return raw.length === 0 ? null : { kind: 'text', text: raw.join(', ') };
    },
  };
}

/** One of a few words of ours, under one key and in the channel's own words; one that is none of them as it is found. */
export function wordAt(key: string, own: Readonly<Record<string, string>>): WireCodec {
  return {
    put: (value) =>
      value.kind === 'text' && own[value.text] !== undefined ? { [key]: own[value.text] } : wrongKind(value),
    take: (wire) => {
      const found = Object.keys(own).find((word) => own[word] === wire[key]);
      return found === undefined ? textAt(key).take(wire) : { kind: 'text', text: found };
    },
  };
}

/** HTML under one key. */
export function htmlAt(key: string): WireCodec {
  return {
    put: (value) => (value.kind === 'rich' ? { [key]: value.html } : wrongKind(value)),
    take: (wire) => {
      const raw = wire[key];
      if (typeof raw !== 'string') return asFound(raw);
      return raw === '' ? null : { kind: 'rich', html: cleanHtml(raw) };
    },
  };
}

/**
 * HTML with pictures under one key: on the wire each is an image by its file's name, with its side and size as classes.
 */
export function articleAt(key: string): WireCodec {
  const { take } = htmlAt(key);
  return {
    put: (value) => (value.kind === 'rich' ? { [key]: imagesOut(value.html) } : wrongKind(value)),
    take: (wire) => {
      const raw = wire[key];
      return take(typeof raw === 'string' ? { [key]: imagesIn(raw) } : wire);
    },
  };
}

/** Our own marking of a picture in a text; its parts come from `writeHtml`, in this order. */
const ours =
  /<figure data-picture="([\w.-]{1,160})" data-side="(\w{1,10})" data-size="(\w{1,10})"(?: data-alt="([^"]{0,3000})")?( data-href="[^"]{0,2100}")?><figcaption>([^<]{0,3000})<\/figcaption><\/figure>/g;
const images =
  /<figure class="side-(\w{1,10}) size-(\w{1,10})"( data-href="[^"]{0,2100}")?>\s*<img src="([\w.-]{1,160})" alt="([^"]{0,3000})"\s*\/?>\s*<figcaption>([^<]{0,3000})<\/figcaption>\s*<\/figure>/g;

function imagesOut(html: string): string {
  return html.replace(
    ours,
    (
      _,
      name: string,
      side: string,
      size: string,
      alt: string | undefined,
      leads: string | undefined,
      caption: string,
    ) =>
      `<figure class="side-${side} size-${size}"${leads ?? ''}><img src="${name}" alt="${alt ?? ''}"><figcaption>${caption}</figcaption></figure>`,
  );
}

function imagesIn(html: string): string {
  return html.replace(
    images,
    (_, side: string, size: string, leads: string | undefined, name: string, alt: string, caption: string) =>
      `<figure data-picture="${name}" data-side="${side}" data-size="${size}"${alt === '' ? '' : ` data-alt="${alt}"`}${leads ?? ''}><figcaption>${caption}</figcaption></figure>`,
  );
}

/** A web address under one key. */
export function urlAt(key: string): WireCodec {
  return {
    put: (value) => (value.kind === 'url' ? { [key]: value.href } : wrongKind(value)),
    take: (wire) => {
      const raw = wire[key];
      if (typeof raw !== 'string') return asFound(raw);
      return raw === '' ? null : { kind: 'url', href: raw };
    },
  };
}

/** A yes or no, written as `on` and `off`. */
export function flagAt(key: string, on: unknown, off: unknown): WireCodec {
  return {
    put: (value) => (value.kind === 'flag' ? { [key]: value.on ? on : off } : wrongKind(value)),
    take: (wire) => (wire[key] === undefined ? null : { kind: 'flag', on: wire[key] === on }),
  };
}

/**
 * The listing's state, in the channel's own words for the states that it has. What it says otherwise counts as a draft:
 * nobody sees it.
 */
export function stateAt(key: string, own: Partial<Record<ListedState, unknown>>): WireCodec {
  return {
    put: (value) =>
      value.kind === 'state' && own[value.is] !== undefined ? { [key]: own[value.is] } : wrongKind(value),
    take: (wire) => {
      if (wire[key] === undefined) return null;
      const is = listedStates.find((state) => own[state] === wire[key]);
      return { kind: 'state', is: is ?? 'draft' };
    },
  };
}

/** An instant with its zone in one text (RFC 9557): `2027-03-14T20:00:00Z[Europe/Dublin]`. */
export function zonedAt(key: string): WireCodec {
  return {
    put: (value) =>
      value.kind === 'instant'
        ? { [key]: `${new Date(value.at).toISOString().slice(0, 19)}Z[${value.zone}]` }
        : wrongKind(value),
    take: (wire) => {
      const raw = wire[key];
      const found = typeof raw === 'string' ? /^([0-9T:.+-]{10,40}Z?)(?:\[([\w/+-]{1,60})\])?$/.exec(raw) : null;
      const at = found ? Date.parse(found[1] ?? '') : NaN;
      return Number.isNaN(at) ? asFound(raw) : { kind: 'instant', at, zone: zoneOf(found?.[2]) };
    },
  };
}

/** A whole number under one key. */
export function countAt(key: string): WireCodec {
  return {
    put: (value) => (value.kind === 'count' ? { [key]: value.n } : wrongKind(value)),
    take: (wire) => (typeof wire[key] === 'number' ? { kind: 'count', n: wire[key] } : asFound(wire[key])),
  };
}

/**
 * Items that something counts for, as a list of their references; any so many of them as an object. `words` are ours
 * alone.
 */
export function refsAt(key: string): WireCodec {
  return {
    put: (value) =>
      value.kind === 'refs'
        ? { [key]: value.any === null ? value.refs : { any: value.any, of: value.refs } }
        : wrongKind(value),
    take: (wire) => {
      const raw = wire[key];
      const read = refsSchema.safeParse(raw);
      if (!read.success) return asFound(raw);
      const { any, of: refs } = Array.isArray(read.data) ? { any: null, of: read.data } : read.data;
      return refs.length === 0 ? null : { kind: 'refs', refs, any, words: '' };
    },
  };
}

const refsSchema = z.union([
  z.array(z.string().max(80)).max(3000),
  z.object({ any: z.number(), of: z.array(z.string().max(80)).max(3000) }),
]);

/** A file under one key, by its name there. */
export function fileAt(key: string): WireCodec {
  return {
    put: (value) => (value.kind === 'file' ? { [key]: value.name } : wrongKind(value)),
    take: (wire) => {
      const raw = wire[key];
      if (typeof raw !== 'string') return asFound(raw);
      return raw === '' ? null : { kind: 'file', name: raw, source: null };
    },
  };
}

/** An instant as UTC text (RFC 3339, `Z`), with the zone under a key of its own. */
export function utcAt(key: string, zoneKey: string): WireCodec {
  return {
    put: (value) =>
      value.kind === 'instant'
        ? { [key]: `${new Date(value.at).toISOString().slice(0, 19)}Z`, [zoneKey]: value.zone }
        : wrongKind(value),
    take: (wire) => {
      const raw = wire[key];
      const at = typeof raw === 'string' ? Date.parse(raw) : NaN;
      return Number.isNaN(at) ? asFound(raw) : { kind: 'instant', at, zone: zoneOf(wire[zoneKey]) };
    },
  };
}

/** An instant as wall-clock text `YYYY-MM-DD HH:mm`, with the zone under a key of its own. */
export function localAt(key: string, zoneKey: string): WireCodec {
  return {
    put: (value) => {
      if (value.kind !== 'instant') return wrongKind(value);
      const { date, time } = toLocal(value.at, value.zone);
      const again = instantOf({ date, time }, value.zone);
      // The second of two equal readings is marked, or it could not be told from the first.
      return { [key]: `${date} ${time}${again === value.at ? '' : ' (2)'}`, [zoneKey]: value.zone };
    },
    take: (wire) => {
      const raw = wire[key];
      const found = typeof raw === 'string' ? /^(\d{4}-\d{2}-\d{2})[ T](\d{2}:\d{2})( \(2\))?$/.exec(raw) : null;
      if (!found) return asFound(raw);
      const [, date = '', time = '', second] = found;
      const zone = zoneOf(wire[zoneKey]);
      if (zone === '') return asFound(raw);
      const at = momentFound(date, time, zone, second !== undefined);
      return at === null ? asFound(raw) : { kind: 'instant', at, zone };
    },
  };
}

/**
 * An instant as `DD/MM/YYYY` and `HH:MM` under two keys, in the one zone that the channel goes by; of two equal
 * readings the second is marked `B`.
 */
export function dayFirstAt(dateKey: string, timeKey: string, zone: string): WireCodec {
  return {
    put: (value) => {
      if (value.kind !== 'instant') return wrongKind(value);
      const { date, time } = toLocal(value.at, zone);
      const [year, month, day] = date.split('-');
      const again = instantOf({ date, time }, zone);
      return { [dateKey]: `${day}/${month}/${year}`, [timeKey]: again === value.at ? time : `${time} B` };
    },
    take: (wire) => {
      const [rawDate, rawTime] = [wire[dateKey], wire[timeKey]];
      if ((rawDate === undefined || rawDate === '') && (rawTime === undefined || rawTime === '')) return null;
      const day = typeof rawDate === 'string' ? /^(\d{2})\/(\d{2})\/(\d{4})$/.exec(rawDate) : null;
      const clock = typeof rawTime === 'string' ? /^(\d{2}:\d{2})( B)?$/.exec(rawTime) : null;
      // Of what is not both, the part that cannot be read is what is shown; where one is missing, the other.
      if (!day || !clock) return asFound(day && rawTime !== undefined ? rawTime : rawDate);
      const at = momentFound(`${day[3]}-${day[2]}-${day[1]}`, clock[1] ?? '', zone, clock[2] !== undefined);
      return at === null ? asFound(`${String(rawDate)} ${String(rawTime)}`) : { kind: 'instant', at, zone };
    },
  };
}

/** An instant as seconds since 1970, with the zone under a key of its own. */
export function secondsAt(key: string, zoneKey: string): WireCodec {
  return {
    put: (value) => (value.kind === 'instant' ? { [key]: value.at / 1000, [zoneKey]: value.zone } : wrongKind(value)),
    take: (wire) => {
      const raw = wire[key];
      return typeof raw === 'number' ? { kind: 'instant', at: raw * 1000, zone: zoneOf(wire[zoneKey]) } : asFound(raw);
    },
  };
}

/** A price level as name, decimal amount and currency. */
export function priceAt(nameKey: string, amountKey: string, currencyKey: string): WireCodec {
  return {
    put: (value) =>
      value.kind === 'price'
        ? { [nameKey]: value.name, [amountKey]: toDecimal(value.minor, value.currency), [currencyKey]: value.currency }
        : wrongKind(value),
    take: (wire) => {
      const currency = wire[currencyKey];
      const known =
        typeof currency === 'string' && currencies.includes(currency as Currency) ? (currency as Currency) : null;
      const minor = known && typeof wire[amountKey] === 'string' ? parseDecimal(wire[amountKey], known) : null;
      if (known === null || minor === null) return asFound(wire[amountKey]);
      return { kind: 'price', name: String(wire[nameKey] ?? ''), minor, currency: known };
    },
  };
}

/** A price without a name of its own, as decimal amount and currency: what it costs, or from how much on. */
export function amountAt(amountKey: string, currencyKey: string): WireCodec {
  const { put, take } = priceAt('', amountKey, currencyKey);
  return {
    put: (value) => {
      const { ['']: _name, ...wire } = put(value);
      return wire;
    },
    take,
  };
}

/** A plain decimal with a point, as `toDecimal` writes it. */
function parseDecimal(text: string, currency: Currency): number | null {
  const found = /^(\d+)(?:\.(\d+))?$/.exec(text);
  if (!found || (found[2] ?? '').length > minorDigits(currency)) return null;
  return minorDigits(currency) === 0 ? Number(found[1]) : parsePrice(text, currency);
}

/** A picture as an object of file name and alternative text. */
export function pictureAt(key: string): WireCodec {
  return {
    put: (value) => (value.kind === 'picture' ? { [key]: { file: value.name, alt: value.alt } } : wrongKind(value)),
    take: (wire) => {
      const raw = wire[key] as Wire | null | undefined;
      if (raw === null || raw === undefined || typeof raw !== 'object') return asFound(raw);
      return { kind: 'picture', name: String(raw.file ?? ''), alt: String(raw.alt ?? ''), source: null };
    },
  };
}

/**
 * The zone that a channel shows; empty where it shows none, or none that is known: an instant is an instant all the
 * same.
 */
function zoneOf(raw: unknown): string {
  return typeof raw === 'string' && isZone(raw) ? raw : '';
}
