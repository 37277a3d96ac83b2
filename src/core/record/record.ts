import { z } from 'zod';
import { saying, textOf } from '../base/problems';
import { isoDate, line, named, prose, timeOfDay, webAddress, whole, zoneName } from '../base/scalars';
import { ticketsSchema } from './ticket-schema';
import { mostCategories, typedStages, precisions, turns, recordLimits, linkUses, seers, followable } from './choices';

const id = z.string().min(1).max(64);

export const performanceSchema = z.object({
  /** Stable: stays the same when the performance moves (the recurrence id of RFC 5545, section 3.8.4.4). */
  id,
  precision: z.enum(precisions).default('exact'),
  /** The day; with precision `month` any day of it; with `open` it counts for nothing but the order. */
  date: isoDate,
  doors: timeOfDay.nullable(),
  /** `null` only where the precision is less than `exact`. */
  start: saying(timeOfDay, (value) =>
    value === '' ? { code: 'start-empty' } : { code: 'time-malformed', text: textOf(value) },
  ).nullable(),
  end: timeOfDay.nullable(),
  /** The end is known, and not shown to the public. */
  endHidden: z.boolean().default(false),
  /** The end lies on the day after `date`. */
  endsNextDay: z.boolean(),
  /** The last day of an event of several days. */
  lastDate: isoDate.nullable().default(null),
  /** Which of two equal readings is meant, on the night the clocks go back. */
  repeat: z.enum(['first', 'second']).nullable(),
  zone: zoneName,
  venueId: id.nullable(),
  roomId: id.nullable(),
  setUpId: id.nullable().default(null),
  /** A date that is only held: told to nobody, though the others are. */
  pencilled: z.boolean().default(false),
  turn: z.enum(turns).default('none'),
  /** When and where it was to be before its turn; `null`: as it is, or not known. */
  was: z
    .object({ date: isoDate, start: timeOfDay.nullable(), venueId: id.nullable(), roomId: id.nullable() })
    .nullable()
    .default(null),
  soldOut: z.boolean().default(false),
  /** What sets it apart, e.g. `relaxed performance`. */
  note: line(120).default(''),
  /** Names of the record's line-up that are not on this time, and others who are. */
  lineUpOut: z.array(id).max(60).default([]),
  lineUpExtra: line(200).default(''),
  /** Where this one is sold, if not where the others are. */
  link: webAddress.nullable().default(null),
});

export const pictureUseSchema = z.object({
  /** SHA-256 of the original file, in hex. */
  pictureId: z.string().regex(/^[0-9a-f]{64}$/),
  width: z.number().int().min(1),
  height: z.number().int().min(1),
  alt: line(400),
  credit: line(200),
  /** The point that every crop keeps, as shares of width and height. */
  focal: z.object({ x: z.number().min(0).max(1), y: z.number().min(0).max(1) }),
  /** The part that a crop should hold whole, as shares. */
  keep: z
    .object({
      x0: z.number().min(0).max(1),
      y0: z.number().min(0).max(1),
      x1: z.number().min(0).max(1),
      y1: z.number().min(0).max(1),
    })
    .nullable()
    .default(null),
});

/** A field of one channel's listing, worded by hand. */
const overrideSchema = z.object({
  channel: z.string().min(1).max(40),
  field: z.string().min(1).max(40),
  /** Plain text, or HTML where the field is rich. */
  value: prose(recordLimits.full),
  /** What the record said there when it was worded, so that a later move beneath it is seen. */
  from: prose(recordLimits.full),
});

export const lineUpEntrySchema = z.object({
  id,
  name: named(160),
  /** One of the house's roles: `commonRoles`, or one that the house added. */
  role: named(40),
  artistId: id.nullable().default(null),
  setTime: timeOfDay.nullable().default(null),
});

export const wordsSchema = z.object({
  line: line(400).default(''),
  teaser: prose(600),
  short: prose(1600).default(''),
  full: prose(recordLimits.full),
  access: prose(1000).default(''),
  age: line(200).default(''),
  /** Lengths that were drafted from a longer one and not looked at by a person yet. */
  drafted: z
    .array(z.enum(['line', 'teaser', 'short']))
    .max(3)
    .default([]),
});

export const announceSchema = z.object({ date: isoDate, time: timeOfDay, zone: zoneName }).nullable();

/** A short post about the event on one channel, as opposed to its listing. */
const noticeSchema = z.object({
  id,
  channel: z.string().min(1).max(40),
  /** Plain words with tokens; empty: made from the facts, as much as fits. */
  words: prose(4000).default(''),
  /** It is to stay pinned; a pin that the channel lets lapse is renewed. */
  pin: z.boolean().default(false),
  /** It goes out no earlier than this. */
  notBefore: announceSchema.default(null),
  /** Of a letter: its subject; empty: made from the facts. */
  subject: line(120).default(''),
  /** Of a letter: to whom of the list it goes; empty: to whom the channel's letters go. */
  segment: line(60).default(''),
  /** The record's hashtags stand behind words that were written by hand, as far as they fit. */
  hashtags: z.boolean().default(false),
  /**
   * It was planned and had not gone out when the event turned so: it was taken off, and goes only when somebody puts it
   * back.
   */
  offSince: z.enum(['cancelled', 'postponed']).nullable().default(null),
  /** It tells those who bought what they have to know. */
  holders: z.boolean().default(false),
  /** It was drafted when the event turned so: where it takes place after all, it is taken out again. */
  turn: z.enum(['cancelled', 'postponed', 'rescheduled', 'moved']).nullable().default(null),
});

/**
 * The two addresses of an online event. Where one keeps a place is public; where one joins is for those who hold a
 * place, and stands nowhere in public. What older revisions call `link` may be either, so it is kept as the one that is
 * never shown.
 */
const onlineSchema = z.preprocess(
  (given) =>
    given !== null && typeof given === 'object' && 'link' in given ? { keep: null, join: given.link } : given,
  z.object({ keep: webAddress.nullable().default(null), join: webAddress.nullable().default(null) }),
);

/** For whom it is: a gate, not a category. What is for some stands nowhere but where they alone see it. */
export const audienceSchema = z.discriminatedUnion('who', [
  z.object({ who: z.literal('everyone') }),
  z.object({ who: z.literal('members') }),
  z.object({ who: z.literal('group'), name: named(60, 'Name the group.') }),
]);
export type Audience = z.infer<typeof audienceSchema>;

/** Something that can be linked to: where it is sold, what stands on a channel, the venue's own site, or an address. */
const targetSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('tickets') }),
  z.object({ kind: z.literal('page'), channel: z.string().min(1).max(40) }),
  z.object({ kind: z.literal('venue') }),
  /** Where the venue lies: its point, as an address that maps open. */
  z.object({ kind: z.literal('map') }),
  z.object({ kind: z.literal('address'), href: webAddress }),
]);
export type Target = z.infer<typeof targetSchema>;

/** A link with words of its own, beside the one that sells. */
const labelledLinkSchema = z.object({
  id,
  use: z.enum(linkUses),
  /** The words that one clicks; empty: those of its use. */
  label: line(80).default(''),
  to: targetSchema,
  newWindow: z.boolean().default(false),
});
export type LabelledLink = z.infer<typeof labelledLinkSchema>;

/** What one channel's link, or one notice's, leads to by choice, where it is not simply where tickets are. */
const linkChoiceSchema = z.object({
  id,
  channel: z.string().min(1).max(40),
  /** The notice that it is about; `null`: the event's listing. */
  noticeId: id.nullable().default(null),
  to: targetSchema,
  /** Why, for ourselves. */
  reason: line(200).default(''),
});

const documentSchema = z.object({
  id,
  /** SHA-256 of the file, in hex. */
  fileId: z.string().regex(/^[0-9a-f]{64}$/),
  /** The file's own name, and its media type (RFC 6838). */
  name: named(120),
  type: z.string().max(100),
  bytes: z.number().int().min(0),
  title: line(160).default(''),
  who: z.enum(seers),
  /** Nobody outside sees it before this moment. */
  from: announceSchema.default(null),
});
export type RecordDocument = z.infer<typeof documentSchema>;

/** A part of the event with a time of its own: a speaker, a film, a workshop. */
export const programmeItemSchema = z.object({
  id,
  /** `null`: in its place in the order, at no time that is known. */
  start: timeOfDay.nullable().default(null),
  end: timeOfDay.nullable().default(null),
  title: named(200, 'Say what it is.'),
  /** Who does it, and as what. */
  names: line(300).default(''),
  role: line(40).default(''),
  room: line(80).default(''),
  /** Of several performances, the one it belongs to; `null`: each of them. */
  performanceId: id.nullable().default(null),
});
export type ProgrammeItem = z.infer<typeof programmeItemSchema>;

/** What there is after the show, each shown to the public only once that was set. */
export const afterSchema = z.object({
  recording: z.object({ href: webAddress.nullable().default(null), shown: z.boolean().default(false) }),
  pictures: z.object({
    ids: z
      .array(z.string().regex(/^[0-9a-f]{64}$/))
      .max(recordLimits.pictures)
      .default([]),
    shown: z.boolean().default(false),
  }),
  setList: z.object({ text: prose(2000).default(''), shown: z.boolean().default(false) }),
});
export type After = z.infer<typeof afterSchema>;

export const toFollowSchema = z.partialRecord(z.enum(followable), line(120));
export type ToFollow = z.infer<typeof toFollowSchema>;

const noAfter: After = {
  recording: { href: null, shown: false },
  pictures: { ids: [], shown: false },
  setList: { text: '', shown: false },
};

const hashtagSchema = z
  .string()
  .max(200)
  .regex(/^[\p{L}\p{N}_]+$/u)
  .max(60);

/** Everything a revision of a record says. The single definition; types follow from it. */
export const recordSchema = z.object({
  title: saying(line(recordLimits.title).min(1), () => ({ code: 'title-empty' })),
  /** A shorter title for places where the whole one does not fit. */
  shortTitle: line(120).default(''),
  subtitle: line(recordLimits.title),
  eventType: named(40, 'Say what kind of event it is.'),
  /** Further kinds that it is, for channels with several categories. */
  categories: z.array(named(40)).max(mostCategories).default([]),
  stage: z.enum(typedStages),
  organiserId: id.nullable().default(null),
  tourId: id.nullable().default(null),
  tags: z.array(line(40).min(1)).max(20).default([]),
  /** Without the `#`; apart from the tags. */
  hashtags: z.array(hashtagSchema).max(recordLimits.hashtags).default([]),
  performances: z.array(performanceSchema).min(1).max(recordLimits.performances),
  /** The rule that the performances were made by (RFC 5545, section 3.3.10); they may have moved since. */
  rule: z.string().max(500).nullable().default(null),
  /** It takes place online too, or nowhere else. */
  online: onlineSchema.nullable().default(null),
  lineUp: z.array(lineUpEntrySchema).max(recordLimits.lineUp),
  tickets: ticketsSchema,
  words: wordsSchema,
  pictures: z.array(pictureUseSchema).max(recordLimits.pictures),
  video: webAddress.nullable().default(null),
  /** Something to listen to, at its address. */
  sound: webAddress.nullable().default(null),
  /** Where people say that they come: whether the others are seen there, and whether they may write to each other. */
  guests: z
    .object({ shown: z.boolean().default(false), write: z.boolean().default(false) })
    .default({ shown: false, write: false }),
  publicity: z.object({
    visibility: z.enum(['private', 'unlisted', 'public']),
    /** Nothing leaves the house before this moment. */
    announce: announceSchema,
  }),
  /** For whom it is. */
  audience: audienceSchema.default({ who: 'everyone' }),
  /** Channels on which this event is deliberately not wanted. */
  leftOff: z.array(z.string()).max(50),
  /** Channels on which it is found by its link alone, though the record is public. */
  unlistedOn: z.array(z.string().max(40)).max(50).default([]),
  /** Channels on which it stays a draft: all of it is kept there, and nobody sees it yet. */
  draftOn: z.array(z.string().max(40)).max(50).default([]),
  /** Channels that tell a series as one line in place of each date. */
  oneLineOn: z.array(z.string().max(40)).max(50).default([]),
  links: z.array(labelledLinkSchema).max(recordLimits.links).default([]),
  /** The labelled link that an entry on a website leads straight to; `null`: it has a page of its own. */
  leadsAway: id.nullable().default(null),
  linkChoices: z.array(linkChoiceSchema).max(60).default([]),
  documents: z.array(documentSchema).max(recordLimits.documents).default([]),
  programme: z.array(programmeItemSchema).max(recordLimits.programme).default([]),
  after: afterSchema.default(noAfter),
  /** What the public reads in place of a fact that is missing, where it is not what the house says. */
  toFollow: toFollowSchema.default({}),
  overrides: z.array(overrideSchema).max(100).default([]),
  notices: z.array(noticeSchema).max(recordLimits.notices).default([]),
  /** No other show of the headliner so near in place (km) and time (days) on either side. */
  radius: z
    .object({ km: whole(1, 5000, 'number of kilometres'), days: whole(1, 730, 'number of days') })
    .nullable()
    .default(null),
  /** The code of the event it was copied from, and what is still carried over from it. */
  copiedFrom: z.string().max(20).nullable().default(null),
  carried: z.array(z.string().min(1).max(140)).max(400).default([]),
});

export type RecordContent = z.infer<typeof recordSchema>;
export type Performance = z.infer<typeof performanceSchema>;
export type PictureUse = z.infer<typeof pictureUseSchema>;
export type LineUpEntry = z.infer<typeof lineUpEntrySchema>;
export type Override = z.infer<typeof overrideSchema>;
export type Notice = z.infer<typeof noticeSchema>;
export type Words = z.infer<typeof wordsSchema>;

/** What says of what type an event is, as older revisions and files may call it: its kind. */
export function typeBrought(given: unknown): unknown {
  if (given === null || typeof given !== 'object' || !('kind' in given)) return given;
  const { kind, ...rest } = given;
  return { eventType: kind, ...rest };
}

/** A record's content as an older revision may say it: one hashtag, questions that only registration asks, a kind. */
export function brought(given: unknown): unknown {
  if (given === null || typeof given !== 'object') return given;
  const { hashtag, ...rest } = typeBrought(given) as Record<string, unknown>;
  const hashtags = rest.hashtags ?? (typeof hashtag === 'string' && hashtag !== '' ? [hashtag] : undefined);
  const tickets = ticketsBrought(rest.tickets);
  return {
    ...rest,
    ...(hashtags === undefined ? {} : { hashtags }),
    ...(tickets === undefined ? {} : { tickets }),
  };
}

function ticketsBrought(tickets: unknown): unknown {
  if (tickets === null || typeof tickets !== 'object') return tickets;
  const { registration } = tickets as { registration?: { questions?: unknown } };
  if (!registration || !('questions' in registration)) return tickets;
  const { questions, ...rest } = registration;
  return { questions, ...tickets, registration: rest };
}

/** A revision's content, as any program of ours has written it. */
export const savedRecordSchema = z.preprocess(brought, recordSchema);
