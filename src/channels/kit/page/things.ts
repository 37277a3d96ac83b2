import { DomHandler, DomUtils, Parser, type parseDocument } from 'htmlparser2';

/** A page as it is read: its elements. */
export type PageTree = ReturnType<typeof parseDocument>['children'];
type Element = ReturnType<typeof DomUtils.findAll>[number];

/** One thing of schema.org on a page: its properties by name, each a text, a thing or a list of such. */
export type Thing = Record<string, unknown>;

/** How deep elements lie in each other that are read: the parser's cost grows with the square of that. */
const deepestElement = 1_000;
class TooDeep extends Error {}

/** Builds the tree of a page as far as elements do not lie too deep in each other. */
class ShallowHandler extends DomHandler {
  private depth = 0;
  override onopentag(name: string, attribs: Record<string, string>): void {
    if ((this.depth += 1) > deepestElement) throw new TooDeep();
    super.onopentag(name, attribs);
  }
  override onclosetag(): void {
    this.depth -= 1;
    super.onclosetag();
  }
}

/** The elements of a page. What is no HTML is text; what comes behind elements that lie too deep is left out. */
export function pageTree(html: string): PageTree {
  const handler = new ShallowHandler();
  try {
    new Parser(handler).end(html);
  } catch (error) {
    if (!(error instanceof TooDeep)) throw error;
  }
  return handler.root.children;
}

export function isThing(item: unknown): item is Thing {
  return item !== null && typeof item === 'object' && !Array.isArray(item);
}

/** How deep things lie in each other that are looked at. */
const deepest = 12;

/** The things that the scripts of JSON-LD on a page hold: one, a list, or a graph. What is no JSON holds none. */
export function saidThings(tree: PageTree): Thing[] {
  return DomUtils.findAll(
    (el) => el.name === 'script' && /^\s*application\/ld\+json\b/i.test(el.attribs.type ?? ''),
    tree,
  ).flatMap((el) => {
    try {
      return spread(JSON.parse(DomUtils.textContent(el)) as unknown, 0);
    } catch {
      return [];
    }
  });
}

/** The things of a list, of a graph and of a list of items (schema.org ItemList), one after another. */
function spread(data: unknown, depth: number): Thing[] {
  if (depth > deepest) return [];
  if (Array.isArray(data)) return data.flatMap((item) => spread(item, depth + 1));
  if (!isThing(data)) return [];
  const within = ['@graph', 'itemListElement', 'item', 'subEvent', 'event', 'events', 'mainEntity'].flatMap((name) =>
    isThing(data[name]) || Array.isArray(data[name]) ? spread(data[name], depth + 1) : [],
  );
  return [data, ...within];
}

/**
 * The things that a page marks as microdata (HTML Living Standard, section 5), the outermost first. `@type` is their
 * type without `https://schema.org/`.
 */
export function markedThings(tree: PageTree): Thing[] {
  return DomUtils.findAll((el) => typeOf(el) !== null, tree).map((el) => thingOf(el, 0));
}

function typeOf({ attribs }: Element): string | null {
  return /^https?:\/\/(?:www\.)?schema\.org\/(\w{1,60})$/.exec(attribs.itemtype?.trim() ?? '')?.[1] ?? null;
}

/** An element with its properties. One that holds properties is read as a thing of its own, whether it says so or not. */
function thingOf(element: Element, depth: number): Thing {
  const thing: Thing = { '@type': typeOf(element) ?? '' };
  for (const el of propertiesOf(element.children)) {
    const value = valueOf(el, depth);
    for (const name of (el.attribs.itemprop ?? '').split(/\s+/)) {
      const before = thing[name];
      thing[name] =
        before === undefined ? value : [...(Array.isArray(before) ? (before as unknown[]) : [before]), value];
    }
  }
  return thing;
}

/** The nearest elements with a property; not those within such a one. */
function propertiesOf(nodes: Element['children']): Element[] {
  return nodes.flatMap((node) => {
    if (!('attribs' in node)) return [];
    return node.attribs.itemprop === undefined ? propertiesOf(node.children) : [node];
  });
}

/** The value of a property (section 5.2.4): what its element is for, else its text. */
function valueOf(el: Element, depth: number): unknown {
  const { attribs, children } = el;
  if (depth < deepest && (attribs.itemscope !== undefined || propertiesOf(children).length > 0))
    return thingOf(el, depth + 1);
  return attribs.content ?? attribs.datetime ?? attribs.href ?? attribs.src ?? DomUtils.textContent(el);
}

/** Whether a thing is of a type; of a schema.org type with others beside it, too. */
export function isOfType(thing: Thing, says: (type: string) => boolean): boolean {
  return textsOf(thing['@type']).some((type) => says(type.replace(/^https?:\/\/schema\.org\//, '')));
}

/** The texts of a value: its own, or those of a list; a thing has its name. Numbers are written out. */
export function textsOf(value: unknown): string[] {
  if (typeof value === 'string') return [value];
  if (typeof value === 'number') return [String(value)];
  if (Array.isArray(value)) return value.flatMap(textsOf);
  return isThing(value) && value.name !== undefined ? textsOf(value.name) : [];
}

/** The texts of a property of several things; `offers/url`: those of `url` within `offers`. */
export function textsAt(all: readonly Thing[], property: string): string[] {
  let found: unknown[] = [...all];
  for (const name of property.split('/'))
    found = found
      .flatMap((item) => (isThing(item) ? item[name] : undefined))
      .flat()
      .filter((candidate) => candidate !== undefined);
  return found.flatMap((candidate) => (isThing(candidate) ? [] : textsOf(candidate)));
}
