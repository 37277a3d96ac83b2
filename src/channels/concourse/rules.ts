import { z } from 'zod';
import type { Facts } from '@/core/facts/facts';
import type { KindRules } from '@/core/listing/channel-rules';
import type { ListedState } from '@/core/listing/shown';
import { flagAt, pictureAt, stateAt, textAt, urlAt, zonedAt, wordAt } from '@/core/listing/wire';
import {
  befellRow,
  fullPlace,
  linkRow,
  momentRows,
  on,
  pictureRow,
  placeRow,
  plainBodyRow,
  publisherRow,
  stateRow,
  text,
  titleRow,
} from '../kit/common-rows';
import { operation } from '../kit/operations';
import { eventPage, kindRules } from '../kit/usual-rules';

/** Which kinds of event have business there; none named: all of them. */
export const settingsSchema = z.object({ kinds: z.string().trim().max(300).default('') });

/** The professional network: events of an organisation. */
export const rules = (settings: Record<string, unknown>): KindRules => {
  const { kinds } = settingsSchema.catch({ kinds: '' }).parse(settings);
  const wanted = kinds
    .split(',')
    .map((text) => text.trim().toLowerCase())
    .filter((candidate) => candidate !== '');
  return kindRules({
    trade: 'professional network',
    rows: [
      titleRow(82, textAt('subject')),
      plainBodyRow(4200, textAt('details')),
      placeRow(
        (f) => fullPlace(f.performances[0]) ?? (f.online === null ? text(f.follow.place) : text('Online')),
        textAt('venue'),
      ),
      linkRow('outside address', urlAt('outside_link')),
      pictureRow('banner', 'should', pictureAt('banner')),
      publisherRow('organisation', textAt('posted_as')),
      {
        each: 'event',
        field: 'asks-registration',
        label: 'asks for registration',
        kind: 'flag',
        from: (f) => (f.mode === 'registration' ? on : null),
        ...flagAt('asks_registration', true, false),
      },
      stateRow('shown', stateFor, stateAt('stage', { public: 'live', closed: 'withheld', cancelled: 'called off' })),
      befellRow(wordAt('standing', { cancelled: 'called off', postponed: 'undated' }), ['cancelled']),
      ...momentRows({ doors: 'doors', start: 'begins', end: 'ends' }, zonedAt, 'must'),
    ],
    lists: { performance: 'slots', ref: 'tag' },
    softBreak: 'blank',
    picture: { ratio: [2, 1], minWidth: 1280 },
    delayMs: 5 * 60_000,
    page: eventPage(true),
    gives: ['public address'],
    states: ['public', 'closed', 'cancelled'],
    stateFor,
    operations: [
      operation('place', 'Puts the event on the organisation’s page.', {
        requests: 2,
        effects: [tells('a new event')],
      }),
      operation('amend', 'Changes it.', { effects: [tells('what changed')] }),
      operation('publish', 'Shows it again.'),
      operation('unpublish', 'Takes it from sight. Who said that they come is told nothing.'),
      operation('cancel', 'Calls it off and tells everybody who said that they come.', {
        needs: ['reason'],
        undo: { how: 'never' },
        tells: 'followers',
      }),
    ],
    locks: [{ fields: ['start'], when: { hoursBefore: 0 }, lets: 'only away' }],
    accepts: (facts) => wanted.length === 0 || wanted.includes(facts.eventType),
    off: [
      'Asking people to come: each of the organisation’s people may there, 250 in any ten days. We ask nobody.',
      'Telling the organisation’s followers of a new event, and of a changed one.',
    ],
    oursOnly: ['Whether registration is asked for: only the organisation may.'],
    unties: ['Invitations that went out stay with those who have them.'],
    habits: [
      'Title up to 82 characters, plain text up to 4200; a soft break becomes a blank.',
      'Banner 2:1, at least 1280 px wide.',
      'One date an event: a run becomes several.',
      'Accepts a person’s key too, and then posts as that person, who may not ask for registration: we check who it says posted.',
      'A start cannot be moved once it has begun.',
    ],
  });
};

const tells = (what: string) => ({ id: 'tell', does: `tells the organisation’s followers of ${what}` });

function stateFor({ performances }: Facts): ListedState {
  return performances.length > 0 && performances.every((performance) => performance.turn === 'cancelled')
    ? 'cancelled'
    : 'public';
}
