import type { ChannelRules, PageRow } from '@/core/listing/channel-rules';
import { listedField, shownKey, splitKey, type Shown } from '@/core/listing/shown';
import { isOfType, markedThings, pageTree, saidThings, textsAt, type Thing } from './page/things';

/**
 * The things of a schema.org type on a page: by microdata, else by JSON-LD. Several of one type are the dates of one
 * event. `null` where there are none.
 */
function itemOn(html: string, type: string): Item | null {
  const tree = pageTree(html);
  const is = (thing: Thing) => isOfType(thing, (its) => its === type);
  const [marked] = markedThings(tree).filter(is);
  const things = marked ? [marked] : saidThings(tree).filter(is);
  return things.length === 0 ? null : (property) => textsAt(things, property);
}

/** What a page says of one thing: a property's texts, moments or addresses, in the page's order. */
type Item = (property: string) => string[];

/**
 * How a page says that the listing stands, where it can tell: `cancelled` where everything on it is (schema.org,
 * `eventStatus`),
 * `public` where it is there only while the public sees the listing; `null`: nothing can be told by it.
 */
export function standsAs({ page: table, states }: ChannelRules, page: string | null): 'public' | 'cancelled' | null {
  const item = table === null || page === null ? null : itemOn(page, table.type);
  if (item === null) return null;
  const statuses = item('eventStatus').filter((text) => text.trim() !== '');
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
    const moments = item(property)
      .map((text) => Date.parse(text))
      .filter((at) => !Number.isNaN(at));
    const keys = Object.keys(out).filter((key) => key === field || key.startsWith(`${shownKey(field)}@`));
    keys.forEach((key, i) => {
      const [value, at] = [out[key], moments[i]];
      if (at !== undefined && value?.kind === 'instant') out[key] = { ...value, at };
    });
    return;
  }
  const [first] = item(property);
  if (first === undefined) {
    if (hides) for (const key of Object.keys(out)) if (splitKey(key).field === field) delete out[key];
    return;
  }
  if (as === 'text') {
    if (out[field] !== undefined) out[field] = { kind: 'text', text: first.trim() };
  } else if (out[field]?.kind === 'url' && first !== '') out[field] = { kind: 'url', href: first };
}
