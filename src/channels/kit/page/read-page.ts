import { DomUtils } from 'htmlparser2';
import {
  isOfType,
  isThing,
  markedThings,
  pageTree,
  saidThings,
  textsAt,
  textsOf,
  type PageTree,
  type Thing,
} from './things';

/** By what a page is understood, the surest first. */
type PageMeans = 'JSON-LD' | 'microdata' | 'Open Graph' | 'its text';

/** One dated event as a page states it for programs (schema.org Event). */
export interface EventOnPage {
  name: string;
  /** Its types of schema.org: `MusicEvent`. */
  types: string[];
  /** Moments as they are written: ISO 8601, with an offset, without one, or a date alone. Empty: not said. */
  start: string;
  end: string;
  doors: string;
  /** Names and addresses of where it is. */
  places: string[];
  /** The same part by part, as far as it is said so; empty: not said. */
  venue: { name: string; street: string; town: string; country: string };
  /** What befell it (schema.org EventStatusType); `null`: not said. */
  status: 'scheduled' | 'cancelled' | 'postponed' | 'rescheduled' | 'moved online' | null;
  /** Where tickets are to be had. */
  links: string[];
  /** `name`: what the offer is called; empty: not said. `isRange`: the least or the most of several. */
  prices: { name: string; amount: string; currency: string; isRange: boolean }[];
  about: string;
  performers: string[];
  pictures: string[];
}

/** What a page says, as far as it can be understood without knowing what it is about. */
export interface PageRead {
  means: PageMeans;
  title: string;
  /** What a person reads on it, a line for each block. */
  text: string;
  /** Every address it leads to, whole. */
  links: string[];
  events: EventOnPage[];
}

/** So much of a page's text is read. */
const mostText = 100_000;

/**
 * Reads a public page: what it states as JSON-LD, else as microdata (both schema.org), else what Open Graph says and
 * what stands on it. Pure and total: what is broken on it is passed over.
 *
 * @param address where it lies: what it leads to is reckoned from there
 */
export function readPage(html: string, address: string): PageRead {
  const tree = pageTree(html);
  const base = { text: visibleText(tree).slice(0, mostText), links: linksOn(tree, address) };
  const graph = openGraph(tree);
  const title = graph.get('og:title') ?? headline(tree);
  for (const [means, things] of [
    ['JSON-LD', saidThings(tree)],
    ['microdata', markedThings(tree)],
  ] as const) {
    const events = things.filter(isEvent).map((thing) => eventOf(thing, address));
    if (events.length > 0) return { means, title, ...base, events };
  }
  return { means: graph.has('og:title') ? 'Open Graph' : 'its text', title, ...base, events: [] };
}

/** An event by its schema.org type: `MusicEvent`, `Festival`, `ScreeningEvent`; a series has its dates within it. */
function isEvent(thing: Thing): boolean {
  const dated = textsOf(thing.startDate).length > 0 || thing.subEvent === undefined;
  return dated && isOfType(thing, (type) => /(?:^|[a-z])(?:Event|Festival)$/.test(type));
}

function eventOf(thing: Thing, address: string): EventOnPage {
  const [status = ''] = textsAt([thing], 'eventStatus');
  return {
    name: (textsOf(thing.name)[0] ?? '').trim(),
    types: textsOf(thing['@type']).map((type) => type.replace(/^https?:\/\/schema\.org\//, '')),
    start: firstOf(thing.startDate),
    end: firstOf(thing.endDate),
    doors: firstOf(thing.doorTime),
    places: [...textsAt([thing], 'location'), ...textsAt([thing], 'location/name'), ...addressesOf(thing.location)]
      .map((text) => text.replace(/\s+/g, ' ').trim())
      .filter((text) => text !== ''),
    venue: venueOf(thing.location),
    status: statusOf(status.trim()),
    links: textsAt([thing], 'offers/url').flatMap((to) => whole(to, address)),
    prices: [thing.offers].flat().flatMap((offer) => (isThing(offer) ? pricesOf(offer) : [])),
    about: (textsOf(thing.description)[0] ?? '').trim(),
    performers: textsOf(thing.performer).map((name) => name.trim()),
    pictures: [...textsAt([thing], 'image'), ...textsAt([thing], 'image/url')].flatMap((to) => whole(to, address)),
  };
}

const firstOf = (value: unknown) => (textsOf(value)[0] ?? '').trim();

function addressesOf(location: unknown): string[] {
  return [location].flat().flatMap((place) => {
    const at = isThing(place) ? place.address : undefined;
    if (!isThing(at)) return textsOf(at);
    const parts = ['streetAddress', 'postalCode', 'addressLocality'].flatMap((name) => textsOf(at[name]));
    return parts.length === 0 ? [] : [parts.join(', ')];
  });
}

/** The first place that has a name, by its parts (schema.org Place, PostalAddress); an online one is none. */
function venueOf(location: unknown): EventOnPage['venue'] {
  const places = [location].flat();
  const place = places.find(
    (at) => isThing(at) && firstOf(at.name) !== '' && !isOfType(at, (type) => /Virtual/.test(type)),
  );
  const name = isThing(place) ? firstOf(place.name) : (places.find((at) => typeof at === 'string') ?? '').trim();
  const at = isThing(place) && isThing(place.address) ? place.address : {};
  return {
    name,
    street: isThing(place) && typeof place.address === 'string' ? place.address.trim() : firstOf(at.streetAddress),
    town: firstOf(at.addressLocality),
    country: firstOf(at.addressCountry),
  };
}

function pricesOf(offer: Thing): EventOnPage['prices'] {
  const currency = firstOf(offer.priceCurrency);
  const priced = (value: unknown, isRange: boolean) =>
    textsOf(value).map((amount) => ({ name: firstOf(offer.name), amount: amount.trim(), currency, isRange }));
  return [...priced(offer.price, false), ...priced(offer.lowPrice, true), ...priced(offer.highPrice, true)];
}

function statusOf(text: string): EventOnPage['status'] {
  const found = /Event(Scheduled|Cancelled|Postponed|Rescheduled|MovedOnline)$/.exec(text)?.[1];
  switch (found) {
    case 'Scheduled':
      return 'scheduled';
    case 'Cancelled':
      return 'cancelled';
    case 'Postponed':
      return 'postponed';
    case 'Rescheduled':
      return 'rescheduled';
    case 'MovedOnline':
      return 'moved online';
    default:
      return null;
  }
}

/** An address as it is reached from the page; nothing where it is none. */
function whole(to: string, address: string): string[] {
  return URL.canParse(to, address) ? [new URL(to, address).href] : [];
}

function linksOn(tree: PageTree, address: string): string[] {
  return DomUtils.findAll((el) => el.name === 'a' && el.attribs.href !== undefined, tree).flatMap((el) =>
    whole(el.attribs.href ?? '', address),
  );
}

/** What Open Graph says of the page, by property: the first of each. */
function openGraph(tree: PageTree): ReadonlyMap<string, string> {
  const found = new Map<string, string>();
  for (const { attribs } of DomUtils.findAll((el) => el.name === 'meta', tree)) {
    const { property, content } = attribs;
    if (property?.startsWith('og:') && content?.trim() && !found.has(property)) found.set(property, content.trim());
  }
  return found;
}

function headline(tree: PageTree): string {
  const [best] = ['h1', 'title'].flatMap((name) => DomUtils.getElementsByTagName(name, tree, true, 1));
  return best ? DomUtils.textContent(best).replace(/\s+/g, ' ').trim() : '';
}

/** Elements of which a person reads nothing. */
const unread = new Set(['script', 'style', 'noscript', 'template', 'head', 'svg', 'iframe', 'object', 'select']);
/** Elements that stand within a line. */
const inLine = new Set(
  'a abbr b bdi bdo cite code data dfn em font i kbd mark q s small span strong sub sup time u var'.split(' '),
);

/** What a person reads on a page: a line for each block, without what is hidden by its markup. */
function visibleText(tree: PageTree): string {
  const parts: string[] = [];
  const visit = (nodes: PageTree, depth: number): void => {
    for (const node of nodes) {
      if (node.type === 'text') parts.push(node.data.replace(/\s+/g, ' '));
      if (!('attribs' in node) || unread.has(node.name) || node.attribs.hidden !== undefined || depth > 400) continue;
      const breaks = !inLine.has(node.name);
      if (breaks) parts.push('\n');
      visit(node.children, depth + 1);
      if (breaks) parts.push('\n');
    }
  };
  visit(tree, 0);
  return parts
    .join('')
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '')
    .join('\n');
}
