import { distance } from 'fastest-levenshtein';
import { handFields, type HandField } from '@/core/listing/hand-rules';
import type { Wire } from '@/core/listing/channel-rules';
import { datesSeen } from './dates-seen';
import type { EventOnPage, PageRead } from './read-page';
import { asTyped, notSure, type Seen } from './seen';

/** What was typed at a place, and what stood there before that. */
export interface Typed {
  wire: Wire;
  before: Wire | null;
}

/** A page held against what was typed there. */
export interface HeldPage {
  /** What stands there, as far as the page tells it; what it does not tell is as it was typed. */
  wire: Wire;
  /** The page speaks of this event at all. */
  speaks: boolean;
  /** Names of what the page does not tell for certain. */
  unsure: string[];
}

/**
 * Holds a page against what was typed there: what it states for programs first, then what a person reads on it. A page
 * that does not mention a thing says nothing of it: only what is there in another way, or still as it was before, counts
 * as different. Pure.
 *
 * @param typed `wire`: as the by-hand place keeps it: texts by field, `dates` with moments as in RFC 9557, `shown`
 */
export function heldAgainst(page: PageRead, typed: Typed): HeldPage {
  const flat = plain(page.text);
  const titles = [typed.wire.title, typed.before?.title].filter((title) => typeof title === 'string' && title !== '');
  const ours = page.events.filter(({ name }) => titles.some((title) => sameName(name, String(title))));
  const speaks = ours.length > 0 || titles.some((title) => ` ${flat} `.includes(` ${plain(String(title))} `));
  const context: Context = { page, flat, ours, typed };
  if (!speaks) return { wire: typed.wire, speaks, unsure: [] };
  const wire: Wire = {};
  const unsure = new Set<string>();
  for (const [key, value] of Object.entries(typed.wire)) {
    if (key === 'dates' && Array.isArray(value))
      wire.dates = datesSeen(value as Wire[], context.typed.before?.dates, { page, ours }, unsure);
    else if (value === null || value === '' || value === undefined) wire[key] = value;
    else {
      const seen = key === 'shown' ? shownSeen(String(value), context) : fieldSeen(key, String(value), context);
      wire[key] = seen.is === 'else' ? seen.value : value;
      if (seen.is === 'unsure' && key in handFields) unsure.add(handFields[key as HandField].toLowerCase());
    }
  }
  return { wire, speaks, unsure: [...unsure] };
}

interface Context {
  page: PageRead;
  /** The page's text without marks and in small letters. */
  flat: string;
  /** What it states of this event. */
  ours: readonly EventOnPage[];
  typed: Typed;
}

/** A text as it is compared: small letters without accents, words and figures alone. */
function plain(text: string): string {
  return text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
}

/** So much of the longer name may be otherwise, for the two to be one. */
const mostOfName = 0.2;

/** Whether two names are of the same event: equal, one within the other, or but for a slip of the pen. */
function sameName(a: string, b: string): boolean {
  const [one, other] = [plain(a), plain(b)].sort((x, y) => x.length - y.length);
  if (!one || !other) return false;
  if (` ${other} `.includes(` ${one} `)) return true;
  return other.length <= 300 && distance(one, other) <= other.length * mostOfName;
}

/** How it stands: taken down and still there, or called off and not said to be, is seen. */
function shownSeen(shown: string, { flat, ours }: Context): Seen {
  const off = ours.length > 0 && ours.every(({ status }) => status === 'cancelled');
  if (shown === 'no') return { is: 'else', value: off ? 'cancelled' : 'yes' };
  const said = off || /\b(?:cancell?ed|called off)\b/.test(flat);
  if (shown === 'cancelled')
    return said && !ours.some(({ status }) => status === 'scheduled') ? asTyped : { is: 'else', value: 'yes' };
  return off ? { is: 'else', value: 'cancelled' } : asTyped;
}

function fieldSeen(key: string, value: string, context: Context): Seen {
  const { ours, typed } = context;
  const before = typed.before?.[key];
  const earlier = typeof before === 'string' && before !== value ? before : null;
  switch (key) {
    case 'title': {
      const names = [...new Set(ours.map(({ name }) => name))];
      return saidAmong(names, value, earlier, context, (name, text) => sameWords(name, text));
    }
    case 'place':
      return saidAmong([...new Set(ours.flatMap(({ places }) => places))], value, earlier, context, sharesPlace);
    case 'link':
      return linkSeen(value, earlier, context);
    case 'price':
      return priceSeen(value, earlier, context);
    default:
      return inText(value, earlier, context);
  }
}

/** A text that stands on the page; or still as it was. */
function inText(value: string, earlier: string | null, { flat }: Context): Seen {
  const has = (text: string) => plain(text) !== '' && ` ${flat} `.includes(` ${plain(text)} `);
  if (has(value)) return asTyped;
  return earlier !== null && has(earlier) ? { is: 'else', value: earlier } : notSure;
}

/** What is stated for programs under a name of its own; where nothing is, what stands in the text. */
function saidAmong(
  stated: readonly string[],
  value: string,
  earlier: string | null,
  context: Context,
  same: (stated: string, value: string) => boolean,
): Seen {
  const [first] = stated.filter((text) => text !== '');
  if (first === undefined) return inText(value, earlier, context);
  if (stated.some((text) => same(text, value))) return asTyped;
  return { is: 'else', value: earlier !== null && same(first, earlier) ? earlier : first };
}

/** `Harbour Lights – The Vat` is the name with more behind it. */
function sameWords(stated: string, value: string): boolean {
  const [a, b] = [plain(stated), plain(value)];
  return a !== '' && (` ${a} `.includes(` ${b} `) || ` ${b} `.includes(` ${a} `));
}

/** A name or an address is part of where it is. */
function sharesPlace(stated: string, value: string): boolean {
  if (sameWords(stated, value)) return true;
  const words = new Set(plain(value).split(' '));
  const all = plain(stated).split(' ');
  return all.filter((word) => words.has(word)).length * 2 > all.length;
}

/** An address without what does not change where it leads. */
function bareAddress(address: string): string {
  if (!URL.canParse(address)) return address;
  const { host, pathname, search } = new URL(address);
  return `${host.replace(/^www\./, '')}${pathname.replace(/\/$/, '')}${search}`.toLowerCase();
}

function linkSeen(value: string, earlier: string | null, { page, ours }: Context): Seen {
  const all = new Set([...page.links, ...ours.flatMap(({ links }) => links)].map(bareAddress));
  if (all.has(bareAddress(value))) return asTyped;
  if (earlier !== null && all.has(bareAddress(earlier))) return { is: 'else', value: earlier };
  const [stated] = ours.flatMap(({ links }) => links);
  return stated === undefined ? notSure : { is: 'else', value: stated };
}

const amountsIn = (text: string) =>
  (text.match(/\d+(?:[.,]\d{1,3})?/g) ?? []).map((figure) => Number(figure.replace(',', '.')));

/** Amounts that stand beside their money: a bare figure on a page is anything. */
const moneyIn = (text: string) =>
  (
    text.match(
      /(?:\p{Sc}|\b[A-Z]{3}\s?|\bkr\.?\s?)\d+(?:[.,]\d{1,2})?|\d+(?:[.,]\d{1,2})?\s?(?:\p{Sc}|[A-Z]{3}\b)/gu,
    ) ?? []
  ).flatMap(amountsIn);

function priceSeen(value: string, earlier: string | null, context: Context): Seen {
  const { page, ours } = context;
  const stated = ours.flatMap(({ prices }) => prices);
  const numbers = new Set([...stated.flatMap(({ amount }) => amountsIn(amount)), ...moneyIn(page.text)]);
  const has = (text: string) => amountsIn(text).length > 0 && amountsIn(text).every((amount) => numbers.has(amount));
  if (has(value)) return asTyped;
  if (earlier !== null && has(earlier)) return { is: 'else', value: earlier };
  if (stated.length === 0 || amountsIn(value).length === 0) return inText(value, earlier, context);
  const words = [...new Set(stated.map(({ amount, currency }) => `${currency} ${amount}`.trim()))];
  return { is: 'else', value: words.join(', ') };
}
