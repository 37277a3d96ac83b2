import { closed, lockWords, type LockContext, type LockRow } from './operations';

const hour = 3_600_000;
const now = 1_000 * hour;
const row = (when: LockRow['when']): LockRow => ({ fields: ['start'], when, lets: 'none' });
const context = (part: Partial<LockContext> = {}): LockContext => ({
  sold: 0,
  starts: new Map([
    ['p1', now + 5 * hour],
    ['p2', now + 50 * hour],
  ]),
  state: 'public',
  sentAt: null,
  now,
  ...part,
});

test.each<[string, LockRow['when'], Partial<LockContext>, string | null, boolean]>([
  ['nothing sold', { after: 'first sale' }, {}, null, false],
  ['one sold', { after: 'first sale' }, { sold: 1 }, null, true],
  ['in that state', { state: 'public' }, {}, null, true],
  ['in another state', { state: 'closed' }, {}, null, false],
  ['never sent', { minutesAfterSending: 10 }, {}, null, false],
  ['at the minute', { minutesAfterSending: 10 }, { sentAt: now - 600_000 }, null, false],
  ['after the minute', { minutesAfterSending: 10 }, { sentAt: now - 600_001 }, null, true],
  ['what was just sent, where it is locked at once', { minutesAfterSending: 0 }, { sentAt: now }, null, false],
  ['a moment later', { minutesAfterSending: 0 }, { sentAt: now - 1 }, null, true],
  ['so many hours before the first of them', { hoursBefore: 5 }, {}, null, false],
  ['nearer', { hoursBefore: 6 }, {}, null, true],
  ['of the second alone', { hoursBefore: 6 }, {}, 'p2', false],
  ['of one that does not stand there', { hoursBefore: 6 }, {}, 'p9', false],
  ['of the first alone', { hoursBefore: 6 }, {}, 'p1', true],
])('%s', (_, when, part, item, expected) => expect(closed(row(when), context(part), item)).toBe(expected));

test.each<[LockRow['when'], number, RegExp]>([
  [{ after: 'first sale' }, 1, /^1 ticket is sold/],
  [{ after: 'first sale' }, 2, /^2 tickets are sold/],
  [{ state: 'closed' }, 0, /is closed$/],
  [{ minutesAfterSending: 0 }, 0, /what was sent is sent/],
  [{ minutesAfterSending: 30 }, 0, /30 minutes after/],
  [{ hoursBefore: 0 }, 0, /once it has begun/],
  [{ hoursBefore: 24 }, 0, /last 24 hours/],
])('why: %j', (when, sold, words) => expect(lockWords(row(when), context({ sold }))).toMatch(words));
