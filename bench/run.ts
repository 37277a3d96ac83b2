import { createHash } from 'node:crypto';
import { plainRow } from '@/channels/channels';
import { kinds } from '@/channels/kinds-rules';
import { bareListing, inputOf } from '@/channels/testing/fixture';
import { surveyRecord } from '@/channels/survey';
import { type SurveyInput } from '@/channels/survey-shapes';
import { readDraft, toDraft } from '@/core/record/draft';
import { findClashes, type Booking } from '@/core/clashes/clashes';
import type { RecordId } from '@/core/base/ids';
import { consequences } from '@/core/errands/consequences';
import { edited } from '@/core/errands/many-edit';
import { sumOfMany } from '@/core/errands/many-sums';
import { checkRecord } from '@/core/record/check-record';
import { recordSchema, type RecordContent } from '@/core/record/record';
import { performance as night, sample, venues } from '@/core/testing/samples';
import { noEarlier } from '@/core/words/mention';
import { findMentions } from '@/core/words/mentions';
import { addDays } from '@/core/base/zones';

/**
 * A run of 2,000 performances: what one keystroke costs, as a ratio to only checking, writing and hashing the record.
 */
const count = 2000;
const content = sample({
  performances: Array.from({ length: count }, (_, i) =>
    night(`p${i}`, addDays('2027-03-01', Math.floor(i / 3)), {
      start: ['11:00', '14:00', '16:30'][i % 3] ?? '11:00',
      doors: null,
      end: null,
    }),
  ),
});
const now = Date.parse('2027-02-02T10:20Z');
const input = (part: Partial<SurveyInput> = {}): SurveyInput => inputOf({ content, now, ...part });

function best(work: () => unknown, times = 7): number {
  let least = Infinity;
  for (let i = 0; i < times; i += 1) {
    const started = performance.now();
    work();
    least = Math.min(least, performance.now() - started);
  }
  return least;
}

const floor = best(() =>
  createHash('sha256')
    .update(JSON.stringify(recordSchema.parse(JSON.parse(JSON.stringify(content)))))
    .digest('hex'),
);
const say = (name: string, ms: number) =>
  console.log(`${name}: ${ms.toFixed(1)} ms, ${(ms / floor).toFixed(2)} of the floor`);
console.log(`floor (read, check, write and hash ${count} performances): ${floor.toFixed(1)} ms`);
const draft = toDraft(content);
let n = 0;
say(
  'a key in the title, read and surveyed on every channel',
  best(() => {
    const read = readDraft({ ...draft, title: `Title ${(n += 1)}` }, venues);
    if (read.ok) surveyRecord(input({ content: read.value }));
  }),
);
const item = sample();
say(
  'one event on every channel',
  best(() => surveyRecord(input({ content: { ...item, title: `Title ${(n += 1)}` } })), 40),
);
const everyChannel = kinds.map(({ id }) => plainRow(id));
const dayMs = 86_400_000;
/** What stands there is as it is wanted, with 212 sold by the marketplace. */
function standing(given: RecordContent) {
  const listings = surveyRecord(input({ content: given, channels: everyChannel })).listings.map(
    ({ channel, part, performanceIds, wanted }) =>
      bareListing(channel, part, {
        ...{ performanceIds, sent: wanted, previous: wanted, observed: wanted },
        ...{ sentAt: now - dayMs, observedAt: now - 1, sold: channel === 'gatefold' ? 212 : 0 },
      }),
  );
  return (of: RecordContent) => {
    const survey = surveyRecord(input({ content: of, channels: everyChannel, listings }));
    return { content: of, facts: survey.facts, listings: survey.listings };
  };
}
/** What a change does to what stands there. */
function whatItDoes(given: RecordContent, changed: RecordContent) {
  const ground = standing(given);
  const before = ground(given);
  const rooms = ['The Vat', 'Wick Room'];
  return () =>
    consequences({ before, after: ground(changed), now, usual: new Map(), sources: new Map(), rooms, handedOn: null });
}
const laterStart = (of: RecordContent): RecordContent => ({
  ...of,
  performances: of.performances.map((performance) => ({ ...performance, start: '20:15' })),
});
say(`what a later start does, on ${everyChannel.length} channels`, best(whatItDoes(item, laterStart(item)), 40));
say(`what a later start does of ${count} performances`, best(whatItDoes(content, laterStart(content)), 5));
const many = Array.from({ length: 500 }, (_, i) => {
  const of = { ...item, title: `Title ${i}` };
  const ground = standing(of);
  // The house keeps how they stand.
  return { of, ground, before: ground(of) };
});
const once = best(() => many.map(({ of, ground }) => ground(of)), 3);
const edited500 = best(() => {
  const all = many.map(({ of, ground, before }, i) => {
    const put = edited(of, { what: 'start', to: '20:15' }, { today: '2027-02-02', venues, fresh: 'n' });
    const checked = put.ok ? checkRecord(put.value, venues) : null;
    if (!checked?.ok) throw new Error('the edit does not hold');
    const made = consequences({
      before,
      after: ground(checked.value),
      now,
      usual: new Map(),
      sources: new Map(),
      rooms: [],
      handedOn: null,
    });
    return { record: String(i) as RecordId, made };
  });
  return sumOfMany(all);
}, 3);
console.log(
  `a later start of ${many.length} chosen events, of surveying them once (${once.toFixed(0)} ms): ${(edited500 / once).toFixed(2)}`,
);
const facts = surveyRecord(input({ content: item })).facts;
const prose = 'Doors at 7, music from half past seven on Sunday 14 March, tickets from €22 in The Vat. '.repeat(20);
say(
  '2,000 characters of prose held against the facts',
  best(() => findMentions(prose, { facts, now, earlier: noEarlier, rooms: ['Wick Room'] })),
);
const hour = 3_600_000;
const bookings = Array.from({ length: 10_000 }, (_, i): Booking => ({
  record: `r${i}`,
  code: `r${i}`,
  title: 'x',
  performance: `p${i}`,
  zone: 'UTC',
  pencilled: false,
  from: i * hour,
  until: (i + 2) * hour,
  start: i * hour,
  room: { id: `m${i % 40}`, name: 'x', changeoverMs: hour },
  venue: `v${i % 20}`,
  venueName: 'x',
  point: { lat: i % 60, lon: i % 90 },
  artists: [{ key: `a${i % 300}`, name: 'x', headliner: true }],
  tour: null,
  radius: null,
  awaiting: [],
  sales: [{ level: 'x', opens: (i - 500) * hour, closes: null }],
}));
say(
  'clashes of 10,000 performances',
  best(() => findClashes(bookings), 3),
);
