import type { ChannelRules } from '@/core/channel-rules';
import { flattenBlocks, readMarkup, writeHtml } from '@/core/markup';
import { countAt, flagAt, htmlAt, pictureAt, priceAt, textAt, utcAt } from '@/core/wire';
import { instant, on, text } from '../common-rows';

/** The ticketing marketplace; it gives the ticket link. */
export const rules: ChannelRules = {
  id: 'gatefold',
  name: 'Gatefold',
  trade: 'ticketing marketplace',
  rows: [
    { each: 'event', field: 'title', label: 'title', kind: 'text', limit: 70, need: 'must', from: (f) => text(f.title), ...textAt('name') },
    { each: 'event', field: 'teaser', label: 'summary', kind: 'text', limit: 130, need: 'should', from: (f) => text(f.teaser), ...textAt('summary') },
    { each: 'event', field: 'body', label: 'description', kind: 'rich', from: (f) => simpleHtml(f.full), ...htmlAt('description') },
    { each: 'event', field: 'place', label: 'venue', kind: 'text', need: 'must', from: (f) => venueWords(f.performances[0]?.place), ...textAt('venue') },
    { each: 'event', field: 'room', label: 'room', kind: 'text', from: (f) => text(f.performances[0]?.place?.room ?? ''), ...textAt('room') },
    { each: 'event', field: 'picture', label: 'picture', kind: 'picture', need: 'should', from: () => null, ...pictureAt('banner') },
    { each: 'event', field: 'listed', label: 'open to the public', kind: 'flag', from: () => on, ...flagAt('state', 'open', 'closed') },
    { each: 'performance', field: 'doors', label: 'doors', kind: 'instant', from: (p) => instant(p.doors, p), ...utcAt('doors_at', 'timezone') },
    { each: 'performance', field: 'start', label: 'start', kind: 'instant', need: 'must', from: (p) => instant(p.start, p), ...utcAt('starts_at', 'timezone') },
    { each: 'performance', field: 'end', label: 'end', kind: 'instant', from: (p) => instant(p.end, p), ...utcAt('ends_at', 'timezone') },
    {
      each: 'level', field: 'price', label: 'price level', kind: 'price', need: 'must',
      from: (l) => ({ kind: 'price', name: l.name, minor: l.minor, currency: l.currency }), ...priceAt('name', 'face', 'currency'),
    },
    {
      each: 'level', field: 'quantity', label: 'quantity', kind: 'count', need: 'should',
      from: (l) => (l.quantity === null ? null : { kind: 'count', n: l.quantity }), ...countAt('quantity'),
    },
  ],
  picture: { ratio: [16, 9], minWidth: 1280 },
  lists: { performance: 'sessions', level: 'levels', ref: 'external_id' },
  mostPerformances: 500,
  delayMs: 5 * 60_000,
  givesLink: true,
  requests: { place: 4, amend: 1, withdraw: 1 },
  accepts: (facts) => facts.ticketed,
  habits: [
    'Title up to 70 characters, summary up to 130; the description keeps paragraphs, bold, italic and links only.',
    'Chooses the venue from its own register; one it does not know is entered there.',
    'Gives the ticket link that the other channels carry, so it goes first.',
    'After the first sale it locks start, end, zone and price, and a quantity can only rise.',
    'Takes five requests a second; more are put off by the time it says.',
    'Knows a repeated request by its key and does it once.',
  ],
};

function simpleHtml(html: string) {
  const simple = writeHtml(flattenBlocks(readMarkup(html)));
  return simple === '' ? null : { kind: 'rich' as const, html: simple };
}

function venueWords(place: { venue: string; town: string } | null | undefined) {
  return place ? text(place.town === '' ? place.venue : `${place.venue}, ${place.town}`) : null;
}
