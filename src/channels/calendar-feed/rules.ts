import { z } from 'zod';
import type { Facts } from '@/core/facts/facts';
import { holdsOf } from '@/core/listing/part-of-house';
import type { KindRules } from '@/core/listing/channel-rules';
import { textAt, urlAt } from '@/core/listing/wire';
import { linkRow, placeOrOnline, placeRow, plainBodyRow, textRow, titleRow } from '../kit/common-rows';
import { putOffRow, standingRows, stateInFeed } from '../kit/feed-rows';
import { operation } from '../kit/operations';
import { kindRules } from '../kit/usual-rules';

export const settingsSchema = z.object({ holds: z.string().max(240).default('house') });

const typeOf = ({ eventType }: Facts) => eventType;

/** A calendar at an address of ours (RFC 5545): whoever knows that subscribes to it. */
export const rules = (settings: Record<string, unknown>): KindRules => {
  const { holds } = settingsSchema.parse(settings);
  return kindRules({
    trade: 'subscribed calendar',
    rows: [
      putOffRow(titleRow(200, textAt('summary'))),
      plainBodyRow(4_000, textAt('description')),
      placeRow(placeOrOnline, textAt('location'), 250),
      textRow('category', 'kind of event', typeOf, textAt('categories'), { limit: 40 }),
      linkRow('address', urlAt('url')),
      ...standingRows(),
    ],
    lists: { performance: 'dates', ref: 'tag' },
    mostPerformances: 2_000,
    delayMs: 60_000,
    observe: 'api',
    answers: 'pulled',
    states: ['public', 'closed', 'cancelled'],
    stateFor: stateInFeed,
    operations: [
      operation('place', 'Puts it into the calendar.', { requests: 1 }),
      operation('amend', 'Changes it in the calendar, with its number raised: every program takes that over.', {
        requests: 1,
      }),
      operation('publish', 'Puts it into the calendar again.', { requests: 1 }),
      operation('unpublish', 'Takes it out of the calendar.', { requests: 1 }),
      operation('cancel', 'Marks it cancelled in the calendar.', { requests: 1 }),
    ],
    accepts: holdsOf(holds),
    off: ['Alarms: a subscriber sets their own.'],
    oursOnly: ['The number by which a program sees that an entry changed.'],
    unties: ['Its address: nobody can read it any more.'],
    lateCauses: ['The program of whoever subscribed comes for it in its own time: within an hour, or once a day.'],
    habits: [
      'A calendar at an address of ours: whoever has the address subscribes to it with any calendar program.',
      'Each date is an entry with an id that stays; a change raises its number, what is cancelled says so.',
      'Dates that were over more than 90 days ago are left out, and cancelled ones 30 days after that.',
      'What must not be seen any more is out of it at once, whoever comes for it.',
    ],
  });
};
