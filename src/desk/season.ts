import { stageOf } from '@/core/facts';
import { longDate } from '@/core/date-words';
import { toLocal } from '@/core/zones';
import type { Standing } from '@/core/standing';
import { channels } from '@/channels/registry';
import type { House } from '@/runner/house';
import { surveyAll, type SurveyedRecord } from './survey';

/** One line of the season. */
export interface SeasonRow {
  id: string;
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
  /** Standing by channel, in the registry's order; `null`: not wanted there. */
  standings: (Standing | null)[];
}

export interface Season {
  rows: SeasonRow[];
  channels: { id: string; name: string }[];
  now: number;
}

/** Every event, in the order of dates. */
export function season(house: House): Season {
  const now = house.clock.now();
  const rows = surveyAll(house).map((one) => seasonRow(one, now)).sort((a, b) => a.at - b.at || (a.code < b.code ? -1 : 1));
  return { rows, channels: channels.map(({ rules }) => ({ id: rules.id, name: rules.name })), now };
}

/** The most pressing standing of a channel's listings, in the order in which `standings` names them. */
const pressing: readonly Standing[] = ['refused', 'atodds', 'drifted', 'late', 'underway', 'due', 'unread', 'embargoed', 'unplaced', 'instep', 'withdrawn'];

function seasonRow({ record, survey }: SurveyedRecord, now: number): SeasonRow {
  const { facts, listings } = survey;
  const next = facts.performances.find((one) => (one.end ?? one.start) >= now);
  const shown = next ?? facts.performances[facts.performances.length - 1];
  const last = facts.performances[facts.performances.length - 1];
  const count = facts.performances.length;
  const more = count > 1 && last ? `${count} performances, to ${longDate(last.date).replace(/^\w+ /, '')}` : '';
  return {
    id: record.id,
    code: record.code,
    date: shown?.date ?? '',
    time: shown ? toLocal(shown.start, shown.zone).time : '',
    at: shown?.start ?? 0,
    past: next === undefined,
    title: facts.title,
    under: [facts.subtitle, lineUpBeyond(facts.title, facts.lineUp), more].filter((part) => part !== '').join(' · '),
    room: shown?.place ? (shown.place.room ?? shown.place.venue) : '',
    town: shown?.place?.town ?? '',
    stage: facts.visibility === 'private' ? 'private' : stageOf(facts, now),
    price: facts.price.kind === 'priced' ? facts.price.words : facts.price.kind === 'free' ? 'free' : '',
    standings: channels.map(({ rules }) => {
      const mine = listings.filter((one) => one.channel === rules.id).map((one) => one.standing);
      return pressing.find((standing) => mine.includes(standing)) ?? null;
    }),
  };
}

/** The line-up, without repeating a title that is the headliner's name. */
function lineUpBeyond(title: string, lineUp: string): string {
  return lineUp === title ? '' : lineUp.startsWith(`${title} with `) ? lineUp.slice(title.length + 1) : lineUp;
}
