import { parseDocument, DomUtils } from 'htmlparser2';
import type { ChannelRules, PageRow } from '@/core/listing/channel-rules';
import { listedField, shownKey, splitKey, type Shown, type ShownValue } from '@/core/listing/shown';

type Item = { children: Parameters<typeof DomUtils.findAll>[1]; attribs: Record<string, string> };

/** The first schema.org item of this type on a page (microdata: HTML Living Standard, section 5). `null` where there is none. */
function itemOn(html: string, type: string): Item | null {
  const wanted = `https://schema.org/${type}`;
  return DomUtils.findOne((el) => el.attribs.itemtype === wanted, parseDocument(html).children, true);
}

/** Elements of a property of an item; `offers/url`: those of `url` within `offers`. */
function elementsOf(item: Item, property: string) {
  let found = [item];
  for (const name of property.split('/'))
    found = found.flatMap((one) => DomUtils.findAll((el) => el.attribs.itemprop === name, one.children));
  return found;
}

/** True where a page that is there only while the public sees the listing is there. */
export function standsStill({ page: table }: Pick<ChannelRules, 'page'>, page: string | null): boolean {
  return table?.whileSeen === true && page !== null && itemOn(page, table.type) !== null;
}

/**
 * Lays the public page over what the interface says, by the kind's table: what the public sees wins. Moments are laid over in
 * order; what the page is to show and does not is not shown, whatever the interface says. A page without the item is no listing.
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
  const elements = elementsOf(item, property);
  const [first] = elements;
  if (as === 'moments') {
    const moments = elements.map((el) => Date.parse(el.attribs.datetime ?? '')).filter((at) => !Number.isNaN(at));
    const keys = Object.keys(out).filter((key) => key === field || key.startsWith(`${shownKey(field)}@`));
    keys.forEach((key, i) => {
      const [value, at] = [out[key], moments[i]];
      if (at !== undefined && value?.kind === 'instant') out[key] = { ...value, at };
    });
    return;
  }
  if (!first) {
    if (hides) for (const key of Object.keys(out)) if (splitKey(key).field === field) delete out[key];
    return;
  }
  const said: ShownValue | null =
    as === 'text'
      ? { kind: 'text', text: DomUtils.textContent(first as never).trim() }
      : out[field]?.kind === 'url' && first.attribs.href
        ? { kind: 'url', href: first.attribs.href }
        : null;
  if (said !== null && (as !== 'text' || out[field] !== undefined)) out[field] = said;
}
