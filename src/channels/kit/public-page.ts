import { parseDocument, DomUtils } from 'htmlparser2';
import type { ChannelRules, PageRow } from '@/core/listing/channel-rules';
import { listedField, shownKey, splitKey, type Shown } from '@/core/listing/shown';

type Element = { children: Parameters<typeof DomUtils.findAll>[1]; attribs: Record<string, string> };

/** What a page says of one thing of schema.org: a property's texts, moments and addresses, in the page's order. */
interface Item {
  texts(property: string): string[];
  moments(property: string): string[];
  addresses(property: string): string[];
}

/**
 * The things of a schema.org type on a page: by microdata (HTML Living Standard, section 5), else by JSON-LD. `null`
 * where there are none.
 */
function itemOn(html: string, type: string): Item | null {
  const { children } = parseDocument(html);
  const wanted = `https://schema.org/${type}`;
  const marked = DomUtils.findOne((el) => el.attribs.itemtype === wanted, children, true);
  if (marked) return markedItem(marked);
  const said = DomUtils.findAll((el) => el.name === 'script' && el.attribs.type === 'application/ld+json', children)
    .flatMap((el) => things(DomUtils.textContent(el)))
    .filter((thing) => thing['@type'] === type);
  return said.length === 0 ? null : saidItem(said);
}

/** Elements of a property of an item; `offers/url`: those of `url` within `offers`. */
function markedItem(item: Element): Item {
  const elements = (property: string) => {
    let found = [item];
    for (const name of property.split('/'))
      found = found.flatMap((element) => DomUtils.findAll((el) => el.attribs.itemprop === name, element.children));
    return found;
  };
  const attribute = (name: string) => (property: string) => elements(property).map((el) => el.attribs[name] ?? '');
  return {
    texts: (property) => elements(property).map((el) => DomUtils.textContent(el as never)),
    moments: attribute('datetime'),
    addresses: attribute('href'),
  };
}

type Thing = Record<string, unknown>;

/** The things that a script of JSON-LD holds: one, a list, or a graph. What is no JSON holds none. */
function things(text: string): Thing[] {
  try {
    const data: unknown = JSON.parse(text);
    const all: unknown[] = Array.isArray(data) ? data : [data];
    return all
      .flatMap((item) => (isThing(item) && Array.isArray(item['@graph']) ? (item['@graph'] as unknown[]) : [item]))
      .filter(isThing);
  } catch {
    return [];
  }
}

function isThing(item: unknown): item is Thing {
  return item !== null && typeof item === 'object' && !Array.isArray(item);
}

/** Several things of one type are the dates of one event: each property is that of all of them. */
function saidItem(all: readonly Thing[]): Item {
  const values = (property: string): string[] => {
    let found: unknown[] = [...all];
    for (const name of property.split('/'))
      found = found
        .flatMap((item) => (isThing(item) ? item[name] : undefined))
        .flat()
        .filter((candidate) => candidate !== undefined);
    return found.filter((candidate) => typeof candidate === 'string');
  };
  return { texts: values, moments: values, addresses: values };
}

/**
 * How a page says that the listing stands, where it can tell: `cancelled` where everything on it is (schema.org,
 * `eventStatus`),
 * `public` where it is there only while the public sees the listing; `null`: nothing can be told by it.
 */
export function standsAs({ page: table, states }: ChannelRules, page: string | null): 'public' | 'cancelled' | null {
  const item = table === null || page === null ? null : itemOn(page, table.type);
  if (item === null) return null;
  const statuses = [...item.texts('eventStatus'), ...item.addresses('eventStatus')].filter((text) => text !== '');
  if (
    states.includes('cancelled') &&
    statuses.length > 0 &&
    statuses.every((status) => /\bEventCancelled$/.test(status.trim()))
  )
    return 'cancelled';
  return table?.whileSeen === true ? 'public' : null;
}

/**
 * Lays the public page over what the interface says, by the kind's table: what the public sees wins. Moments are laid
 * over in order; what the page is to show and does not is not shown, whatever the interface says. A page without the
 * item is no listing.
 */
export function overlayPage({ page: table }: ChannelRules, shown: Shown, page: string | null): Shown {
  if (table === null || page === null) return shown;
  const item = itemOn(page, table.type);
  // The interface calls it public and the public does not see it: it waits there, for somebody's look or for its turn.
  if (item === null) return { ...shown, [listedField]: { kind: 'state', is: 'draft' } };
  const out: Shown = { ...shown };
  for (const row of table.rows) overlayRow(out, row, item);
  return out;
}

function overlayRow(out: Shown, { field, property, as, hides }: PageRow, item: Item): void {
  if (as === 'moments') {
    const moments = item
      .moments(property)
      .map((text) => Date.parse(text))
      .filter((at) => !Number.isNaN(at));
    const keys = Object.keys(out).filter((key) => key === field || key.startsWith(`${shownKey(field)}@`));
    keys.forEach((key, i) => {
      const [value, at] = [out[key], moments[i]];
      if (at !== undefined && value?.kind === 'instant') out[key] = { ...value, at };
    });
    return;
  }
  const [first] = as === 'text' ? item.texts(property) : item.addresses(property);
  if (first === undefined) {
    if (hides) for (const key of Object.keys(out)) if (splitKey(key).field === field) delete out[key];
    return;
  }
  if (as === 'text') {
    if (out[field] !== undefined) out[field] = { kind: 'text', text: first.trim() };
  } else if (out[field]?.kind === 'url' && first !== '') out[field] = { kind: 'url', href: first };
}
