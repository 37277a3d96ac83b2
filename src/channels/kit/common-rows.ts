import { turnWords, type Facts, type ProgrammeFacts } from '@/core/facts/facts';
import type { Group, GroupItems, Shot } from '@/core/listing/groups';
import { flagAt, textAt, urlAt } from '@/core/listing/wire';
import { organiserParts } from '@/core/record/choices';
import type { LabelledLink, RecordDocument, Target } from '@/core/record/record';
import type { Source } from '@/core/listing/sources';
import type { PerformanceFacts } from '@/core/facts/performance-facts';
import { shownLink, targetLink } from './targets';
import type { FieldRow, Gift, WireCodec } from '@/core/listing/channel-rules';
import { sources } from '@/core/listing/sources';
import type { ListedState, ShownValue } from '@/core/listing/shown';
import type { FitPart } from '@/core/words/fit';
import { markupOf, writePlain } from '@/core/words/markup';

/** A text, or nothing where it is empty. */
export function text(words: string): ShownValue | null {
  return words.trim() === '' ? null : { kind: 'text', text: words.trim() };
}

/** A flag that is on. */
export const on: ShownValue = { kind: 'flag', on: true };

/** The row that says how far the listing is seen: its state, in the channel's own words for it. */
export function stateRow(label: string, stateFor: (facts: Facts) => ListedState, codec: WireCodec): FieldRow {
  return {
    each: 'event',
    field: 'listed',
    label,
    kind: 'state',
    from: (f) => ({ kind: 'state', is: stateFor(f) }),
    ...codec,
  };
}

/** A text of the event: `textRow('subtitle', 'subtitle', (f) => f.subtitle, textAt('subtitle'), { limit: 160 })` */
export function textRow(
  field: string,
  label: string,
  words: (facts: Facts) => ShownValue | string | null,
  codec: WireCodec,
  part: Pick<FieldRow, 'limit' | 'limitIn' | 'among' | 'need' | 'sources' | 'parts'> = {},
): FieldRow {
  const from = (facts: Facts) => {
    const said = words(facts);
    return typeof said === 'string' ? text(said) : said;
  };
  return { each: 'event', field, label, kind: 'text', ...part, from, ...codec };
}

/** The row of a notice's own words. */
export function noticeRow(
  limit: number,
  codec: WireCodec,
  part: Pick<FieldRow, 'limitIn' | 'linkLength' | 'need' | 'dropped'> = { need: 'must' },
): FieldRow {
  const words = (f: Facts) => f.notice?.words ?? '';
  return { ...textRow('body', 'text', words, codec, { limit, sources: [sources.noticeWords] }), ...part };
}

/** How far a notice is seen, and by everybody. */
export const noticePage = {
  type: 'SocialMediaPosting',
  whileSeen: true,
  rows: [{ field: 'body', property: 'articleBody', as: 'text' as const }],
};

/** An address of the event, known or still to come. */
export function urlRow(
  field: string,
  label: string,
  where: (facts: Facts) => ShownValue | string | null,
  codec: WireCodec,
  from: readonly Source[] = [],
): FieldRow {
  const value = (facts: Facts): ShownValue | null => {
    const href = where(facts);
    return typeof href === 'string' ? { kind: 'url', href } : href;
  };
  return { each: 'event', field, label, kind: 'url', sources: from, from: value, ...codec };
}

/** The rows of documents, for a place that shows them: title and file. */
export function documentRows(title: WireCodec, file: WireCodec): FieldRow[] {
  return [
    itemTextRow('document', 'document-title', 'document', (d) => d.title || d.name, title, {
      limit: 160,
      sources: [sources.documentTitle],
    }),
    {
      each: 'document',
      field: 'document',
      label: 'file of the document',
      kind: 'file',
      from: (d) => ({ kind: 'file', name: documentFile(d), source: { fileId: d.fileId } }),
      ...file,
    },
  ];
}

/** The rows of the programme, for a place that shows it: what, who, where, from when to when. */
export function programmeRows(
  names: Record<'title' | 'names' | 'room' | 'start' | 'end', string>,
  codec: (name: string) => WireCodec,
): FieldRow[] {
  return [
    itemTextRow('item', 'programme', 'programme', (programme) => programme.title, textAt(names.title), {
      limit: 200,
      sources: [sources.programmeTitle],
    }),
    itemTextRow('item', 'programme-names', 'programme: who', programmeNames, textAt(names.names), {
      limit: 340,
      sources: [sources.programmeNames],
    }),
    itemTextRow('item', 'programme-room', 'programme: where', (programme) => programme.room, textAt(names.room), {
      limit: 80,
      sources: [sources.programmeRoom],
    }),
    ...(['start', 'end'] as const).map((edge): FieldRow => ({
      each: 'item',
      field: `programme-${edge}`,
      label: `programme: ${edge}`,
      kind: 'instant',
      from: (programme) => {
        const at = programme[edge];
        return at === null ? null : { kind: 'instant', at, zone: programme.zone };
      },
      ...codec(names[edge]),
    })),
  ];
}

/** A number of the event, or of one item of a group. */
export function countRow<E extends 'event' | Group>(
  e: E,
  field: string,
  label: string,
  many: (item: E extends Group ? GroupItems[E] : Facts, facts: Facts) => number | null,
  codec: WireCodec,
  part: Pick<FieldRow, 'need' | 'sources' | 'usual'> = {},
): FieldRow {
  const from = (item: E extends Group ? GroupItems[E] : Facts, facts: Facts) => {
    const n = many(item, facts);
    return n === null ? null : { kind: 'count' as const, n };
  };
  return { each: e, field, label, kind: 'count', ...part, from, ...codec } as unknown as FieldRow;
}

/** The row of the title, in the number of characters that fit, or the parts of it that do. */
export function titleRow(limit: number, codec: WireCodec): FieldRow {
  return {
    each: 'event',
    field: 'title',
    label: 'title',
    kind: 'text',
    limit,
    need: 'must',
    sources: [sources.title, sources.shortTitle],
    from: (f) => text(f.title),
    parts: titleParts,
    ...codec,
  };
}

/** The row of the text, plain, from the longest of the record's words that there is. */
export function plainBodyRow(limit: number, codec: WireCodec): FieldRow {
  return {
    each: 'event',
    field: 'body',
    sources: [sources.short, sources.teaser],
    label: 'text',
    kind: 'text',
    limit,
    need: 'should',
    from: (f) => text(plainText(f.full) || f.short || f.teaser),
    ...codec,
  };
}

/** The row of the line-up, or of as much of it as fits. */
export function lineUpRow(limit: number, codec: WireCodec): FieldRow {
  const from = ({ lineUp }: Facts) => text(lineUp);
  return { each: 'event', field: 'line-up', label: 'line-up', kind: 'text', limit, from, parts: lineUpParts, ...codec };
}

/** The row of where it is, in words. */
export function placeRow(words: (facts: Facts) => ShownValue | null, codec: WireCodec, limit?: number): FieldRow {
  const most = limit === undefined ? {} : { limit };
  return { each: 'event', field: 'place', label: 'place', kind: 'text', need: 'must', from: words, ...most, ...codec };
}

/** The row of the venue's street, for a place that has one beside the venue's name. */
export function streetRow(codec: WireCodec): FieldRow {
  return textRow('street', 'street', (f) => f.performances[0]?.place?.address ?? '', codec, { limit: 200 });
}

/** The row of what befell the event. */
export function turnRow(codec: WireCodec): FieldRow {
  return { each: 'event', field: 'turn', label: 'public note', kind: 'text', limit: 120, from: turnNote, ...codec };
}

/**
 * The row of what befell a date among others: that it is called off, or put off without a new one. What befell all of a
 * listing's dates alike is said by its state where it has one for that: `byState`.
 */
export function befellRow(codec: WireCodec, byState: readonly ('cancelled' | 'postponed')[]): FieldRow {
  return {
    each: 'performance',
    field: 'befell',
    label: 'what befell the date',
    kind: 'text',
    from: ({ turn, start }, { performances }) => {
      // What has no hour is no line of its own on the wire.
      if (start === null || (turn !== 'cancelled' && turn !== 'postponed')) return null;
      return byState.includes(turn) && performances.every((performance) => performance.turn === turn)
        ? null
        : text(turn);
    },
    ...codec,
  };
}

/** The row of the price in words. */
export function priceRow(codec: WireCodec): FieldRow {
  return { each: 'event', field: 'price', label: 'price', kind: 'text', need: 'should', from: priceText, ...codec };
}

/**
 * The row of the lowest price at which the public gets in, as a number, where a place takes no words. What is free has
 * no amount.
 */
export function amountRow(label: string, codec: WireCodec): FieldRow {
  const from = ({ price }: Facts): ShownValue | null =>
    price.kind === 'priced' ? { kind: 'price', name: '', minor: price.from, currency: price.currency } : null;
  return { each: 'event', field: 'amount', label, kind: 'price', from, ...codec };
}

/** The row of under whose name it stands there: as `whose`, or it stands in the wrong place. */
export function publisherRow(whose: string, codec: WireCodec): FieldRow {
  return {
    each: 'event',
    field: 'publisher',
    label: 'published by',
    kind: 'text',
    among: { words: [whose], most: 1 },
    from: () => text(whose),
    ...codec,
  };
}

/** The row of the picture; which picture, and which part of it, is found by the shape that the kind's rules name. */
export function pictureRow(label: string, need: 'must' | 'should', codec: WireCodec): FieldRow {
  return { each: 'event', field: 'picture', label, kind: 'picture', need, from: () => null, ...codec };
}

/** The row of the ticket link. */
export function linkRow(label: string, codec: WireCodec): FieldRow {
  return { each: 'event', field: 'link', label, kind: 'url', from: linkValue, ...codec };
}

/**
 * The rows of doors, start and end of each performance: by what the kind calls them, and how it writes a moment under a
 * name.
 */
export function momentRows(
  names: { doors: string; start: string; end: string },
  codec: (name: string) => WireCodec,
  start?: 'must',
): FieldRow[] {
  return (['doors', 'start', 'end'] as const).map((field) => ({
    each: 'performance',
    field,
    label: field,
    kind: 'instant',
    sources: [sources[field]],
    from: (p) => instant(p[field], p),
    ...(field === 'start' && start !== undefined ? { need: start } : {}),
    ...codec(names[field]),
  }));
}

/**
 * A text of each item of a group: by its name on the wire. `itemTextRow('link', 'link-label', 'link', (l) => l.label,
 * textAt('label'))`
 */
export function itemTextRow<G extends Group>(
  g: G,
  field: string,
  label: string,
  words: (item: GroupItems[G], facts: Facts) => string,
  codec: WireCodec,
  part: { limit?: number; sources?: readonly Source[]; need?: 'must' | 'should' } = {},
): FieldRow {
  const from = (item: GroupItems[G], facts: Facts) => text(words(item, facts));
  return { each: g, field, label, kind: 'text', from, ...part, ...codec } as unknown as FieldRow;
}

/** The rows of labelled links, for a place that lists them: words, address, and whether a new window opens. */
export function labelledLinkRows(names: { label: string; href: string; window: string }): FieldRow[] {
  return [
    itemTextRow('link', 'link-label', 'link', linkLabel, textAt(names.label), {
      limit: 80,
      sources: [sources.linkLabel],
    }),
    {
      each: 'link',
      field: 'link-address',
      label: 'where the link leads',
      kind: 'url',
      sources: [sources.linkAddress],
      from: (item, facts) => targetValue(item.to, facts),
      ...urlAt(names.href),
    },
    {
      each: 'link',
      field: 'link-window',
      label: 'link in a new window',
      kind: 'flag',
      from: (item) => (item.newWindow ? on : null),
      ...flagAt(names.window, true, false),
    },
  ];
}

/** What a link's words are where none were written. */
const usualLabels: Record<LabelledLink['use'], string> = {
  buy: 'Buy tickets',
  register: 'Register',
  reply: 'Reply',
  watch: 'Watch',
  more: 'More',
};

/** The words that one clicks. */
function linkLabel({ label, use }: LabelledLink): string {
  return label.trim() || usualLabels[use];
}

/** Where a target leads from this channel: an address, one that another channel has yet to give, or nowhere. */
export function targetValue(to: Target, facts: Facts): ShownValue | null {
  return shownLink(targetLink(to, facts, facts.here));
}

/** The name of a document's file where it is shown: its own, made plain, behind the beginning of its hash. */
function documentFile({ fileId, name }: RecordDocument): string {
  const plainName = name
    .normalize('NFKD')
    .replace(/[^\w.-]+/g, '-')
    .slice(-60);
  return `${fileId.slice(0, 12)}-${plainName}`;
}

/** Who does a part of the programme, and as what: `Wynn Adair (speaker)`. */
function programmeNames({ names, role }: ProgrammeFacts): string {
  return names.trim() === '' ? '' : role.trim() === '' ? names : `${names} (${role})`;
}

/** A picture of the night, whole, as wide as pages show them. */
export function shotValue(shot: Shot): ShownValue {
  const width = Math.min(1600, shot.width);
  const height = Math.max(1, Math.round((shot.height * width) / shot.width));
  return {
    kind: 'picture',
    name: `${shot.pictureId.slice(0, 16)}-0.0.${shot.width}x${shot.height}-${width}.jpg`,
    alt: shot.alt.trim(),
    source: { pictureId: shot.pictureId, crop: { x: 0, y: 0, w: shot.width, h: shot.height }, width, height },
  };
}

/** The series in one line, where it is to be told so. */
export function seriesLine({ asOneLine, series }: Facts): ShownValue | null {
  return asOneLine ? text(series) : null;
}

/** How to reach the organiser, as far as they want it shown: `555 0142 · desk@yard.example`. */
export function organiserContact({ organiser }: Facts): string {
  if (organiser === null) return '';
  const { phone, mail, address, site, links, bookings, shown } = organiser;
  const said: Record<(typeof shown)[number], string> = {
    phone,
    mail,
    address,
    site,
    links: links.join(' '),
    bookings: bookings === '' ? '' : `bookings ${bookings}`,
  };
  return organiserParts
    .filter((part) => shown.includes(part))
    .map((part) => said[part].trim())
    .filter((part) => part !== '')
    .join(' · ');
}

/** An event as most places show it: seen by everybody. */
export const seenByAll = (): ListedState => 'public';

/** An instant in a performance's zone, or nothing. */
export function instant(at: number | null, performance: PerformanceFacts): ShownValue | null {
  return at === null ? null : { kind: 'instant', at, zone: performance.zone };
}

/** `The Vat, Tallow Yard, Marrowby`. */
function placeWords(performance: PerformanceFacts | undefined): ShownValue | null {
  if (!performance?.place) return null;
  const { room, venue, town } = performance.place;
  return text([room, venue, town].filter((part) => part !== null && part !== '').join(', '));
}

/** Where it is: the place in words, or online. */
export function placeOrOnline(facts: Facts): ShownValue | null {
  return placeWords(facts.performances[0]) ?? (facts.online === null ? text(facts.follow.place) : text('Online'));
}

/** What is known of dates that are not exact, or that span days. */
export function dateNotes({ performances }: Facts): ShownValue | null {
  return text(
    [...new Set(performances.map((performance) => performance.dateNote).filter((note) => note !== ''))]
      .slice(0, 4)
      .join('; '),
  );
}

/** What befell the event, for the public: postponed, sold out … */
export function turnNote({ performances }: Facts): ShownValue | null {
  return text(turnWords(performances));
}

/** Access and age notes together. */
export function goodToKnow({ age, access }: Facts): ShownValue | null {
  return text([age, access].filter((part) => part !== '').join(' · '));
}

/** The title in parts, for places where it does not fit whole. */
function titleParts({ title, shortTitle }: Facts): { parts: FitPart[]; joint: string } {
  const variants = [
    { text: title, worth: 10 },
    ...(shortTitle === '' ? [] : [{ text: shortTitle, worth: 6, label: shortTitle }]),
  ];
  return { parts: [{ id: 'title', label: 'title', required: true, variants }], joint: ' ' };
}

/** The line-up in parts: the headliner first, the support acts while they fit. */
export function lineUpParts({ lineUp }: Facts): { parts: FitPart[]; joint: string } {
  const [lead = '', rest = ''] = lineUp.split(/ with (.*)/s);
  const others = rest.split(/, | and (?=[^,]*$)/).filter((name) => name !== '');
  const part = (id: string, label: string, words: string, worth: number, required: boolean): FitPart => ({
    id,
    label,
    required,
    variants: [{ text: words, worth }],
  });
  return {
    parts: [
      part('lead', 'headliner', lead, 100, true),
      ...others.map((name, i) => part(`s${i}`, name, name, 50 - i, false)),
    ],
    joint: ', ',
  };
}

/** Room, venue, street, town and country in one line. */
export function fullPlace(performance: PerformanceFacts | undefined): ShownValue | null {
  if (!performance?.place) return null;
  const { room, venue, address, town, country } = performance.place;
  return text([room, venue, address, town, country].filter((part) => part !== null && part !== '').join(', '));
}

/**
 * Remembers the last answers of a pure function of one text, so that the same words are not converted once for each
 * listing.
 */
export function remembered<T>(work: (text: string) => T, most = 50): (text: string) => T {
  const kept = new Map<string, T>();
  return (words) => {
    const known = kept.get(words);
    if (known !== undefined) return known;
    const made = work(words);
    if (kept.size >= most) kept.clear();
    kept.set(words, made);
    return made;
  };
}

/** A value that another channel gives: known, to come, or none. */
export function giftValue({ gifts }: Facts, gift: Gift): ShownValue | null {
  const item = gifts[gift];
  if (!item) return null;
  return item.value === null
    ? { kind: 'awaited', from: item.from, name: item.name, gift, track: null }
    : { kind: 'url', href: item.value };
}

/** The ticket link: known, to come, or none. */
export function linkValue({ link }: Facts): ShownValue | null {
  return shownLink(link);
}

/** The price in words: `from €18`, `free`. */
function priceText({ price, follow }: Facts): ShownValue | null {
  switch (price.kind) {
    case 'priced':
    case 'free':
      return text(price.words);
    case 'unknown':
      return text(follow.price);
  }
}

const plainText = remembered((html) => writePlain(markupOf(html)));
