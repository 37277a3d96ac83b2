import { recordIdSchema } from '@/core/base/ids';
import { createHash } from 'node:crypto';
import { channelOf, plainRow } from '@/channels/channels';
import { kinds } from '@/channels/kinds-rules';
import { surveyRecord, type Survey } from '@/channels/survey';
import { inputOf } from '@/channels/testing/fixture';
import { plan } from '@/core/errands/plan';
import { writeListing } from '@/core/listing/listing-codec';
import { newEntry, newNotice, newOutlet, newWords } from '@/core/record/new-record';
import { recordSchema, type RecordContent } from '@/core/record/record';
import { performance as night, sample } from '@/core/testing/samples';
import { addDays } from '@/core/base/zones';

/*
 * The way of events through facts, proofs, comparison and plan on a channel of every kind, as a ratio to a floor of the
 * same run: reading and checking each record, and writing and hashing the shown fields of every one of its listings.
 */
const events = Number(process.env.EVENTS ?? 10_000);
const rows = kinds.map((kind) => plainRow(kind.id));
const channels = rows.map((row) => channelOf(row));
const rulesOf = new Map(channels.map((channel) => [channel.rules.id, channel.rules]));
const texts = Array.from({ length: events }, (_, i) => {
  const words = `<p>${'An evening between folk song and slow electronics. '.repeat(6)}</p><p>Number ${i}.</p>`;
  const content: RecordContent = sample({
    title: `Event number ${i}`,
    words: newWords({ teaser: 'Concert harp, two tape machines and a room that remembers.', full: words }),
    performances: [night('p1', addDays('2027-03-01', i % 900))],
    lineUp: [newEntry('a', `Act ${i % 40}`)],
    notices: i % 10 === 0 ? [newNotice('n1', 'murmurline'), newNotice('n2', 'hearthside-posts')] : [],
    online: i % 10 === 1 ? { keep: null, join: null } : null,
  });
  if (i % 5 === 0)
    content.tickets.outlets = [
      newOutlet('o1', 'Gatefold', { channel: 'gatefold', allocation: 100 }),
      newOutlet('o2', 'Pennyseat', { channel: 'pennyseat', allocation: 50 }),
    ];
  return JSON.stringify(content);
});
const now = Date.parse('2027-02-02T10:20Z');

function timed<T>(work: () => T): [number, T] {
  const started = performance.now();
  const out = work();
  return [performance.now() - started, out];
}

const surveyOf = (i: number, content: RecordContent): Survey =>
  surveyRecord(inputOf({ recordId: recordIdSchema.parse(`r${i}`), content, now, channels: rows }));
const read = (text: string): RecordContent => recordSchema.parse(JSON.parse(text));
/** What every listing shows: worked out once before, so that the floor only writes and hashes it. */
const shown = texts.map((text, i) =>
  surveyOf(i, read(text))
    .listings.filter((listing) => listing.down === null)
    .map((listing) => [listing.channel, listing.wanted] as const),
);
const listings = shown.reduce((sum, item) => sum + item.length, 0);
const floor = () =>
  texts.map((text, i) => {
    read(text);
    for (const [channel, fields] of shown[i] ?? []) {
      const rules = rulesOf.get(channel);
      if (rules)
        createHash('sha256')
          .update(JSON.stringify(writeListing(rules, fields)))
          .digest('hex');
    }
  }).length;
const whole = () =>
  texts.flatMap((text, i) => {
    const survey = surveyOf(i, read(text));
    return plan(survey.listings).errands;
  }).length;

floor();
const [floorMs] = timed(floor);
whole();
const [wholeMs, errands] = timed(whole);
console.log(
  `${events} events on ${rows.length} channels, ${listings} listings: ${errands} errands planned in ${Math.round(wholeMs)} ms; floor (read, check, write and hash each listing) ${Math.round(floorMs)} ms; ratio ${(wholeMs / floorMs).toFixed(1)}`,
);
console.log(`one event: ${((wholeMs / events) * 1000).toFixed(0)} µs`);
