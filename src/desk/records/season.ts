import type { RecordId } from '@/core/base/ids';
import { stageOf, type Facts } from '@/core/facts/facts';
import { nextOf } from '@/core/facts/performance-facts';
import { longDate, momentWords } from '@/core/dates/date-words';
import { toLocal } from '@/core/base/zones';
import type { Precision } from '@/core/record/record';
import type { Standing } from '@/core/listing/standing';
import { channelsOf, type House } from '@/house/house';
import { pressing } from './pressing';
import { surveyAll, type SurveyedRecord } from '@/house/survey';

/** One line of the season. */
export interface SeasonRow {
  id: RecordId;
  code: string;
  /** Calendar date that the row stands under: the next performance, or the last one when all are over. */
  date: string;
  time: string;
  /** Instant of that performance, for the order. */
  at: number;
  past: boolean;
  title: string;
  under: string;
  room: string;
  town: string;
  stage: string;
  price: string;
  /** Seats left for that performance, where they are known and sold. */
  left: string;
  /** What is due next: announce or on-sale, in words. */
  cue: string;
  /** How much of the date is known. */
  precision: Precision;
  tour: string | null;
  /** Standing by channel, in their order; `null`: not wanted there. */
  standings: (Standing | null)[];
}

export interface Season {
  rows: SeasonRow[];
  channels: { id: string; name: string; heading: string; group: string }[];
  now: number;
}

/** Every event, in the order of dates. */
export function season(house: House): Season {
  const now = house.clock.now();
  const rows = surveyAll(house)
    .map((one) => seasonRow(one, now))
    .sort((a, b) => a.at - b.at || (a.code < b.code ? -1 : 1));
  return {
    rows,
    channels: channelsOf(house, house.db).map(({ kind, rules: { id, name, shortName } }) => ({
      id,
      group: kind.group,
      name,
      heading: shortName,
    })),
    now,
  };
}

function seasonRow({ record, survey, channels }: SurveyedRecord, now: number): SeasonRow {
  const { facts, listings } = survey;
  const shown = nextOf(facts.performances, now);
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
    date: shown && shown.precision !== 'open' ? shown.date : '',
    time: shown?.start ? toLocal(shown.start, shown.zone).time : '',
    at: shown?.precision === 'open' ? Infinity : (shown?.at ?? 0),
    past: shown === undefined || shown.over < now,
    precision: shown?.precision ?? 'open',
    tour: record.content.tourId,
    title: facts.title,
    under: [
      shown && shown.precision !== 'exact' ? shown.dateNote : '',
      facts.subtitle,
      lineUpBeyond(facts.title, facts.lineUp),
      more,
    ]
      .filter((part) => part !== '')
      .join(' · '),
    room: shown?.place ? (shown.place.room ?? shown.place.venue) : '',
    town: shown?.place?.town ?? '',
    stage: facts.visibility === 'private' ? 'private' : stageOf(facts, now),
    price: facts.price.kind === 'priced' ? facts.price.words : facts.price.kind === 'free' ? 'free' : '',
    left: facts.ticketed && facts.house.left !== null && facts.house.sold > 0 ? `${facts.house.left} left` : '',
    cue: cueWords(facts, now),
    standings: channels.map(({ id }) =>
      pressing(listings.filter((one) => one.channel === id).map((one) => one.standing)),
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
