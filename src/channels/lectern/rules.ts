import type { ChannelRules } from '@/core/channel-rules';
import type { EventKind } from '@/core/record';
import { cleanHtml, plainToHtml } from '@/core/markup';
import { flagAt, htmlAt, localAt, pictureAt, textAt, urlAt } from '@/core/wire';
import { dateNotes, goodToKnow, instant, lineUpParts, linkValue, on, placeOrOnline, priceText, remembered, text, titleParts, turnNote } from '../common-rows';

/** The website's own categories; they decide on which of its pages an event appears. */
const categories: Partial<Record<EventKind, string>> = {
  concert: 'music',
  theatre: 'stage',
  film: 'screen',
  talk: 'spoken-word',
  reading: 'spoken-word',
  workshop: 'making',
  'club night': 'late',
  family: 'family',
  'online session': 'spoken-word',
};

/** The venue's website. */
export const rules: ChannelRules = {
  id: 'lectern',
  name: 'Lectern',
  trade: 'website',
  rows: [
    { each: 'event', field: 'title', label: 'title', kind: 'text', limit: 120, need: 'must', from: (f) => text(f.title), parts: titleParts, ...textAt('title') },
    { each: 'event', field: 'subtitle', label: 'subtitle', kind: 'text', limit: 160, from: (f) => text(f.subtitle), ...textAt('subtitle') },
    { each: 'event', field: 'teaser', label: 'excerpt', kind: 'text', limit: 180, need: 'should', from: (f) => text(f.teaser || f.line), ...textAt('excerpt') },
    { each: 'event', field: 'body', label: 'full text', kind: 'rich', from: (f) => rich(f.full === '' ? plainToHtml(f.short) : f.full), ...htmlAt('body') },
    { each: 'event', field: 'line-up', label: 'line-up', kind: 'text', limit: 240, from: (f) => text(f.lineUp), parts: lineUpParts, ...textAt('byline') },
    { each: 'event', field: 'place', label: 'place', kind: 'text', need: 'must', from: placeOrOnline, ...textAt('place') },
    { each: 'event', field: 'date-note', label: 'date', kind: 'text', from: dateNotes, ...textAt('date_note') },
    { each: 'event', field: 'turn', label: 'notice', kind: 'text', limit: 200, from: turnNote, ...textAt('notice') },
    { each: 'event', field: 'good-to-know', label: 'good to know', kind: 'text', limit: 600, from: goodToKnow, ...textAt('good_to_know') },
    { each: 'event', field: 'organiser', label: 'presented by', kind: 'text', limit: 160, from: (f) => text(f.organiser?.name ?? ''), ...textAt('presented_by') },
    { each: 'event', field: 'tags', label: 'tags', kind: 'text', limit: 240, from: (f) => text(f.tags.join(', ')), ...textAt('tags') },
    { each: 'event', field: 'online', label: 'where to keep a place', kind: 'url', from: (f) => (f.online?.keep ? { kind: 'url', href: f.online.keep } : null), ...urlAt('online_url') },
    { each: 'event', field: 'price', label: 'price', kind: 'text', need: 'should', from: priceText, ...textAt('price_note') },
    { each: 'event', field: 'link', label: 'ticket link', kind: 'url', from: linkValue, ...urlAt('ticket_url') },
    { each: 'event', field: 'tickets-shown', label: 'tickets shown', kind: 'flag', from: () => on, ...flagAt('show_tickets', true, false) },
    { each: 'event', field: 'category', label: 'category', kind: 'text', need: 'should', from: (f) => text(categories[f.kind] ?? ''), ...textAt('category') },
    { each: 'event', field: 'picture', label: 'picture', kind: 'picture', need: 'must', from: () => null, ...pictureAt('image') },
    { each: 'event', field: 'listed', label: 'published', kind: 'flag', from: () => on, ...flagAt('status', 'published', 'draft') },
    { each: 'performance', field: 'doors', label: 'doors', kind: 'instant', from: (p) => instant(p.doors, p), ...localAt('doors', 'zone') },
    { each: 'performance', field: 'start', label: 'start', kind: 'instant', from: (p) => instant(p.start, p), ...localAt('starts', 'zone') },
    { each: 'performance', field: 'end', label: 'end', kind: 'instant', from: (p) => instant(p.end, p), ...localAt('ends', 'zone') },
    { each: 'performance', field: 'note', label: 'note', kind: 'text', limit: 80, from: (p) => (p.start === null ? null : text(p.note)), ...textAt('note') },
  ],
  picture: { ratio: [3, 2], minWidth: 1200 },
  notice: null,
  lapse: null,
  lists: { performance: 'dates', level: 'levels', ref: 'ref' },
  mostPerformances: 3000,
  delayMs: 2 * 60_000,
  givesLink: false,
  takesUnlisted: false,
  hasProfiles: false,
  fee: null,
  requests: { place: 2, amend: 1, withdraw: 1, renew: 0 },
  accepts: () => true,
  habits: [
    'Excerpt up to 180 characters; the full text keeps headings, lists and links.',
    'Needs a landscape picture 3:2, at least 1200 px wide.',
    'The category decides on which page an event appears; without one it is on the general page only.',
    'Tickets are hidden unless “show tickets” is set: we set it, and check the public page for the link.',
    'Refuses a change when somebody edited the entry there since we last read it.',
    'Shows a change at once.',
  ],
};

const cleaned = remembered(cleanHtml);

function rich(html: string) {
  const clean = cleaned(html);
  return clean === '' ? null : { kind: 'rich' as const, html: clean };
}
