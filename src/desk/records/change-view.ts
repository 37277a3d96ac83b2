import type { Clash } from '@/core/clashes/clashes';
import type { ChangeGround } from '@/core/errands/change-ground';
import { consequences, type Consequences } from '@/core/errands/consequences';
import type { Foreseen } from '@/core/errands/foreseen';
import { findingWords } from '@/core/findings/finding-words';
import { knownDay, nextOf } from '@/core/facts/performance-facts';
import type { RecordId } from '@/core/base/ids';
import { plainChange } from '@/core/listing/rich-words';
import type { Doer } from '@/core/people/doer';
import type { Venue } from '@/core/record/directory';
import { checkRecord } from '@/core/record/check-record';
import { changedFacts, draftedReason } from '@/core/words/change-words';
import { nameOf, type Channel } from '@/channels/channels';
import { foreseeingGround, mirrorSources } from '@/house/foreseeing';
import { channelsOf, type House } from '@/house/house';
import { surveyById, surveyContext, surveyOn, type SurveyedRecord } from '@/house/survey';
import { seenBefore } from '@/store/errands';
import { exportedAt, recordAt } from '@/store/records';
import type { ChangeAnswer, ChangeView, PlainForeseen } from '@/views/change';
import { bookingWords, clashKey, doubleBookings } from '../dispatch/make-dispatch';
import { toAcknowledge, warningKey, warningsOf } from '@/core/errands/warnings';
import { asks, asksReach } from '../people/rights-of-verbs';
import { clashesIf, clashesOf } from './bookings';
import { asSaved, cleaned } from './save-record';

/**
 * What a change of a record does, before it is saved: the same line is walked as after a save, on what would be saved.
 * Nothing is written.
 */
export function changeView(house: House, doer: Doer, id: RecordId, content: unknown): ChangeAnswer {
  asks(doer, 'changeView');
  const { db } = house;
  const newest = recordAt(db, id);
  const before = surveyById(house, id);
  if (!newest || !before || newest.awayAt !== null)
    return { kind: 'stopped', messages: ['This record is not there any more, or was put away.'] };
  asksReach(doer, newest);
  const context = surveyContext(house, [id]);
  const checked = checkRecord(content, context.venues);
  if (!checked.ok) return { kind: 'stopped', messages: checked.error.map(findingWords) };
  const { settled } = asSaved(db, newest, cleaned(checked.value));
  const after = surveyOn({ ...newest, content: settled }, context, before.mark, house.kinds);
  return { kind: 'view', view: viewOf(house, doer, before, after) };
}

function viewOf(house: House, doer: Doer, before: SurveyedRecord, after: SurveyedRecord): ChangeView {
  const { record, survey } = after;
  const made = consequences({
    ...foreseeingGround(house, house.db),
    before: groundOf(before),
    after: groundOf(after),
    sources: mirrorSources(after.channels, house.kinds),
    rooms: roomsOf(after, surveyContext(house, []).venues),
    handedOn: exportedAt(house.db, record.id),
  });
  const channels = channelsOf(house, house.db);
  const next = nextOf(survey.facts.performances, house.clock.now());
  // What it clashes with is not for whoever is let in for this event alone.
  const clashes = doer.only === null ? clashesIf(house, [after]) : [];
  const known = new Set(clashesOf(house, record.id).map(clashKey));
  const arising = clashes.filter((clash) => !known.has(clashKey(clash)) && clash.weight !== 'notes');
  return {
    recordId: record.id,
    code: record.code,
    title: record.content.title,
    revision: record.revision + 1,
    date: knownDay(next),
    zone: next?.zone ?? survey.facts.announceZone,
    now: house.clock.now(),
    facts: changedFacts(before.survey.facts, survey.facts),
    reason: draftedReason(before.survey.facts, survey.facts),
    ...plainly(made, channels),
    clashes: arising.map((clash) => bookingWords(clash, record.id)),
    unseen: unseenOf(house, after, made, clashes),
  };
}

/** Names of all rooms of a record's venues: typed in a text, they are places. */
export function roomsOf({ survey }: SurveyedRecord, venues: ReadonlyMap<string, Venue>): string[] {
  const here = new Set(survey.facts.performances.flatMap(({ place }) => (place ? [place.venueId] : [])));
  return [...here].flatMap((venue) => venues.get(venue)?.rooms.map(({ name }) => name) ?? []);
}

export function groundOf({ record, survey }: SurveyedRecord): ChangeGround {
  return { content: record.content, facts: survey.facts, listings: survey.listings };
}

/** The list for the eye: rich texts as words, findings as they are. */
function plainly(made: Consequences, channels: readonly Channel[]) {
  const plain = <F extends Foreseen>(item: F) =>
    ({ ...item, changes: item.changes.map(plainChange) }) as PlainForeseen & F;
  return {
    ...made,
    atOnce: made.atOnce.map(plain),
    later: made.later.map(plain),
    apart: made.apart.map(plain),
    locked: made.locked.map(({ listing, channel, sold, locked, ways, foreseen }) => ({
      ...{ listing, channel, sold, ways },
      locked: locked.map(plainChange),
      by: Object.fromEntries(Object.entries(foreseen).map(([way, item]) => [way, item.by])),
    })),
    held: made.held.map(({ listing, channel, reasons, waitsFor }) => ({
      ...{ listing, channel, reasons },
      waitsFor: waitsFor === null ? null : nameOf(channels, waitsFor),
    })),
    sentences: made.sentences.map(({ where, mention: { text, says, token } }) => ({ where, text, says, token })),
  };
}

/**
 * Warnings of what goes, or would if it is asked for, that nobody has said to have seen: each with its listing. `seen`:
 * what somebody has.
 */
export function warningsUnseen(
  seen: ReadonlySet<string>,
  after: SurveyedRecord,
  { atOnce, later, apart, said }: Pick<Consequences, 'atOnce' | 'later' | 'apart' | 'said'>,
): ChangeView['unseen'] {
  const edited = new Set<string>(said.flatMap(({ listing, mending }) => (mending === 'edit' ? [listing] : [])));
  const going = new Map([...atOnce, ...later, ...apart].map((item) => [item.listing, item.op]));
  return after.survey.listings.flatMap((listing) => {
    const op = going.get(listing.id) ?? (edited.has(listing.id) ? listing.steps.op : null);
    if (!op) return [];
    const open = new Set(toAcknowledge(listing, op, seen));
    return warningsOf(listing)
      .map((warning) => ({
        key: warningKey(listing, warning),
        channel: listing.channel,
        listing: listing.id,
        words: findingWords(warning),
      }))
      .filter(({ key }) => open.has(key));
  });
}

/** Warnings and double bookings that somebody has to say to have seen before it goes. */
function unseenOf(
  house: House,
  after: SurveyedRecord,
  made: Consequences,
  clashes: readonly Clash[],
): ChangeView['unseen'] {
  const seen = new Set(seenBefore(house.db));
  const warnings = warningsUnseen(seen, after, made);
  const twice = doubleBookings(clashes, after.record.id)
    .filter((clash) => !seen.has(clashKey(clash)))
    .map((clash) => ({
      key: clashKey(clash),
      channel: null,
      listing: null,
      words: bookingWords(clash, after.record.id),
    }));
  return [...warnings, ...twice];
}
