import { recordIdSchema } from '@/core/base/ids';
import { createHash } from 'node:crypto';
import { inputOf, planOf, rows } from '@/channels/testing/fixture';
import { surveyRecord } from '@/channels/survey';
import { newWords } from '@/core/record/new-record';
import { recordSchema, type RecordContent } from '@/core/record/record';
import { performance as night, sample } from '@/core/testing/samples';
import { addDays } from '@/core/base/zones';

/** The way of 10,000 events through facts, proofs, comparison and plan, as a ratio to only reading, writing and hashing them. */
const events = 10_000;
const texts = Array.from({ length: events }, (_, i) => {
  const words = `<p>${'An evening between folk song and slow electronics. '.repeat(6)}</p><p>Number ${i}.</p>`;
  const content: RecordContent = sample({
    title: `Event number ${i}`,
    words: newWords({ teaser: 'Concert harp, two tape machines and a room that remembers.', full: words }),
    performances: [night('p1', addDays('2027-03-01', i % 900))],
  });
  return JSON.stringify(content);
});
const now = Date.parse('2027-02-02T10:20Z');

function timed<T>(work: () => T): [number, T] {
  const started = performance.now();
  const out = work();
  return [performance.now() - started, out];
}

const floor = () =>
  texts.map((text) =>
    createHash('sha256')
      .update(JSON.stringify(recordSchema.parse(JSON.parse(text))))
      .digest('hex'),
  ).length;
const whole = () =>
  texts.flatMap((text, i) => {
    const content = recordSchema.parse(JSON.parse(text));
    return planOf(surveyRecord(inputOf({ recordId: recordIdSchema.parse(`r${i}`), content, now }))).errands;
  }).length;

floor();
const [floorMs] = timed(floor);
whole();
const [wholeMs, errands] = timed(whole);
console.log(
  `${events} events on ${rows.length} channels: ${errands} errands planned in ${Math.round(wholeMs)} ms; floor (read, check, write, hash) ${Math.round(floorMs)} ms; ratio ${(wholeMs / floorMs).toFixed(1)}`,
);
console.log(`one event: ${((wholeMs / events) * 1000).toFixed(0)} µs`);
