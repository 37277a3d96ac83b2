import { parseDocument, DomUtils } from 'htmlparser2';
import { shownKey, type Shown } from '@/core/listing/shown';

/** What a public page says of an event in schema.org microdata (HTML Living Standard, section 5). */
export interface PageFacts {
  name: string | null;
  /** Start of each performance, in the page's order. */
  starts: number[];
  /** Address of the ticket offer, where one is shown. */
  offer: string | null;
}

/** Reads the first schema.org Event on a page. `null` where there is none. */
export function readPage(html: string): PageFacts | null {
  const root = parseDocument(html);
  const event = DomUtils.findOne((el) => /schema\.org\/Event$/.test(el.attribs.itemtype ?? ''), root.children, true);
  if (!event) return null;
  const props = (name: string) => DomUtils.findAll((el) => el.attribs.itemprop === name, event.children);
  const [name] = props('name');
  const [offer] = props('offers').flatMap((el) => DomUtils.findAll((inner) => inner.attribs.itemprop === 'url', [el]));
  return {
    name: name ? DomUtils.textContent(name).trim() : null,
    starts: props('startDate')
      .map((el) => Date.parse(el.attribs.datetime ?? ''))
      .filter((at) => !Number.isNaN(at)),
    offer: offer?.attribs.href ?? null,
  };
}

/** The text of one property of the first schema.org item of this type on a page. `null` where there is no such item. */
export function textOnPage(html: string, type: string, name: string): string | null {
  const item = DomUtils.findOne(
    (el) => el.attribs.itemtype === `https://schema.org/${type}`,
    parseDocument(html).children,
    true,
  );
  const [found] = item ? DomUtils.findAll((el) => el.attribs.itemprop === name, item.children) : [];
  return item ? (found ? DomUtils.textContent(found).trim() : '') : null;
}

/**
 * Lays the public page over the API's answer: what the public sees wins. Starts are laid over in order; a page
 * that shows no ticket link shows none, whatever the API says. A page without the event is no listing.
 */
export function overlayPage(shown: Shown, page: string | null): Shown {
  if (page === null) return shown;
  const seen = readPage(page);
  if (seen === null) return { ...shown, listed: { kind: 'flag', on: false } };
  const out: Shown = { ...shown };
  if (seen.name !== null && out.title !== undefined) out.title = { kind: 'text', text: seen.name };
  if (seen.offer === null) delete out.link;
  const starts = Object.keys(out).filter((key) => key.startsWith(`${shownKey('start')}@`));
  starts.forEach((key, i) => {
    const value = out[key];
    const at = seen.starts[i];
    if (at !== undefined && value?.kind === 'instant') out[key] = { ...value, at };
  });
  return out;
}
