import type { Facts } from '@/core/facts/facts';
import type { KindRules } from '@/core/listing/channel-rules';
import type { ListedState, ShownValue } from '@/core/listing/shown';
import { registrationEnd } from '@/core/facts/tickets/registering';
import { countAt, flagAt, stateAt, textAt, utcAt, wordAt } from '@/core/listing/wire';
import {
  befellRow,
  momentRows,
  on,
  plainBodyRow,
  stateRow,
  text,
  textRow,
  titleRow,
  turnRow,
} from '../kit/common-rows';
import { sources } from '@/core/listing/sources';
import { operation } from '../kit/operations';
import { eventPage, kindRules } from '../kit/usual-rules';

/** The online room: who registers is let in; it gives the link to register by, and the one to join by. */
export const rules = (): KindRules =>
  kindRules({
    trade: 'online room',
    rows: [
      titleRow(80, textAt('topic')),
      plainBodyRow(2000, textAt('about')),
      {
        each: 'event',
        field: 'host',
        label: 'host',
        kind: 'text',
        limit: 120,
        from: (f) => text(f.organiser?.name ?? ''),
        ...textAt('host'),
      },
      {
        each: 'event',
        field: 'capacity',
        label: 'places',
        kind: 'count',
        from: ({ registration }) => (registration?.limit == null ? null : { kind: 'count', n: registration.limit }),
        ...countAt('places'),
      },
      ...registrationRows,
      ...answerRows,
      turnRow(textAt('note')),
      stateRow('open', stateFor, stateAt('door', { public: 'open', closed: 'shut', cancelled: 'cancelled' })),
      befellRow(wordAt('standing', { cancelled: 'dropped', postponed: 'to be set' }), ['cancelled']),
      ...momentRows({ doors: 'lobby_at', start: 'opens_at', end: 'shuts_at' }, (key) => utcAt(key, 'zone'), 'must'),
    ],
    lists: { performance: 'sessions', ref: 'tag' },
    mostPerformances: 20,
    delayMs: 60_000,
    page: eventPage(false),
    gives: ['join link', 'registration link'],
    states: ['public', 'closed', 'cancelled'],
    stateFor,
    operations: [
      operation('place', 'Makes the room and opens its registration.', {
        undo: { how: 'in part', stays: 'Who registered meanwhile stays on its list.' },
      }),
      operation('amend', 'Changes the room; a moved session is told in its reminders.'),
      operation('publish', 'Opens the registration again.'),
      operation('unpublish', 'Shuts the registration. Who is registered stays so, and is told nothing.'),
      operation('cancel', 'Cancels for good and writes to everybody registered, with your reason.', {
        needs: ['reason', 'code'],
        undo: { how: 'never' },
        tells: 'subscribers',
      }),
    ],
    locks: [{ fields: ['start', 'end'], when: { hoursBefore: 0 }, lets: 'only away' }],
    accepts: (facts) => facts.online !== null,
    off: ['Its own notes to people who registered and did not come.'],
    oursOnly: ['The join link: it goes to those who hold a place, and stands in nothing public.'],
    unties: ['Everybody who is registered keeps the join link; new ones cannot register.'],
    habits: [
      'Is for events that take place online too, and for nothing else.',
      'Topic up to 80 characters, plain text up to 2000; no picture.',
      'Gives the link to register by, counted by where people came from, and the link to join by, which only those see who hold a place.',
      'Takes registrations until the moment that is named, else until it begins; where each needs a yes, whoever asks is told so.',
      'Writes to each who asked in the words that are given for a yes, a no and the waiting list.',
      'Reminds everybody registered 24 hours and one hour before.',
      'Cancelling is for ever, and writes to everybody registered.',
    ],
  });

/** How one registers: until when, whether each needs a yes, and what happens when it is full. */
const registrationRows: KindRules['rows'] = [
  {
    each: 'event',
    field: 'registration-closes',
    label: 'registration closes',
    kind: 'instant',
    from: registrationCloses,
    ...utcAt('closes_at', 'closes_zone'),
  },
  {
    each: 'event',
    field: 'approval',
    label: 'each registration needs a yes',
    kind: 'flag',
    from: (f) => (f.registration?.approval === true ? on : null),
    ...flagAt('asks_first', true, false),
  },
  {
    each: 'event',
    field: 'waiting-list',
    label: 'a waiting list when it is full',
    kind: 'flag',
    from: (f) => (f.registration?.waitingList === true ? on : null),
    ...flagAt('keeps_waiting', true, false),
  },
];

/** What it writes to those who asked for a place. */
const answerRows = (
  [
    ['answer-yes', 'written to who has a place', 'yes', sources.answerYes],
    ['answer-no', 'written to who has none', 'no', sources.answerNo],
    ['answer-waiting', 'written to who waits', 'waiting', sources.answerWaiting],
  ] as const
).map(([field, label, key, source]) =>
  textRow(field, label, (f) => f.registration?.[key].trim() ?? '', textAt(`letter_${key}`), {
    limit: 2000,
    sources: [source],
  }),
);

/** The end of the last day on which one can register, there where the event is. */
function registrationCloses({ registration, performances }: Facts): ShownValue | null {
  const zone = performances[0]?.zone ?? 'UTC';
  const at = registration === null ? null : registrationEnd(registration, zone);
  return at === null ? null : { kind: 'instant', at, zone };
}

function stateFor({ performances }: Facts): ListedState {
  return performances.length > 0 && performances.every((performance) => performance.turn === 'cancelled')
    ? 'cancelled'
    : 'public';
}
