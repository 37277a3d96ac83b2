import { facts } from '../facts/facts';
import { newWords } from '../record/new-record';
import { sample, venues } from '../testing/samples';
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
