import { unsavedRecord, type RecordId } from '@/core/base/ids';
import type { KnownListing, LeftLock } from '@/channels/survey';
import type { ErrandMark } from '@/core/errands/surveyed';
import type { ChannelRow } from '@/core/listing/channel-row';
import type { Clash } from '@/core/clashes/clashes';
import type { Artist, Organiser, Venue, Wording } from '@/core/record/directory';
import { facts } from '@/core/facts/facts';
import { newRecord } from '@/core/record/new-record';
import type { RecordContent } from '@/core/record/record';
import type { Count } from '@/core/facts/sales';
import type { TourShared } from '@/core/record/tour';
import { noEarlier, type Earlier } from '@/core/words/mention';
import { earlierFrom } from '@/core/words/mentions';
import { addDays, toLocal } from '@/core/base/zones';
import { freshId } from '@/store/ids';
import { allArtists, allWordings } from '@/store/people';
import { recordAt, revisionLog } from '@/store/records';
import { saleHistory, sourcesOf, type SourceCount } from '@/store/sales';
import { slugsOf } from '@/store/slugs';
import { allTours } from '@/store/tours';
import type { House } from '@/house/house';
import type { SheetTick } from '@/core/listing/sale-sheet';
import { clashesOf } from './bookings';
import { houseWords, type HouseWords } from './house-words';
import { errandMarks, known, surveyGround, type SurveyGround } from '@/house/survey';

/** All that the record's screen needs; the survey itself is made in the browser, as one types. */
export interface RecordView {
  id: RecordId;
  code: string;
  revision: number;
  content: RecordContent;
  log: { number: number; actor: string; at: number; reason: string }[];
  venues: Venue[];
  artists: Artist[];
  organisers: Organiser[];
  wordings: Wording[];
  tours: { id: string; name: string }[];
  /** What the tour of this record shares. */
  tourShared: TourShared | null;
  listings: KnownListing[];
  errands: [string, ErrandMark][];
  channels: readonly ChannelRow[];
  /** How many were sold, as counted, oldest first. */
  sales: Count[];
  /** From where those came who bought or registered. */
  sources: SourceCount[];
  /** What earlier revisions said, for typed facts that were right once. */
  earlier: Earlier;
  clashes: Clash[];
  /** Ticked lines of the sheet before the sale opens. */
  ticks: SheetTick[];
  /** Locks that a person said are to stay as they are. */
  left: LeftLock[];
  /** What the house keeps to be used again. */
  house: HouseWords;
  /** Its addresses, the newest first. */
  slugs: string[];
  now: number;
  /** Now, by the clock that only goes forward. */
  steady: number;
}

/** A record for its screen. `null` where there is none. */
export function recordView(house: House, id: RecordId): RecordView | null {
  const record = recordAt(house.db, id);
  if (!record) return null;
  const ground = surveyGround(house, [id]);
  return {
    ...common(house, ground, record.content.tourId),
    id: record.id,
    code: record.code,
    revision: record.revision,
    content: record.content,
    log: revisionLog(house.db, id),
    listings: (ground.listings.get(id) ?? []).map((one) =>
      known(one, ground.sales.get(id) ?? [], ground.gifts.get(one.id) ?? []),
    ),
    errands: [...errandMarks(ground.errands.get(id) ?? [])],
    sales: saleHistory(house.db, id).map(({ performanceId, levelId, outlet, sold, at }) => ({
      performanceId,
      levelId,
      outlet,
      sold,
      at,
    })),
    sources: sourcesOf(house.db, id),
    earlier: earlierOf(house, id, record.revision, record.content.performances.length, ground),
    clashes: clashesOf(house, id),
    ticks: ground.ticks.get(id) ?? [],
    left: ground.left.get(id) ?? [],
    slugs: slugsOf(house.db, id),
  };
}

function common(house: House, { venues, organisers, channels, now, steady }: SurveyGround, tourId: string | null) {
  const tours = allTours(house.db);
  return {
    venues: [...venues.values()],
    artists: [...allArtists(house.db).values()],
    organisers: [...organisers.values()],
    wordings: [...allWordings(house.db).values()],
    channels,
    now,
    steady,
    house: houseWords(house),
    tours: tours.map(({ id, name }) => ({ id, name })),
    tourShared: tours.find((one) => one.id === tourId)?.shared ?? null,
  };
}

/** What the revisions before this one said: of long runs fewer, for what they said is the same over and over. */
function earlierOf(
  house: House,
  id: RecordId,
  revision: number,
  performances: number,
  { venues, organisers, now }: SurveyGround,
): Earlier {
  const most = performances > 100 ? 3 : 25;
  const contents = Array.from(
    { length: Math.min(most, revision - 1) },
    (_, i) => recordAt(house.db, id, revision - 1 - i)?.content,
  ).filter((one) => one !== undefined);
  return contents.length === 0
    ? noEarlier
    : earlierFrom(contents.map((content) => facts(content, { code: '', venues, organisers, now })));
}

/** How long before the event a new record is usually begun, in days. */
const usualLead = 28;

/** What the screen of a new record needs: as for one that is there, with nothing saved and nothing outside. */
export function emptyView(house: House, zone: string): RecordView {
  const ground = surveyGround(house, []);
  const content = newRecord(addDays(toLocal(ground.now, zone).date, usualLead), zone, () => freshId('p'));
  return {
    ...common(house, ground, null),
    id: unsavedRecord,
    code: '',
    revision: 0,
    content,
    log: [],
    listings: [],
    errands: [],
    sales: [],
    sources: [],
    earlier: noEarlier,
    clashes: [],
    ticks: [],
    left: [],
    slugs: [],
  };
}
