import { facts } from '../facts/facts';
import { newWords } from '../record/new-record';
import type { Performance } from '../record/record';
import { performance, sample, venues } from '../testing/samples';
import { writeEventsIcs } from './write-ics';

const now = Date.parse('2027-02-02T10:20Z');
const descriptionOf = (part: Parameters<typeof sample>[0]) => {
  const said = facts(sample({ subtitle: '', lineUp: [], words: newWords({}), ...part }), { code: 'X', venues, now });
  const ics = writeEventsIcs([{ facts: said, revision: 1, savedAt: now, page: null }], {
    ...{ name: 'S', now, domain: 'x' },
  });
  return /^DESCRIPTION:(.*)$/m.exec(ics.replaceAll(/\r?\n[ \t]/g, ''))?.[1]?.trim() ?? null;
};

test.each<[string, Parameters<typeof sample>[0], string | null]>([
  ['nothing is said', {}, null],
  ['one thing is', { words: newWords({ teaser: 'Come.' }) }, 'Come.'],
  ['two are', { subtitle: 'A night', words: newWords({ teaser: 'Come.' }) }, String.raw`A night\n\nCome.`],
])('the description of a date in a calendar, where %s', (_, part, said) => expect(descriptionOf(part)).toBe(said));

test.each<[string, Performance['repeat'], string]>([
  ['the first of two equal times is a local one', 'first', 'DTSTART;TZID=Europe/Dublin:20271031T013000'],
  ['the second is said in UTC', 'second', 'DTSTART:20271031T013000Z'],
])('%s', (_, repeat, line) => {
  const night = performance('p', '2027-10-31', { doors: null, start: '01:30', end: null, repeat });
  const said = facts(sample({ performances: [night] }), { code: 'X', venues, now });
  const text = writeEventsIcs([{ facts: said, revision: 1, savedAt: now, page: null }], {
    name: 'S',
    now,
    domain: 'x',
  });
  expect(text.split(/\r?\n/)).toContain(line);
});
