import { findingWords } from '@/core/findings/finding-words';
import { categoriesThere } from '@/core/listing/categories-there';
import type { ChannelRow } from '@/core/listing/channel-row';
import type { RecordContent } from '@/core/record/record';
import { plainRow } from './channels';
import { inputOf } from './testing/fixture';
import { surveyRecord } from './survey';
import type { SurveyInput } from './survey-shapes';
import { sample } from '@/core/testing/samples';

/*
 * Kinds of event, and the categories in which each channel has them: as many as it takes, the rest told.
 */

const kinds = (eventType: string, ...categories: string[]): Partial<RecordContent> => ({ eventType, categories });
const on = (part: Partial<RecordContent>, row: ChannelRow, more: Partial<SurveyInput> = {}) =>
  surveyRecord(inputOf({ content: sample(part), channels: [row], ...more })).listings[0];
const categoryOn = (part: Partial<RecordContent>, kind: string) => {
  const shown = on(part, plainRow(kind))?.proof.category;
  return shown?.kind === 'text' ? shown.text : undefined;
};

test.each<[string, Partial<RecordContent>, string | undefined, string | undefined]>([
  ['one kind', kinds('concert'), 'music', 'Music'],
  ['two kinds, where several are taken and where one is', kinds('concert', 'family'), 'music, family', 'Music'],
  ['the order is that of the kinds', kinds('family', 'concert'), 'family, music', 'Families'],
  ['two kinds of one category are there once', kinds('talk', 'reading'), 'spoken-word', 'Talks'],
  ['a further kind counts where the first has no place', kinds('rehearsal-room', 'film'), 'screen', 'Film'],
  ['a kind that nobody has a place for', kinds('séance'), undefined, undefined],
])('%s', (_, part, website, diary) =>
  expect([categoryOn(part, 'lectern'), categoryOn(part, 'marrowby-diary')]).toEqual([website, diary]),
);

test('what a channel does not take beside the first is told there, and nowhere else', () => {
  const part = kinds('concert', 'family', 'film');
  const told = (kind: string) =>
    (on(part, plainRow(kind))?.findings ?? []).flatMap((finding) =>
      finding.code === 'categories-cut' ? [`${finding.weight} ${findingWords(finding)}`] : [],
    );
  expect([told('lectern'), told('hearthside'), told('marrowby-diary')]).toEqual([
    [],
    [],
    ['notes It takes one category: left out here: Families, Film.'],
  ]);
});

test('as a person mapped them, and no name that the channel does not have', () => {
  const row = plainRow('lectern', { settings: { categories: { séance: 'late', concert: 'gone', film: 'screen' } } });
  const of = (part: Partial<RecordContent>) => on(part, row)?.proof.category;
  expect([of(kinds('séance', 'film')), of(kinds('concert'))]).toEqual([
    { kind: 'text', text: 'late, screen' },
    undefined,
  ]);
  expect(categoriesThere({ categories: ['a', 'b', 'c'] }, { map: { a: 'A', b: 'B', c: 'A' }, most: 1 })).toEqual({
    shown: ['A'],
    out: ['B'],
  });
});

test('a kind that the house never makes public goes nowhere, whatever the record says, and comes down where it stands', () => {
  const of = (closedTypes: string[], visibility: 'public' | 'private' = 'public') => {
    const part = { ...kinds('rehearsal'), publicity: { visibility, announce: null } };
    const listing = on(part, plainRow('lectern'), { closedTypes });
    return [listing?.down, listing?.findings.some((finding) => finding.code === 'never-public')];
  };
  expect([of(['rehearsal']), of(['meeting']), of(['rehearsal'], 'private')]).toEqual([
    ['private', true],
    [null, false],
    ['private', false],
  ]);
});
