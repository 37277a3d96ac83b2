import { z } from 'zod';
import { playsAt } from '@/core/facts/plays-at';
import type { Facts } from '@/core/facts/facts';
import type { KindRules } from '@/core/listing/channel-rules';
import { localAt, stateAt, textAt, urlAt, wordAt } from '@/core/listing/wire';
import {
  befellRow,
  lineUpRow,
  linkRow,
  momentRows,
  placeRow,
  seenByAll,
  stateRow,
  streetRow,
  text,
  titleRow,
  turnRow,
} from '../kit/common-rows';
import { deleting, operation } from '../kit/operations';
import { eventPage, kindRules } from '../kit/usual-rules';

/** Whose dates they are. */
export const settingsSchema = z.object({ act: z.string().trim().max(160).default('') });

/** The register of tour dates: one artist's. */
export const rules = (settings: Record<string, unknown>): KindRules => {
  const { act } = settingsSchema.catch({ act: '' }).parse(settings);
  return kindRules({
    trade: 'register of tour dates',
    rows: [
      titleRow(90, textAt('heading')),
      lineUpRow(200, textAt('lineup')),
      placeRow((f) => text(f.performances[0]?.place?.venue ?? ''), textAt('venue_name'), 120),
      {
        each: 'event',
        field: 'town',
        label: 'town',
        kind: 'text',
        need: 'must',
        limit: 120,
        from: (f) =>
          text(
            [f.performances[0]?.place?.town, f.performances[0]?.place?.country]
              .filter((candidate) => candidate)
              .join(', '),
          ),
        ...textAt('town'),
      },
      streetRow(textAt('street')),
      linkRow('ticket link', urlAt('ticket_url')),
      {
        each: 'event',
        field: 'link-kind',
        label: 'sort of ticket link',
        kind: 'text',
        among: { words: ['general', 'presale'], most: 1 },
        from: (f) => (f.link.kind === 'none' ? null : text(sortOfSale(f))),
        ...textAt('ticket_kind'),
      },
      turnRow(textAt('note')),
      stateRow('shown', seenByAll, stateAt('status', { draft: 'draft', public: 'published', closed: 'hidden' })),
      befellRow(wordAt('standing', { cancelled: 'cancelled', postponed: 'postponed' }), ['cancelled']),
      ...momentRows({ doors: 'doors', start: 'starts', end: 'ends' }, (key) => localAt(key, 'zone'), 'must'),
    ],
    lists: { performance: 'dates', ref: 'tag' },
    delayMs: 60_000,
    page: eventPage(true),
    gives: ['remote id'],
    states: ['draft', 'public', 'closed'],
    operations: [
      operation('place', 'Enters the date and publishes it.', { effects: [tells('a new date')] }),
      operation('amend', 'Changes the date.', { effects: [tells('what changed')] }),
      operation('publish', 'Publishes it again.'),
      operation('unpublish', 'Hides it. What shows this register’s dates hides it when it next looks.'),
      deleting('Deletes the date. What shows this register’s dates lets go of it when it next looks.'),
    ],
    budget: { requests: 15, perMs: 1_000, burst: 5, atOnce: 2 },
    accepts: playsAt(act),
    off: ['Telling the artist’s followers of a new date, and of a changed one.'],
    oursOnly: ['The sort of ticket link: general or presale.'],
    unties: ['Pages that show this register’s dates lose them.'],
    habits: [
      'One date an entry; the line-up up to 200 characters; no picture.',
      'Takes the artist by a profile id. A wrong one is taken too, and goes nowhere: we ask whose it is when it is connected.',
      'One ticket link, and which sort it is.',
      'Other services show what stands here, in their own time.',
    ],
  });
};

const tells = (what: string) => ({ id: 'tell', does: `tells the artist’s followers of ${what}` });

/** Which sort of sale the link leads to now: the presale while that is all that is open. */
function sortOfSale({ levels, now }: Facts): 'general' | 'presale' {
  const open = levels.filter((level) => (level.opens ?? -Infinity) <= now && (level.closes ?? Infinity) > now);
  return open.length > 0 && open.every((level) => level.hidden) ? 'presale' : 'general';
}
