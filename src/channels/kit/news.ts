import { createHash } from 'node:crypto';
import type { Instant } from '@/core/base/zones';
import { longDate } from '@/core/dates/date-words';
import { escapeHtml } from '@/core/words/escape-html';
import { datedSummary, wireOfFeed, type FeedEntry } from './feed';
import { localMoment } from './local-moment';

/** So many entries are in a feed of news, those that changed last. */
export const mostNews = 200;

type Said = NonNullable<ReturnType<typeof wireOfFeed>>;

/** What the parts of an entry are called where it is said which of them changed. */
const partNames: Record<string, string> = {
  ...{ summary: 'title', description: 'text', location: 'place', categories: 'kind of event' },
  ...{ url: 'link', dates: 'dates', status: 'whether it takes place' },
};

/**
 * The same entries as news (Atom, RFC 4287): what was announced and what changed, the newest first, each event an entry
 * under an id that stays. `feed`: what it is called, where it lies, and by what it is known whatever its address. Pure;
 * the same entries give the same text.
 */
export function newsText(
  { name, address, ...feed }: { id: string; name: string; address: string },
  entries: readonly (FeedEntry & { id: string })[],
): string {
  const newest = [...entries].sort((a, b) => b.at - a.at || (a.id < b.id ? -1 : 1)).slice(0, mostNews);
  const lines = newest.flatMap((entry) => {
    const said = wireOfFeed(entry.wire);
    return said === null ? [] : [entryOf(entry, said)];
  });
  return `${[
    '<?xml version="1.0" encoding="utf-8"?>',
    '<feed xmlns="http://www.w3.org/2005/Atom">',
    element('id', urn(`feed ${feed.id}`)),
    element('title', name),
    element('author', '', element('name', name)),
    element('updated', stamp(newest[0]?.at ?? 0)),
    empty('link', { rel: 'self', type: 'application/atom+xml', href: address }),
    ...lines,
    '</feed>',
  ].join('\n')}\n`;
}

function entryOf({ id, at, first, changed = [], sequence }: FeedEntry & { id: string }, said: Said): string {
  const off = said.status === 'CANCELLED';
  const title = said.summary ?? '';
  const what = changed.map((part) => partNames[part] ?? part).join(', ');
  const html = [
    off
      ? '<p><strong>Cancelled.</strong></p>'
      : what === ''
        ? `<p>${sequence === 0 ? 'Announced' : 'Announced again'}.</p>`
        : `<p>Changed: ${escapeHtml(what)}.</p>`,
    said.dates.length === 0 ? '' : `<ul>${said.dates.map((date) => dateLine(date, off)).join('')}</ul>`,
    ...[said.location, ...(said.description ?? '').split(/\n{2,}/)].map((words) =>
      (words ?? '').trim() === '' ? '' : `<p>${escapeHtml((words ?? '').trim()).replaceAll('\n', '<br>')}</p>`,
    ),
  ].join('');
  return [
    '<entry>',
    element('id', urn(id)),
    element('title', off ? `Cancelled: ${datedSummary(title, 'CANCELLED')}` : title),
    element('updated', stamp(at)),
    ...(first === undefined ? [] : [element('published', stamp(first))]),
    ...(said.url ? [empty('link', { rel: 'alternate', href: said.url })] : []),
    ...(said.categories ? [empty('category', { term: said.categories })] : []),
    element('content', html, '', ' type="html"'),
    '</entry>',
  ].join('\n');
}

function dateLine({ dtstart, dtend, standing }: Said['dates'][number], off: boolean): string {
  const [begins, ends] = [localMoment(dtstart ?? ''), localMoment(dtend ?? '')];
  const befell = off || standing === 'CANCELLED' ? ', cancelled' : standing === 'TENTATIVE' ? ', postponed' : '';
  if (begins === null) return '';
  const words = `${longDate(begins.date)}, ${begins.time}${ends === null ? '' : `–${ends.time}`}`;
  return `<li><time datetime="${begins.iso}">${escapeHtml(words)}</time>${befell}</li>`;
}

const stamp = (at: Instant) => `${new Date(at).toISOString().slice(0, 19)}Z`;

/** An id that stays, as a UUID (RFC 9562, version 8: of our own making, from a digest of what it is of). */
function urn(of: string): string {
  const bytes = createHash('sha256').update(`nuntiax news ${of}`).digest().subarray(0, 16);
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x80;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  return `urn:uuid:${bytes.toString('hex').replace(/^(.{8})(.{4})(.{4})(.{4})/, '$1-$2-$3-$4-')}`;
}

/** Characters that XML 1.0 cannot hold, section 2.2. */
const unheld =
  /[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]|[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g;
const held = (words: string) => escapeHtml(words.replace(unheld, ''));
const element = (name: string, words: string, inner = '', attributes = '') =>
  `<${name}${attributes}>${held(words)}${inner}</${name}>`;
const empty = (name: string, attributes: Record<string, string>) =>
  `<${name}${Object.entries(attributes)
    .map(([key, value]) => ` ${key}="${held(value)}"`)
    .join('')}/>`;
