import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { RecordId } from '@/core/base/ids';
import { knownDay, nextOf } from '@/core/facts/performance-facts';
import { sharedFacts, sharedOf, ownFacts, tourRoute, type TourShared } from '@/core/record/tour';
import { toLocal } from '@/core/base/zones';
import { channelsOf, type House } from '@/house/house';
import { allOrganisers } from '@/store/people';
import { recordAt } from '@/store/records';
import { allTours, tourById, type TourAt } from '@/store/tours';
import { pressing } from '@/core/listing/pressing';
import { surveyAll, type SurveyedRecord } from '@/house/survey';
import type { TourStop } from '@/views/tours';

export interface TourView {
  tour: TourAt;
  stops: TourStop[];
  channels: { id: string; name: string }[];
  now: number;
}

/** A tour with its dates in order, the way between them and how each stands. `null`: there is no such tour. */
/** What a tour is called; `null`: there is none of this id. */
export function tourName(house: House, doer: Doer, id: string): string | null {
  asks(doer, 'tourName');
  return tourById(house.db, id)?.name ?? null;
}

export function tourView(house: House, doer: Doer, id: string): TourView | null {
  asks(doer, 'tourView');
  const tour = tourById(house.db, id);
  if (!tour) return null;
  const now = house.clock.now();
  const organisers = allOrganisers(house.db);
  const stops = surveyAll(house)
    .filter((record) => record.record.content.tourId === id)
    .map((record) => {
      const shown = nextOf(record.survey.facts.performances, now);
      return {
        one: record,
        shown,
        from: shown ? Math.min(shown.doors ?? shown.at, shown.at) : Infinity,
        until: shown && shown.over !== Infinity ? shown.over : (shown?.at ?? Infinity),
        date: shown?.date ?? '',
        point: shown?.place?.point ?? null,
      };
    });
  return {
    tour,
    now,
    channels: channelsOf(house, house.db).map(({ rules: { id, name } }) => ({ id, name })),
    stops: tourRoute(stops).map(({ stop, ...way }) => ({
      ...rowOf(stop.one, stop.shown, tour.shared, organisers),
      ...way,
      point: stop.point,
    })),
  };
}

function rowOf(
  { record, survey, channels }: SurveyedRecord,
  shown: ReturnType<typeof nextOf>,
  shared: TourShared,
  organisers: ReturnType<typeof allOrganisers>,
): Omit<TourStop, 'km' | 'restDays' | 'gapHours' | 'neededHours' | 'point'> {
  const { facts, listings } = survey;
  return {
    id: record.id,
    code: record.code,
    date: knownDay(shown),
    dateNote: shown?.dateNote ?? '',
    zone: shown?.zone ?? 'UTC',
    time: knownDay(shown) !== '' && shown?.start ? toLocal(shown.start, shown.zone).time : '',
    venue: shown?.place?.venue ?? '',
    town: shown?.place?.town ?? '',
    country: shown?.place?.country ?? '',
    promoter: organisers.get(record.content.organiserId ?? '')?.name ?? '',
    link: facts.link.kind === 'known' ? facts.link.href : '',
    price: facts.price.kind === 'priced' ? facts.price.words : '',
    stage: facts.visibility === 'private' ? 'private' : '',
    own: ownFacts(record.content, shared).map((key) => sharedFacts[key]?.name ?? key),
    standings: channels.map((row) =>
      pressing(listings.filter((listing) => listing.channel === row.id).map((listing) => listing.standing)),
    ),
  };
}

/** Every tour with how many dates it has, and the first and last of them. */
export function tourList(
  house: House,
  doer: Doer,
): { id: string; name: string; dates: number; first: string; last: string }[] {
  asks(doer, 'tourList');
  const now = house.clock.now();
  const byTour = new Map<string, string[]>();
  for (const { record, survey } of surveyAll(house)) {
    const { tourId } = record.content;
    const shown = nextOf(survey.facts.performances, now);
    if (tourId !== null && shown) byTour.set(tourId, [...(byTour.get(tourId) ?? []), knownDay(shown)]);
  }
  return allTours(house.db).map(({ id, name }) => {
    const dates = byTour.get(id) ?? [];
    const known = dates.filter((day) => day !== '').sort();
    return { id, name, dates: dates.length, first: known[0] ?? '', last: known[known.length - 1] ?? '' };
  });
}

/** What a record says of the facts that a tour shares. `null`: there is no such record. */
export function sharedOfDate(house: House, doer: Doer, recordId: RecordId): TourShared | null {
  asks(doer, 'sharedOfDate');
  const record = recordAt(house.db, recordId);
  return record && sharedOf(record.content);
}
