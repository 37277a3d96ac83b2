import { z } from 'zod';
import type { KindRules } from '@/core/listing/channel-rules';
import { sources } from '@/core/listing/sources';
import { cleanHtml, plainToHtml } from '@/core/words/markup';
import {
  articleAt,
  fileAt,
  flagAt,
  localAt,
  namesAt,
  pictureAt,
  stateAt,
  textAt,
  urlAt,
  wordAt,
} from '@/core/listing/wire';
import * as row from '../kit/common-rows';
import { categoriesOf, categoryRow, categorySetting, type CategoryMap } from '../kit/categories';
import { deleting, operation } from '../kit/operations';
import { registrationLink, shownLink } from '../kit/targets';
import { eventPage, kindRules } from '../kit/usual-rules';

export const settingsSchema = z.object(categorySetting);

/** The website's own categories; they decide on which of its pages an event appears. */
const theirs = ['music', 'stage', 'screen', 'spoken-word', 'making', 'late', 'family', 'on-view'];
const proposed: CategoryMap = {
  concert: 'music',
  theatre: 'stage',
  film: 'screen',
  talk: 'spoken-word',
  reading: 'spoken-word',
  workshop: 'making',
  'club night': 'late',
  family: 'family',
  exhibition: 'on-view',
  dance: 'stage',
  comedy: 'stage',
  class: 'making',
  market: 'making',
  recording: 'music',
  'online session': 'spoken-word',
};
const kept = row.remembered(cleanHtml);
const when = (key: string) => localAt(key, 'zone');

/** The venue's website. */
export const rules = (settings: Record<string, unknown>): KindRules => {
  const categories = categoriesOf(settings, theirs, proposed, theirs.length);
  return kindRules({
    trade: 'website',
    rows: rows(categories),
    picture: { ratio: [3, 2], minWidth: 1200 },
    lists: {
      ref: 'ref',
      performance: 'dates',
      link: 'links',
      document: 'documents',
      item: 'programme',
      act: 'acts',
      shot: 'gallery',
    },
    mostPerformances: 3000,
    delayMs: 2 * 60_000,
    page: eventPage(true),
    conditional: 'version',
    gives: ['public address'],
    states: ['draft', 'public', 'closed'],
    operations: [
      operation('place', 'Enters the event and publishes it.', { requests: 2 }),
      operation('amend', 'Changes the entry.'),
      operation('publish', 'Publishes the entry again.'),
      operation('unpublish', 'Makes the entry a draft.'),
      deleting('Deletes the entry with its history; its address leads nowhere.'),
    ],
    budget: { requests: 30, perMs: 1_000, burst: 10, atOnce: 4 },
    categories,
    off: [
      '“Show tickets”: until it is set, its page shows no ticket link. We set it with every entry.',
      'Its members’ page: it is a channel of its own, by a user of its own; what is for members alone goes nowhere else.',
    ],
    oursOnly: ['Our own reference, by which an entry is found again.'],
    unties: ['Nothing: entries stay where they are, and can be found again by our reference.'],
    habits: habits(),
  });
};

/** What it shows of an event, field by field. */
function rows(categories: ReturnType<typeof categoriesOf>): KindRules['rows'] {
  return [
    row.titleRow(120, textAt('title')),
    row.textRow('subtitle', 'subtitle', (f) => f.subtitle, textAt('subtitle'), {
      limit: 160,
      sources: [sources.subtitle],
    }),
    row.textRow('teaser', 'excerpt', (f) => f.teaser || f.line, textAt('excerpt'), {
      limit: 180,
      need: 'should',
      sources: [sources.teaser, sources.line],
    }),
    {
      each: 'event',
      field: 'body',
      sources: [sources.fullText],
      label: 'full text',
      kind: 'rich',
      from: (f) => richText(f.full === '' ? plainToHtml(f.short) : f.full),
      figures: true,
      ...articleAt('body'),
    },
    row.textRow('line-up', 'line-up', (f) => f.lineUp, textAt('byline'), { limit: 240, parts: row.lineUpParts }),
    row.placeRow(row.placeOrOnline, textAt('place')),
    row.streetRow(textAt('street')),
    row.textRow('date-note', 'date', row.dateNotes, textAt('date_note')),
    row.textRow('turn', 'notice', row.turnNote, textAt('notice'), { limit: 200 }),
    row.textRow('good-to-know', 'good to know', row.goodToKnow, textAt('good_to_know'), {
      limit: 600,
      sources: [sources.access, sources.age],
    }),
    row.textRow('set-times', 'who is on when', (f) => f.setTimes, textAt('running_order'), { limit: 1000 }),
    row.textRow('picture-credit', 'pictures by', (f) => f.credits, textAt('image_credit'), { limit: 400 }),
    row.textRow('refunds', 'tickets given back', (f) => f.refunds, textAt('refunds_note'), {
      limit: 600,
      sources: [sources.refunds],
    }),
    ...organiserRows(),
    row.textRow('series', 'dates as one line', row.seriesLine, textAt('dates_line'), { limit: 200 }),
    row.textRow('tags', 'tags', (f) => f.tags.join(', '), textAt('tags'), { limit: 240, sources: [sources.tags] }),
    row.urlRow(
      'online',
      'where to keep a place',
      (f) => f.online && (f.online.keep ?? shownLink(registrationLink(f, f.here))),
      urlAt('online_url'),
      [sources.keepAddress],
    ),
    row.priceRow(textAt('price_note')),
    row.linkRow('ticket link', urlAt('ticket_url')),
    row.urlRow(
      'leads-away',
      'entry leads straight to',
      (f) => f.leadsAway && row.targetValue(f.leadsAway.to, f),
      urlAt('leads_to'),
    ),
    ...playedRows(),
    {
      each: 'event',
      field: 'tickets-shown',
      label: 'tickets shown',
      kind: 'flag',
      from: () => row.on,
      ...flagAt('show_tickets', true, false),
    },
    categoryRow(categories, 'should', namesAt('categories')),
    row.pictureRow('picture', 'must', pictureAt('image')),
    row.stateRow(
      'published',
      row.seenByAll,
      stateAt('status', { draft: 'draft', public: 'published', closed: 'draft' }),
    ),
    ...itemRows(),
  ];
}

/** What there is to see and to hear, before and after; and the house's mark. */
function playedRows(): KindRules['rows'] {
  return [
    row.urlRow('film', 'film', (f) => f.film, urlAt('film_url'), [sources.film]),
    row.urlRow('sound', 'sound', (f) => f.sound, urlAt('sound_url'), [sources.sound]),
    row.urlRow('recording', 'recording', (f) => f.after.recording, urlAt('recording_url'), [sources.recording]),
    row.textRow('set-list', 'set list', (f) => f.after.setList, textAt('set_list'), {
      limit: 2000,
      sources: [sources.setList],
    }),
    {
      each: 'event',
      field: 'logo',
      label: 'the house’s logo',
      kind: 'picture',
      from: (f) => f.aboutUs.logo && row.shotValue({ ...f.aboutUs.logo, id: 'logo' }),
      ...pictureAt('logo'),
    },
  ];
}

/** Who holds it. */
function organiserRows(): KindRules['rows'] {
  return [
    row.textRow('organiser', 'presented by', (f) => f.organiser?.name ?? '', textAt('presented_by'), { limit: 160 }),
    row.textRow(
      'organiser-about',
      'about the organiser',
      (f) => f.organiser?.boilerplate ?? '',
      textAt('organiser_about'),
      { limit: 2000 },
    ),
    row.textRow('organiser-contact', 'how to reach the organiser', row.organiserContact, textAt('organiser_contact'), {
      limit: 600,
    }),
  ];
}

/** What it shows of each date, and of what goes with the event. */
function itemRows(): KindRules['rows'] {
  return [
    ...row.momentRows({ doors: 'doors', start: 'starts', end: 'ends' }, when),
    row.befellRow(wordAt('standing', { cancelled: 'called off', postponed: 'put off' }), ['cancelled']),
    row.itemTextRow('performance', 'note', 'note', (p) => (p.start === null ? '' : p.note), textAt('note'), {
      limit: 80,
      sources: [sources.note],
    }),
    ...row.labelledLinkRows({ label: 'label', href: 'url', window: 'new_window' }),
    ...row.documentRows(textAt('title'), fileAt('file')),
    ...row.programmeRows({ title: 'title', names: 'who', room: 'room', start: 'from', end: 'to' }, when),
    row.itemTextRow('act', 'act', 'about the act', (act) => act.name, textAt('name')),
    row.itemTextRow('act', 'act-words', 'the act’s own words', (act) => act.words, textAt('words'), { limit: 2000 }),
    row.itemTextRow('act', 'act-links', 'the act’s own pages', (act) => act.links.join(' '), textAt('links')),
    {
      each: 'shot',
      field: 'shot',
      label: 'picture of the night',
      kind: 'picture',
      from: row.shotValue,
      ...pictureAt('image'),
    },
  ];
}

/** How it goes about it, in plain words. */
function habits(): KindRules['habits'] {
  return [
    'Excerpt up to 180 characters; the full text keeps headings, lists and links.',
    'Needs a landscape picture 3:2, at least 1200 px wide.',
    'The categories decide on which pages an event appears; without one it is on the general page only.',
    'An event may stand in several categories, each with a page of its own; and each act has a page.',
    'Tickets are hidden unless “show tickets” is set: we set it, and check the public page for the link.',
    'Shows pictures within the text, labelled links, documents, the programme, and a series as one line where that is chosen.',
    'Keeps an entry as a draft where that is asked for.',
    'Refuses a change when somebody edited the entry there since we last read it.',
    'Shows a change at once.',
  ];
}

function richText(html: string) {
  const clean = kept(html);
  return clean === '' ? null : { kind: 'rich' as const, html: clean };
}
