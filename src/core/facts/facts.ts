import { inZone, longDate } from '../dates/date-words';
import type { Artist, Organiser, Venue } from '../record/directory';
import { seriesWords } from '../dates/series-words';
import { listWords } from '../base/list-words';
import { leads, lineUpWords } from '../record/roles';
import {
  type FollowWords,
  nextOf,
  type PerformanceFacts,
  performanceFacts,
  usualFollowWords,
} from './performance-facts';
import type {
  Audience,
  LabelledLink,
  Notice,
  Override,
  PictureUse,
  ProgrammeItem,
  RecordContent,
  RecordDocument,
} from '../record/record';
import type { EventType, Turn } from '../record/choices';
import { sale, type SaleFacts } from './sale';
import type { Secret } from './secrets';
import type { Outlet, Registration } from '../record/ticket-schema';
import type { Sold } from './tickets/sold';
import { addDays, instantOf, toLocal, type Instant } from '../base/zones';

/** Where a member of the public gets a ticket: known, still to come from an upstream channel, or nowhere. */
export type LinkFacts =
  | { kind: 'known'; href: string }
  | {
      kind: 'awaited';
      from: string;
      name: string;
      /** What is awaited of it; the ticket link, where it is not said. */
      gift?: string;
      track: { name: string; value: string } | null;
    }
  | { kind: 'none' };

/** What a record says at one revision, made canonical. */
export interface Facts extends SaleFacts {
  code: string;
  /** The moment at which they are told. */
  now: Instant;
  title: string;
  shortTitle: string;
  subtitle: string;
  eventType: EventType;
  /** The tour that it belongs to; `null`: none. */
  tourId: string | null;
  /** All kinds that it is, its own first. */
  categories: readonly EventType[];
  /** The house says that such an event is never public. */
  neverPublic: boolean;
  /** What the house says of itself wherever there is room for it. */
  aboutUs: AboutUs;
  /** Pictures of it that may not be used as long as it goes on: what each is called, and its last day. */
  pictureEnds: readonly { name: string; until: string }[];
  tags: readonly string[];
  /** Without the `#`. */
  hashtags: readonly string[];
  organiser: Organiser | null;
  performances: PerformanceFacts[];
  /** Dates that are only held beside the others: no channel hears of them, but they take their room. */
  held: PerformanceFacts[];
  lineUp: string;
  headliner: string;
  ticketed: boolean;
  registration: Registration | null;
  /** Seats of all parts of the house together. */
  parts: number;
  mode: RecordContent['tickets']['mode'];
  /** What can be linked to in order of priority; a channel picks the first that is to be had (see `linkFor`). */
  outlets: readonly Outlet[];
  link: LinkFacts;
  /** What a person chose the link to lead to, where that has no address; `null`: it leads where it should. */
  linkUnmet: string | null;
  /** Channels that wait for each other's addresses; none: nobody waits in a circle. */
  linkCircle: readonly string[];
  /** It takes place online (too), with the address where one keeps a place. */
  online: { keep: string | null } | null;
  /** Where those who hold a place join: it stands nowhere in public. */
  joinAddress: string | null;
  /** How one registers where there is no page for it. */
  contact: string;
  /** For whom it is. */
  audience: Audience;
  /** A series in one line: `Tuesdays 19:45 until 20 April`; empty where it is none. */
  series: string;
  /** The series is told in that line here, in place of each date. */
  asOneLine: boolean;
  /** It stays a draft here: all of it is kept, and nobody sees it yet. */
  keptDraft: boolean;
  /** The outlet that would give the link and stays a draft; `null`: none is missed for that. */
  giverDraft: string | null;
  programme: readonly ProgrammeFacts[];
  links: readonly LabelledLink[];
  /** The labelled link that an entry leads straight to. */
  leadsAway: LabelledLink | null;
  /** Documents that anyone may see now. */
  documents: readonly RecordDocument[];
  /** What there is after the show and is set to be shown. */
  after: { recording: string | null; pictures: readonly PictureUse[]; setList: string };
  /** What the public reads in place of what is not known yet. */
  follow: FollowWords;
  /** Where the event stands in public on channels, by channel: known, or still to come. */
  pages: Readonly<Record<string, { name: string; value: string | null }>>;
  /** What is for some alone and may stand in nothing that the public reads. */
  secrets: readonly Secret[];
  /** A film about it, where one is; and something to listen to. */
  film: string | null;
  sound: string | null;
  /** Who of the line-up says something of themselves in the directory: their words, and their pages. */
  acts: readonly ActFacts[];
  /** Where people say that they come: whether they are seen, and may write. */
  guests: RecordContent['guests'];
  /** Whose pictures they are: `Mette Holm; the band`. */
  credits: string;
  /** Who is on when, where that is known: `20:30 Odalys Quarry`. */
  setTimes: string;
  /** What becomes of tickets that are given back, in words; empty where nothing is sold. */
  refunds: string;
  line: string;
  teaser: string;
  short: string;
  full: string;
  access: string;
  age: string;
  pictures: readonly PictureUse[];
  overrides: readonly Override[];
  notices: readonly Notice[];
  /** What channels give to each other, by its name: known, or still to come from one. */
  gifts: Readonly<Record<string, { from: string; name: string; value: string | null }>>;
  /** The channel that the facts are told on; empty where they are told nowhere in particular. */
  here: string;
  /** The one notice that a listing of a notice is about; `null` where the event itself is listed. */
  notice: { words: string; pin: boolean; hashtags: boolean; subject: string; segment: string } | null;
  visibility: 'private' | 'unlisted' | 'public';
  pencilled: boolean;
  carried: RecordContent['carried'];
  /** Lengths that were drafted and not looked at yet. */
  drafted: readonly string[];
  announceAt: Instant | null;
  announceZone: string;
  /** There is an announce moment, and it cannot be reckoned: that time does not exist there. */
  announceUnclear: boolean;
}

/** What a house says of itself. */
export interface AboutUs {
  /** Where one writes to it; empty: nowhere. */
  mail: string;
  /** The address of a map, with `{lat}` and `{lon}` for the point; empty: `geo:` (RFC 5870, section 3). */
  map: string;
  /** Its logo; `null`: none. */
  logo: PictureUse | null;
}

/** A house that says nothing of itself. */
const nothingAboutUs: AboutUs = { mail: '', map: '', logo: null };

/** An act of the line-up, in its own words, with its own pages. */
export interface ActFacts {
  id: string;
  name: string;
  words: string;
  links: readonly string[];
}

/** A part of the programme, on its day. */
export interface ProgrammeFacts extends Pick<ProgrammeItem, 'id' | 'title' | 'names' | 'role' | 'room'> {
  start: Instant | null;
  end: Instant | null;
  zone: string;
  /** The day it is on, where the event has several. */
  date: string | null;
}

/** What facts need beside the record itself. */
export interface FactsContext {
  code: string;
  venues: ReadonlyMap<string, Venue>;
  organisers?: ReadonlyMap<string, Organiser>;
  artists?: ReadonlyMap<string, Artist>;
  now: Instant;
  /** Purchases so far, by performance id and level id. */
  sold?: ReadonlyMap<string, Sold>;
  /** What this house says of what is to follow. */
  follow?: Partial<FollowWords>;
  /** The house's zone: the public is told of any other. Not there: of none. */
  houseZone?: string;
  /** Kinds of event that are never public in this house. */
  closedTypes?: readonly string[];
  /** What the house says of itself. Not there: nothing. */
  aboutUs?: AboutUs;
  /** Pictures that may be used until a day only, by id. */
  pictureEnds?: ReadonlyMap<string, { name: string; until: string }>;
}

/** Makes a record's content canonical. Pure; unknown stays unknown. */
export function facts(content: RecordContent, context: FactsContext): Facts {
  const { visibility } = content.publicity;
  const billing = content.lineUp.map((act) => `${act.id} ${act.role} ${act.name}`).join('|');
  const follow = { ...usualFollowWords, ...context.follow, ...content.toFollow };
  const all = content.performances
    .map((performance) => performanceFacts(performance, content.lineUp, billing, { ...context, follow }))
    .filter((performance): performance is PerformanceFacts => performance !== null)
    .sort((a, b) => a.at - b.at || (a.id < b.id ? -1 : 1));
  // Where nothing is more than held, the event itself is pencilled.
  const allHeld = all.length > 0 && all.every((performance) => performance.pencilled);
  const performances = allHeld ? all : all.filter((performance) => !performance.pencilled);
  const next = nextOf(performances, context.now);
  const saleOf = sale(content, performances, next, context);
  return {
    code: context.code,
    now: context.now,
    title: content.title,
    shortTitle: content.shortTitle,
    subtitle: content.subtitle,
    eventType: content.eventType,
    tourId: content.tourId,
    categories: [...new Set([content.eventType, ...content.categories])],
    aboutUs: context.aboutUs ?? nothingAboutUs,
    pictureEnds: pictureEndsOf(content, context),
    neverPublic: (context.closedTypes ?? []).includes(content.eventType),
    tags: content.tags,
    hashtags: content.hashtags,
    organiser: (content.organiserId !== null && context.organisers?.get(content.organiserId)) || null,
    performances,
    held: allHeld ? [] : all.filter((performance) => performance.pencilled),
    lineUp: lineUpWords(content.lineUp) || follow.lineUp,
    headliner: listWords(content.lineUp.filter((act) => leads(act.role)).map((act) => act.name)),
    ...saleOf,
    ticketed: content.tickets.mode === 'ticketed',
    registration: content.tickets.mode === 'registration' ? content.tickets.registration : null,
    parts: content.tickets.pools.reduce((sum, pool) => sum + pool.seats, 0),
    mode: content.tickets.mode,
    outlets: content.tickets.outlets,
    link: linkOf(content.tickets),
    linkUnmet: null,
    linkCircle: [],
    online: content.online && { keep: content.online.keep },
    joinAddress: content.online?.join ?? null,
    contact: content.tickets.mode === 'registration' ? content.tickets.registration.contact.trim() : '',
    audience: content.audience,
    series: seriesOf(performances, context.now),
    asOneLine: false,
    keptDraft: false,
    giverDraft: null,
    programme: programmeOf(content.programme, performances, next),
    links: content.links,
    leadsAway: content.links.find((link) => link.id === content.leadsAway) ?? null,
    documents: content.documents.filter((document) => document.who === 'anyone' && isOut(document, context.now)),
    after: afterOf(content),
    follow,
    pages: {},
    secrets: secretsOf(content),
    film: content.video,
    sound: content.sound,
    acts: actsOf(content.lineUp, context.artists),
    guests: content.guests,
    credits: [...new Set(content.pictures.map((picture) => picture.credit.trim()))]
      .filter((credit) => credit !== '')
      .join('; '),
    setTimes: setTimesOf(content.lineUp),
    refunds: content.tickets.mode === 'ticketed' ? content.tickets.refunds.trim() : '',
    ...wordsOf(content.words),
    // Pictures of the night itself stand by themselves, once they may be shown.
    pictures: content.pictures.filter((picture) => !content.after.pictures.ids.includes(picture.pictureId)),
    overrides: content.overrides,
    notices: content.notices,
    notice: null,
    gifts: {},
    here: '',
    visibility,
    pencilled: content.stage === 'pencilled' || allHeld,
    carried: content.carried,
    ...announcedOf(content),
  };
}

/** The line-up by the clock; after midnight comes after the evening. */
function setTimesOf(lineUp: RecordContent['lineUp']): string {
  const late = (time: string) => (time < '06:00' ? `1${time}` : `0${time}`);
  return lineUp
    .flatMap(({ name, setTime }) => (setTime === null ? [] : [{ name, setTime }]))
    .sort((a, b) => (late(a.setTime) < late(b.setTime) ? -1 : 1))
    .map(({ name, setTime }) => `${setTime} ${name}`)
    .join(', ');
}

/** What the acts of a line-up say of themselves, in the order of the billing; who says nothing is not among them. */
function actsOf(lineUp: RecordContent['lineUp'], artists: FactsContext['artists']): ActFacts[] {
  const ids = new Set(lineUp.map((entry) => entry.artistId));
  return [...ids].flatMap((id) => {
    const artist = id === null ? undefined : artists?.get(id);
    if (!artist) return [];
    const links = [artist.site, ...artist.links].filter((link) => link !== '');
    const words = artist.words.trim();
    return words === '' && links.length === 0 ? [] : [{ id: artist.id, name: artist.name, words, links }];
  });
}

/** Pictures that end before the last of its days: its own, and the house's logo, which goes along. */
function pictureEndsOf(
  { pictures, performances }: RecordContent,
  { pictureEnds, aboutUs }: FactsContext,
): Facts['pictureEnds'] {
  if (!pictureEnds || pictureEnds.size === 0) return [];
  const last = performances.reduce(
    (day, { date, lastDate }) => ((lastDate ?? date) > day ? (lastDate ?? date) : day),
    '',
  );
  const logo = aboutUs?.logo ?? null;
  return [...pictures, ...(logo === null ? [] : [logo])].flatMap(({ pictureId }) => {
    const end = pictureEnds.get(pictureId);
    return end && end.until < last ? [end] : [];
  });
}

function linkOf({ mode, link }: RecordContent['tickets']): Facts['link'] {
  const elsewhere = mode === 'elsewhere' || mode === 'registration';
  return elsewhere && link !== null ? { kind: 'known', href: link } : { kind: 'none' };
}

/** What there is after the show, as far as it may be shown. */
function afterOf({ after, pictures }: RecordContent): Facts['after'] {
  return {
    recording: after.recording.shown ? after.recording.href : null,
    pictures: after.pictures.shown ? pictures.filter((picture) => after.pictures.ids.includes(picture.pictureId)) : [],
    setList: after.setList.shown ? after.setList.text.trim() : '',
  };
}

function wordsOf({ line, teaser, short, full, access, age, drafted }: RecordContent['words']) {
  return {
    line: line.trim(),
    teaser: teaser.trim(),
    short: short.trim(),
    full,
    access: access.trim(),
    age: age.trim(),
    drafted,
  };
}

/** When it is announced; a moment that there is not is unclear. */
function announcedOf({ publicity: { announce }, performances }: RecordContent) {
  const at = announce === null ? null : instantOf(announce, announce.zone);
  return {
    announceAt: at,
    announceUnclear: announce !== null && at === null,
    announceZone: announce?.zone ?? performances[0]?.zone ?? 'UTC',
  };
}

function isOut({ from }: RecordDocument, now: Instant): boolean {
  const at = from === null ? -Infinity : instantOf(from, from.zone);
  return at !== null && at <= now;
}

function seriesOf(performances: readonly PerformanceFacts[], now: Instant): string {
  const [first] = performances;
  if (!first || performances.length < 3 || performances.length > 400) return '';
  if (
    performances.some(
      (performance) => performance.start === null || performance.zone !== first.zone || performance.lastDate !== null,
    )
  )
    return '';
  const dates = performances.map((performance) => ({
    date: performance.date,
    time: toLocal(performance.start ?? performance.at, performance.zone).time,
    off: performance.turn === 'cancelled' || performance.turn === 'postponed',
  }));
  const words = seriesWords(dates, toLocal(now, first.zone).date);
  return words === null ? '' : inZone(words, first);
}

/** The parts of the programme, each on its day: one without a performance of its own is on the day of the next. */
function programmeOf(
  items: readonly ProgrammeItem[],
  performances: readonly PerformanceFacts[],
  next: PerformanceFacts | undefined,
): ProgrammeFacts[] {
  return items.map(({ id, title, names, role, room, start, end, performanceId }): ProgrammeFacts => {
    const own = performanceId === null ? next : performances.find((performance) => performance.id === performanceId);
    const exact = own && (own.precision === 'exact' || own.precision === 'day') ? own : null;
    // What is earlier by the clock than the evening begins is past midnight.
    const begins = exact?.start == null ? '' : toLocal(exact.start, exact.zone).time;
    const late = begins >= '12:00' && start !== null && start < '06:00';
    const at = (time: string | null) => {
      if (exact === null || time === null) return null;
      const after = late || (start !== null && time < start);
      return instantOf({ date: after ? addDays(exact.date, 1) : exact.date, time }, exact.zone);
    };
    return {
      id,
      title,
      names,
      role,
      room,
      start: at(start),
      end: at(end),
      zone: exact?.zone ?? 'UTC',
      date: performances.length > 1 && performanceId !== null ? (own?.date ?? null) : null,
    };
  });
}

/** What is for some alone: where one joins, and a recording that is not set to be shown. */
function secretsOf({ online, after }: RecordContent): Facts['secrets'] {
  const found: Secret[] = [];
  if (online?.join) found.push({ what: 'join', text: online.join });
  if (!after.recording.shown && after.recording.href !== null)
    found.push({ what: 'recording', text: after.recording.href });
  return found;
}

/** What a record's stage is called: what is typed, and what follows from cues, turns and the clock. */
export type Stage =
  'pencilled' | 'confirmed' | 'announced' | 'on sale' | 'sold out' | 'postponed' | 'cancelled' | 'played';

/** A record's stage as the season shows it. */
export function stageOf(facts: Facts, now: Instant): Stage {
  const { performances } = facts;
  const all = (turn: Turn) => performances.length > 0 && performances.every((performance) => performance.turn === turn);
  if (all('cancelled')) return 'cancelled';
  if (all('postponed')) return 'postponed';
  if (performances.length > 0 && performances.every((performance) => performance.over < now)) return 'played';
  if (facts.pencilled) return 'pencilled';
  const left = performances.filter((performance) => performance.over >= now && performance.turn !== 'cancelled');
  if (
    left.length > 0 &&
    (left.every((performance) => performance.soldOut) || (left.length === 1 && facts.availability === 'sold out'))
  )
    return 'sold out';
  if (facts.visibility !== 'public' || (facts.announceAt !== null && facts.announceAt > now)) return 'confirmed';
  return facts.link.kind === 'known' && facts.availability !== 'not yet on sale' ? 'on sale' : 'announced';
}

/**
 * What stands before the title of what is put off, where a place has nothing else to say it by: a calendar keeps its old
 * day (RFC 5545 knows no postponed one).
 */
export const putOff = 'Postponed: ';

/** What befell an event, as the public must be told: empty where nothing did. */
export function turnWords(performances: readonly PerformanceFacts[]): string {
  const words: Record<Exclude<Turn, 'none'>, string> = {
    postponed: 'Postponed',
    rescheduled: 'New date',
    moved: 'New place',
    cancelled: 'Cancelled',
  };
  const said = (performance: PerformanceFacts) =>
    performance.turn === 'none' ? (performance.soldOut ? 'Sold out' : '') : words[performance.turn];
  const all = [...new Set(performances.map(said))];
  if (all.length === 1) return all[0] === words.postponed ? 'Postponed, new date to follow' : (all[0] ?? '');
  const perDay = new Map<string, number>();
  for (const { date } of performances) perDay.set(date, (perDay.get(date) ?? 0) + 1);
  // Of several on one day, the hour tells which.
  const when = ({ date, start, zone }: PerformanceFacts) =>
    `${longDate(date).replace(/ \d{4}$/, '')}${start !== null && (perDay.get(date) ?? 0) > 1 ? ` ${toLocal(start, zone).time}` : ''}`;
  return performances
    .filter((performance) => said(performance) !== '')
    .slice(0, 6)
    .map((performance) => `${said(performance)}: ${when(performance)}`)
    .join('; ');
}
