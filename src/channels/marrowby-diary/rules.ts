import { z } from 'zod';
import { sameZone } from '@/core/base/zones';
import type { KindRules } from '@/core/listing/channel-rules';
import { textAt, urlAt } from '@/core/listing/wire';
import { fullPlace, linkRow, placeRow, plainBodyRow, titleRow } from '../kit/common-rows';
import { categoriesOf, categoryRow, categorySetting, type CategoryMap } from '../kit/categories';
import { putOffRow, standingRows, stateInFeed } from '../kit/feed-rows';
import { operation } from '../kit/operations';
import { eventPage, kindRules } from '../kit/usual-rules';

export const settingsSchema = z.object(categorySetting);

const hourMs = 3_600_000;
/** The town that it is the calendar of, and the clock it goes by. */
const town = 'marrowby';
const zone = 'Europe/Dublin';
const theirs = ['Music', 'Stage', 'Film', 'Talks', 'Families', 'Making', 'Nightlife'];
const proposed: CategoryMap = {
  concert: 'Music',
  theatre: 'Stage',
  film: 'Film',
  talk: 'Talks',
  reading: 'Talks',
  workshop: 'Making',
  family: 'Families',
  'club night': 'Nightlife',
};

/** The town calendar: it reads our feed every six hours, and a person there looks at what is new. */
export const rules = (settings: Record<string, unknown>): KindRules => {
  const categories = categoriesOf(settings, theirs, proposed);
  return kindRules({
    trade: 'town calendar',
    rows: [
      putOffRow(titleRow(100, textAt('summary'))),
      plainBodyRow(350, textAt('description')),
      placeRow((f) => fullPlace(f.performances[0]), textAt('location'), 200),
      categoryRow(categories, 'must', textAt('categories')),
      linkRow('address', urlAt('url')),
      ...standingRows(),
    ],
    lists: { performance: 'dates', ref: 'tag' },
    softBreak: 'blank',
    mostPerformances: 500,
    delayMs: 30 * hourMs,
    shows: {
      when: 'next visit',
      hours: [0, 6, 12, 18],
      zone,
      looksAt: ['start', 'place'],
      looksMs: 22 * hourMs,
      looksWithinMs: 24 * hourMs,
    },
    answers: 'pulled',
    page: eventPage(true),
    states: ['public', 'closed', 'cancelled'],
    stateFor: stateInFeed,
    operations: [
      operation('place', 'Puts it into the feed that the calendar reads.', { requests: 1 }),
      operation('amend', 'Changes it in the feed.', { requests: 1 }),
      operation('publish', 'Puts it into the feed again.', { requests: 1 }),
      operation('unpublish', 'Takes it out of the feed: it is gone with the next visit.', { requests: 1 }),
      operation('cancel', 'Marks it cancelled in the feed.', { requests: 1 }),
    ],
    categories,
    accepts: ({ performances }) =>
      performances.every((performance) => sameZone(performance.zone, zone)) &&
      performances.some((performance) => performance.place?.town.trim().toLowerCase() === town),
    off: ['Its newsletter: its editor chooses.'],
    oursOnly: ['The number by which it sees that an entry changed.'],
    unties: ['The feed’s address: nobody can read it any more.'],
    lateCauses: ['A person there has not looked at it yet.', 'Its category is not one of theirs.'],
    habits: [
      'Lists what takes place in Marrowby, and nothing else.',
      'Reads our feed at 0, 6, 12 and 18 o’clock; a person looks at new entries within a day, and may turn one down with a word.',
      'All its times are those of Dublin. Text up to 350 characters, plain: it cuts off what is longer; a soft break becomes a blank.',
      'A closed list of categories.',
      'A new date or place is looked at again; the rest shows with the next visit.',
    ],
  });
};
