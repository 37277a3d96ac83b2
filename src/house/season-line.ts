import { z } from 'zod';
import { recordIdSchema } from '@/core/base/ids';
import { stageOf, type Facts } from '@/core/facts/facts';
import { knownDay, nextOf } from '@/core/facts/performance-facts';
import { longDate, momentWords } from '@/core/dates/date-words';
import { toLocal } from '@/core/base/zones';
import { putAway } from '@/core/record/choices';
import { pressing } from '@/core/listing/pressing';
import { standings } from '@/core/listing/standing';
import type { SurveyedRecord } from './survey';

/** One event as the season says it, whichever channels there are. */
export const seasonLineSchema = z.object({
  id: recordIdSchema,
  code: z.string(),
  /** The day that the row stands under, as far as it is known: of the next performance, or the last when all are over. */
  date: z.string(),
  time: z.string(),
  /** Instant of that performance, for the order; `null`: its date is open. */
  at: z.number().nullable(),
  past: z.boolean(),
  title: z.string(),
  under: z.string(),
  room: z.string(),
  town: z.string(),
  stage: z.string(),
  price: z.string(),
  /** Seats left for that performance, where they are known and sold. */
  left: z.string(),
  /** What is due next: announce or on-sale, in words. */
  cue: z.string(),
  tour: z.string().nullable(),
  /** What else it is found by: its kind, tags, acts, and who holds it. */
  also: z.string(),
  /** Standing by channel; one that is not here: not wanted there. */
  standings: z.record(z.string(), z.enum(standings)),
});
export type SeasonLine = z.infer<typeof seasonLineSchema>;

/** What the season says of an event now. */
export function seasonLine({ record, survey, channels }: SurveyedRecord, now: number): SeasonLine {
  const { facts, listings } = survey;
  const shown = nextOf(facts.performances, now);
  const day = knownDay(shown);
  const last = facts.performances[facts.performances.length - 1];
  const count = facts.performances.length;
  const more = [
    count > 1 && last ? `${count} performances, to ${longDate(last.date).replace(/^\w+ /, '')}` : '',
    facts.held.length > 0 ? `${facts.held.length} more pencilled` : '',
  ]
    .filter((part) => part !== '')
    .join(', ');
  return {
    id: record.id,
    code: record.code,
    date: day,
    time: day !== '' && shown?.start ? toLocal(shown.start, shown.zone).time : '',
    at: day === '' ? null : (shown?.at ?? 0),
    past: record.awayAt !== null || shown === undefined || (day !== '' && shown.over < now),
    tour: record.content.tourId,
    title: facts.title,
    also: [
      ...facts.categories,
      ...facts.tags,
      facts.organiser?.name ?? '',
      ...record.content.lineUp.map((act) => act.name),
    ]
      .filter((part) => part !== '' && !facts.title.includes(part))
      .join(' ')
      .slice(0, 400),
    under: [
      shown && (shown.precision !== 'exact' || day === '') ? shown.dateNote : '',
      facts.subtitle,
      lineUpBeyond(facts.title, facts.lineUp),
      more,
    ]
      .filter((part) => part !== '')
      .join(' · '),
    room: shown?.place ? (shown.place.room ?? shown.place.venue) : '',
    town: shown?.place?.town ?? '',
    stage: record.awayAt !== null ? putAway : facts.visibility === 'private' ? 'private' : stageOf(facts, now),
    price: facts.price.kind === 'priced' ? facts.price.words : facts.price.kind === 'free' ? 'free' : '',
    left: facts.ticketed && facts.house.left !== null && facts.house.sold > 0 ? `${facts.house.left} left` : '',
    cue: cueWords(facts, now),
    standings: Object.fromEntries(
      channels.flatMap(({ id }) => {
        const most = pressing(listings.filter((listing) => listing.channel === id).map((listing) => listing.standing));
        return most === null ? [] : [[id, most]];
      }),
    ),
  };
}

/** The line-up, without repeating a title that is the headliner's name. */
function lineUpBeyond(title: string, lineUp: string): string {
  return lineUp === title ? '' : lineUp.startsWith(`${title} with `) ? lineUp.slice(title.length + 1) : lineUp;
}

/** What is due next of an event, in words. */
function cueWords({ announceAt, announceZone, price, performances, visibility }: Facts, now: number): string {
  if (visibility === 'private') return '';
  if (announceAt !== null && announceAt > now)
    return `announce ${momentWords(announceAt, announceZone).replace(/ \d{4},/, '')}`;
  if (price.kind === 'priced' && price.opens !== null && price.opens > now)
    return `on sale ${momentWords(price.opens, performances[0]?.zone ?? 'UTC').replace(/ \d{4},/, '')}`;
  return '';
}
