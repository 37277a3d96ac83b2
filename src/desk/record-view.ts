import type { KnownListing } from '@/channels/survey';
import type { RecordContent } from '@/core/record';
import type { Venue } from '@/core/directory';
import { newRecord } from '@/core/new-record';
import { addDays, toLocal } from '@/core/zones';
import { freshId } from '@/store/ids';
import { recordAt, revisionLog } from '@/store/records';
import type { House } from '@/runner/house';
import { errandMarks, known, surveyGround } from './survey';

/** All that the record's screen needs; the survey itself is made in the browser, as one types. */
export interface RecordView {
  id: string;
  code: string;
  revision: number;
  content: RecordContent;
  log: { number: number; actor: string; at: number; reason: string }[];
  venues: Venue[];
  listings: KnownListing[];
  errands: [string, 'open' | 'refused'][];
  connected: string[];
  now: number;
}

/** A record for its screen. `null` where there is none. */
export function recordView(house: House, id: string): RecordView | null {
  const record = recordAt(house.db, id);
  if (!record) return null;
  const ground = surveyGround(house, id);
  return {
    id: record.id,
    code: record.code,
    revision: record.revision,
    content: record.content,
    log: revisionLog(house.db, id),
    venues: [...ground.venues.values()],
    listings: (ground.listings.get(id) ?? []).map(known),
    errands: [...errandMarks(ground.errands.get(id) ?? [])],
    connected: [...ground.connected],
    now: ground.now,
  };
}

/** How long before the event a new record is usually begun, in days. */
const usualLead = 28;

/** What the screen of a new record needs: as for one that is there, with nothing saved and nothing outside. */
export function emptyView(house: House, zone: string): RecordView {
  const { venues, connected, now } = surveyGround(house, '');
  const content = newRecord(addDays(toLocal(now, zone).date, usualLead), zone, () => freshId('p'));
  return { id: '', code: '', revision: 0, content, log: [], venues: [...venues.values()], listings: [], errands: [], connected: [...connected], now };
}
