import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { facts } from '@/core/facts/facts';
import { noEarlier, type Mention } from '@/core/words/mention';
import { earlierFrom, findMentions } from '@/core/words/mentions';
import { proseOf } from '@/core/words/prose';
import type { House } from '@/house/house';
import { recordAt } from '@/store/records';
import { surveyAll, surveyContext, type SurveyedRecord } from '@/house/survey';

/** A typed fact in an event's words that is wrong, or was right once. */
export interface WrongWord {
  record: string;
  code: string;
  title: string;
  where: string;
  mention: Mention;
}

const kept = new Map<string, { mark: string; found: WrongWord[] }>();

/**
 * Facts typed into the words of events to come that contradict the record or are stale; each event is looked at once a
 * revision.
 */
export function wrongWords(house: House, doer: Doer): WrongWord[] {
  asks(doer, 'wrongWords');
  const now = house.clock.now();
  const context = surveyContext(house, []);
  return surveyAll(house).flatMap((record) => {
    if (record.record.awayAt !== null || record.survey.facts.performances.every((p) => p.over < now)) return [];
    const mark = `${record.record.revision} ${context.house} ${Math.floor(now / 3_600_000)}`;
    const known = kept.get(record.record.id);
    if (known?.mark === mark) return known.found;
    const found = lookAt(house, record, now, context);
    kept.set(record.record.id, { mark, found });
    return found;
  });
}

function lookAt(
  house: House,
  { record, survey }: SurveyedRecord,
  now: number,
  { venues, organisers, artists, aboutUs }: ReturnType<typeof surveyContext>,
): WrongWord[] {
  const texts = proseOf(record.content);
  if (texts.length === 0) return [];
  const before = Array.from(
    { length: Math.min(12, record.revision - 1) },
    (_, i) => recordAt(house.db, record.id, record.revision - 1 - i)?.content,
  ).filter((content) => content !== undefined);
  const earlier =
    before.length === 0
      ? noEarlier
      : earlierFrom(before.map((content) => facts(content, { code: '', venues, organisers, artists, aboutUs, now })));
  const venueIds = new Set(record.content.performances.map((performance) => performance.venueId));
  const rooms = [...venues.values()]
    .filter((venue) => venueIds.has(venue.id))
    .flatMap((venue) => venue.rooms.map((room) => room.name));
  return texts.flatMap(({ where, text }) =>
    findMentions(text, { facts: survey.facts, now, earlier, rooms })
      .filter((mention) => mention.verdict !== 'typed')
      .map((mention) => ({ record: record.id, code: record.code, title: record.content.title, where, mention })),
  );
}
