import type { Facts } from '../facts/facts';
import { finding, type Finding } from '../findings/finding';
import { mayHoldFigures } from '../words/figures';
import { sells, type KindRules } from './channel-rules';
import type { Group } from './groups';

/** A fact that not every channel has a place for. */
interface Placeable {
  what: string;
  /** The record says something of it. */
  said: (facts: Facts) => boolean;
  /** Any row of this group, or with this field, is a place for it. */
  group?: Group;
  field?: string;
  /** A rich text with pictures in it is a place for it. */
  figures?: true;
  /** Only a channel that sells is asked for it. */
  selling?: true;
  /** Only a channel that takes registrations is asked for it. */
  registering?: true;
  /** Only a channel that has rows of this group is asked for it; or only one that has none. */
  among?: Group;
  notAmong?: Group;
  /** Without it the public would be told, or sold, something else. */
  wrong?: true;
}

const placeables: readonly Placeable[] = [
  { what: 'labelled links', said: (f) => f.links.length > 0, group: 'link' },
  { what: 'pictures in the text', said: (f) => mayHoldFigures(f.full), figures: true },
  { what: 'documents', said: (f) => f.documents.length > 0, group: 'document' },
  { what: 'the programme', said: (f) => f.programme.length > 0, group: 'item', field: 'programme' },
  { what: 'the recording', said: (f) => f.after.recording !== null, field: 'recording' },
  { what: 'pictures of the night', said: (f) => f.after.pictures.length > 0, group: 'shot' },
  { what: 'the film', said: (f) => f.film !== null, field: 'film' },
  { what: 'what is to be heard', said: (f) => f.sound !== null, field: 'sound' },
  { what: 'what the acts say of themselves', said: (f) => f.acts.length > 0, group: 'act' },
  {
    what: 'whether those who come are seen and may write',
    said: ({ guests }) => guests.shown || guests.write,
    field: 'guests-shown',
  },
  { what: 'our service fee', said: (f) => f.serviceFee !== null, field: 'service-fee', selling: true },
  { what: 'whether prices hold tax', said: (f) => f.tax !== 'unsaid', field: 'tax', selling: true },
  {
    what: 'the tax rate of price levels',
    said: (f) => f.levels.some((level) => level.taxBasisPoints !== null),
    field: 'tax-rate',
    selling: true,
  },
  { what: 'how many are left', said: (f) => f.showLeft !== null, field: 'seats-left', selling: true },
  {
    what: 'our words in the letter to who bought',
    said: ({ letter }) => letter.words !== '' || letter.several !== '',
    field: 'letter',
    selling: true,
  },
  { what: 'set times', said: (f) => f.setTimes !== '', field: 'set-times' },
  { what: 'whose the pictures are', said: (f) => f.credits !== '', field: 'picture-credit' },
  { what: 'age and access', said: (f) => f.age !== '' || f.access !== '', field: 'good-to-know' },
  {
    what: 'the organiser’s own words, links and contact',
    said: ({ organiser }) => organiser !== null && (organiser.boilerplate !== '' || organiser.shown.length > 0),
    field: 'organiser-about',
  },
  { what: 'refund terms', said: (f) => f.refunds !== '', field: 'refunds', selling: true },
  {
    what: 'what is written to those who register',
    said: ({ registration: r }) => r !== null && [r.yes, r.no, r.waiting].some((words) => words.trim() !== ''),
    field: 'answer-yes',
    registering: true,
  },
  {
    what: 'the waiting list',
    said: (f) => f.registration?.waitingList === true,
    field: 'waiting-list',
    registering: true,
  },
  {
    what: 'that one registration counts for all dates',
    said: (f) => f.registration?.onceForAll === true && f.performances.length > 1,
    field: 'once-for-all',
    registering: true,
  },
  { what: 'the set list', said: (f) => f.after.setList !== '', field: 'set-list' },
  { what: 'the series as one line', said: (f) => f.asOneLine && f.series !== '', field: 'series' },
  { what: 'extras', said: (f) => f.extras.length > 0, group: 'extra', selling: true },
  { what: 'coupons', said: (f) => f.coupons.length > 0, group: 'coupon', selling: true },
  { what: 'questions', said: (f) => f.questions.length > 0, group: 'question', selling: true },
  {
    what: 'what price levels are',
    said: (f) => f.levels.some((level) => level.words !== ''),
    field: 'level-words',
    selling: true,
  },
  {
    what: 'that a date is called off or put off',
    said: ({ performances: [first, ...rest] }) =>
      rest.some(({ turn }) => turn !== first?.turn) &&
      [first, ...rest].some((performance) => performance?.turn === 'cancelled' || performance?.turn === 'postponed'),
    field: 'befell',
    wrong: true,
  },
  {
    what: 'tickets that let in several people',
    said: (f) => f.levels.some((level) => level.admits > 1),
    field: 'admits',
    selling: true,
    among: 'level',
    wrong: true,
  },
  {
    what: 'tickets that let in several people',
    said: (f) => f.levels.some((level) => level.admits > 1),
    field: 'admits',
    selling: true,
    notAmong: 'level',
  },
  {
    what: 'pay what you like',
    said: (f) => f.levels.some((level) => level.choose),
    field: 'choose',
    selling: true,
    among: 'level',
    wrong: true,
  },
  {
    what: 'the last day to register',
    said: (f) => f.registration !== null && f.registration.closes !== null,
    field: 'registration-closes',
    registering: true,
  },
  {
    what: 'that each registration needs a yes',
    said: (f) => f.registration?.approval === true,
    field: 'approval',
    registering: true,
  },
  {
    what: 'questions to those who register',
    said: (f) => f.registration !== null && f.questions.length > 0,
    group: 'question',
    registering: true,
  },
  {
    what: 'price levels for several dates',
    said: (f) => f.levels.some((level) => level.covers !== null),
    field: 'covers',
    selling: true,
    wrong: true,
  },
];

const placeless = new WeakMap<KindRules['rows'], { gives: KindRules['gives']; found: readonly Placeable[] }>();

/** What a channel with these rows has no place for, whatever the record says. */
function withoutPlace({ rows, gives }: Pick<KindRules, 'rows' | 'gives'>): readonly Placeable[] {
  const known = placeless.get(rows);
  if (known?.gives === gives) return known.found;
  const found = placeables.filter(
    ({ group, field, figures, selling, registering, among, notAmong }) =>
      (selling !== true || sells({ gives })) &&
      (registering !== true || registers({ rows, gives })) &&
      (among === undefined || rows.some((row) => row.each === among)) &&
      (notAmong === undefined || !rows.some((row) => row.each === notAmong)) &&
      !rows.some((row) => row.each === group || row.field === field || (figures === true && row.figures === true)),
  );
  placeless.set(rows, { gives, found });
  return found;
}

/** True where people register there. */
function registers({ rows, gives }: Pick<KindRules, 'rows' | 'gives'>): boolean {
  return gives.includes('registration link') || rows.some((row) => row.field === 'asks-registration');
}

/** Levels that are offered to some alone, where those open by a code: without one nobody could buy at them. */
function codeless({ rows }: Pick<KindRules, 'rows'>, { levels }: Facts): Finding[] {
  if (!rows.some((row) => row.field === 'code')) return [];
  return levels
    .filter((level) => level.hidden && level.buyers !== 'code' && level.code === '')
    .map(({ name, buyers }) => finding(['code'], 'stops', { code: 'hidden-codeless', level: name, buyers }));
}

/** Prices in another money than one pays with at the place: whoever sells it asks. */
function elsewhere({ rows, gives }: Pick<KindRules, 'rows' | 'gives'>, facts: Facts): Finding[] {
  if (!sells({ gives }) || !rows.some((row) => row.field === 'price')) return [];
  const currency = facts.levels.find((level) => level.minor > 0)?.currency;
  const places = facts.performances.flatMap(({ place }) => (place && place.pays !== null ? [place] : []));
  const [first] = places;
  return !facts.ticketed || currency === undefined || !first || places.some((place) => place.pays === currency)
    ? []
    : [finding(['price'], 'warns', { code: 'currency-elsewhere', currency, pays: first.pays ?? '', town: first.town })];
}

/** What the record says and a channel that lists events has no place for. */
export function leftOut(
  { rows, notice, gives }: Pick<KindRules, 'rows' | 'notice' | 'gives'>,
  facts: Facts,
): Finding[] {
  if (notice !== null) return [];
  const missing = withoutPlace({ rows, gives }).filter(({ said }) => said(facts));
  const closed = [...codeless({ rows }, facts), ...elsewhere({ rows, gives }, facts)];
  if (missing.length === 0) return closed;
  const words = (wrong: boolean) =>
    missing.filter((candidate) => (candidate.wrong ?? false) === wrong).map((item) => item.what);
  return [
    ...closed,
    ...(words(false).length > 0 ? [finding(['left-out'], 'notes', { code: 'left-out-here', what: words(false) })] : []),
    ...(words(true).length > 0 ? [finding(['left-out'], 'stops', { code: 'left-out-here', what: words(true) })] : []),
  ];
}
