import { asks, reachesRecord } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { unsavedRecord, type RecordId } from '@/core/base/ids';
import { facts } from '@/core/facts/facts';
import type { RecordContent } from '@/core/record/record';
import { newRecord } from '@/core/record/new-record';
import { noEarlier, type Earlier } from '@/core/words/mention';
import { earlierFrom } from '@/core/words/mentions';
import { addDays, toLocal } from '@/core/base/zones';
import { freshId } from '@/store/ids';
import { allWordings } from '@/store/people';
import { recordAt, revisionLog } from '@/store/records';
import { saleHistory, sourcesOf } from '@/store/sales';
import { dispatchesOf } from '@/store/errands';
import { doingsOf } from '@/store/persons';
import { allTours } from '@/store/tours';
import type { House } from '@/house/house';
import type { RecordView } from '@/views/record';
import { clashesOf } from './bookings';
import { withHouseOwn } from '@/core/record/house-own';
import { houseOwn } from '@/house/house-own';
import { endingsOf } from './endings';
import { houseWords } from './house-words';
import { errandMarks, known, refusalsOf, surveyContext, type SurveyContext } from '@/house/survey';

/** What an event is called; `null`: there is none of this id. */
export function recordTitle(house: House, doer: Doer, id: RecordId): string | null {
  asks(doer, 'recordTitle');
  const record = recordAt(house.db, id);
  return record && reachesRecord(doer, record) ? record.content.title : null;
}

/** A record for its screen. `null` where there is none. */
export function recordView(house: House, doer: Doer, id: RecordId): RecordView | null {
  asks(doer, 'recordView');
  const record = recordAt(house.db, id);
  if (!record || !reachesRecord(doer, record)) return null;
  const context = surveyContext(house, [id]);
  const all = common(house, context, record.content.tourId);
  return {
    ...(doer.only === null ? all : itsOwn(all, record.content)),
    id: record.id,
    code: record.code,
    revision: record.revision,
    content: record.content,
    log: revisionLog(house.db, id),
    deeds: deedsOf(house, id),
    listings: (context.listings.get(id) ?? []).map((listing) =>
      known(listing, context.sales.get(id) ?? [], context.gifts.get(listing.id) ?? []),
    ),
    errands: [...errandMarks(context.errands.get(id) ?? [])],
    refusals: [...refusalsOf(context.errands.get(id) ?? [])],
    sales: saleHistory(house.db, id).map(({ performanceId, levelId, outlet, sold, at }) => ({
      performanceId,
      levelId,
      outlet,
      sold,
      at,
    })),
    sources: sourcesOf(house.db, id),
    earlier: earlierOf(house, id, record.revision, record.content.performances.length, context),
    // What it clashes with is not for whoever is let in for this event alone.
    clashes: doer.only === null ? clashesOf(house, id) : [],
    ticks: context.ticks.get(id) ?? [],
    left: context.left.get(id) ?? [],
    endings: endingsOf(house, id),
    // What was put away is proofed nowhere.
    ...(record.awayAt === null ? {} : { channels: [], listings: [], errands: [], refusals: [] }),
  };
}

/**
 * Of the directory what one event uses: whoever is let in for it alone is told of no other place and person, and of no
 * other tour.
 */
function itsOwn(all: ReturnType<typeof common>, content: RecordContent): ReturnType<typeof common> {
  const venues = new Set(content.performances.map(({ venueId }) => venueId));
  const artists = new Set(content.lineUp.map(({ artistId }) => artistId));
  return {
    ...all,
    venues: all.venues.filter(({ id }) => venues.has(id)),
    artists: all.artists.filter(({ id }) => artists.has(id)),
    organisers: all.organisers.filter(({ id }) => id === content.organiserId),
    tours: all.tours.filter(({ id }) => id === content.tourId),
    wordings: [],
  };
}

/** How many deeds of a record are told. */
const mostDeeds = 60;

/** What was done with a record that is no revision: dispatches with how much of it went, and what the book says. */
function deedsOf(house: House, id: RecordId): RecordView['deeds'] {
  const sent = dispatchesOf(house.db, id, mostDeeds).map(({ at, actor, errands }) => ({
    ...{ at, doer: actor },
    words: `sent ${errands} ${errands === 1 ? 'errand' : 'errands'}`,
  }));
  const done = doingsOf(house.db, mostDeeds, id).map(({ at, doer, words }) => ({ at, doer, words }));
  return [...sent, ...done].sort((a, b) => b.at - a.at).slice(0, mostDeeds);
}

function common(
  house: House,
  { venues, organisers, artists, aboutUs, channels, pictureEnds, now, monotonic }: SurveyContext,
  tourId: string | null,
) {
  const tours = allTours(house.db);
  return {
    venues: [...venues.values()],
    artists: [...artists.values()],
    organisers: [...organisers.values()],
    aboutUs,
    wordings: [...allWordings(house.db).values()],
    channels,
    now,
    monotonic,
    house: houseWords(house),
    pictureEnds: [...pictureEnds],
    took: [],
    tours: tours.map(({ id, name }) => ({ id, name })),
    tourShared: tours.find((tour) => tour.id === tourId)?.shared ?? null,
  };
}

/** What the revisions before this one said: of long runs fewer, for what they said is the same over and over. */
function earlierOf(
  house: House,
  id: RecordId,
  revision: number,
  performances: number,
  { venues, organisers, artists, aboutUs, now }: SurveyContext,
): Earlier {
  const most = performances > 100 ? 3 : 25;
  const contents = Array.from(
    { length: Math.min(most, revision - 1) },
    (_, i) => recordAt(house.db, id, revision - 1 - i)?.content,
  ).filter((content) => content !== undefined);
  return contents.length === 0
    ? noEarlier
    : earlierFrom(contents.map((content) => facts(content, { code: '', venues, organisers, artists, aboutUs, now })));
}

/** How long before the event a new record is usually begun, in days. */
const usualLead = 28;

/** What the screen of a new record needs: as for one that is there, with nothing saved and nothing outside. */
export function emptyView(house: House, doer: Doer, zone: string): RecordView {
  asks(doer, 'emptyView');
  const context = surveyContext(house, []);
  const bare = newRecord(addDays(toLocal(context.now, zone).date, usualLead), zone, () => freshId('p'));
  const { content, took } = withHouseOwn(bare, houseOwn.of(house.db), context);
  return {
    ...common(house, context, null),
    took,
    id: unsavedRecord,
    code: '',
    revision: 0,
    content,
    log: [],
    deeds: [],
    listings: [],
    errands: [],
    refusals: [],
    sales: [],
    sources: [],
    earlier: noEarlier,
    clashes: [],
    ticks: [],
    left: [],
    endings: null,
  };
}
