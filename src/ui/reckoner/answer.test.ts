import { surveyRecord } from '@/channels/survey';
import { type SurveyInput } from '@/channels/survey-shapes';
import { bareListing, inputOf, onlyThere } from '@/channels/testing/fixture';
import { facts } from '@/core/facts/facts';
import { sameData } from '@/core/base/same-data';
import { performance, sample } from '@/core/testing/samples';
import { noEarlier } from '@/core/words/mention';
import { answer, type Piece, type Question } from './answer';
import { ends } from './pieces';
import { assemble } from './reckoner';

const now = Date.parse('2027-02-02T10:20Z');
const input = (performances: number): SurveyInput => {
  const content = sample({
    performances: Array.from({ length: performances }, (_, i) =>
      performance(`p${i}`, '2027-03-14', {
        start: `${String(8 + Math.floor(i / 60)).padStart(2, '0')}:${String(i % 60).padStart(2, '0')}`,
        doors: null,
        end: null,
      }),
    ),
  });
  const bare = inputOf({
    content,
    sold: new Map([['p0', new Map([['standard', 3]])]]),
    channels: onlyThere(['lectern', 'gatefold', 'hearthside']),
  });
  // The first listing was sent and read back otherwise than it is wanted now.
  const [first] = surveyRecord(bare).listings;
  if (!first) throw new Error('no listing');
  const sent = { ...first.proof, title: { kind: 'text', text: 'Before' } } as const;
  return {
    ...bare,
    listings: [
      bareListing(first.channel, first.part, {
        performanceIds: first.performanceIds,
        publicUrl: 'https://x.example/1',
        sent,
        observed: sent,
        sentAt: now - 9_000,
        observedAt: now - 5_000,
      }),
    ],
  };
};
/** As pieces arrive on the other side: copied. */
const across = (question: Question): Piece[] =>
  [...answer(structuredClone(question))].map((piece) => structuredClone(piece));

test.each([1, 0, 400])('a survey of %d performances put together from its pieces is the survey', (count) => {
  const of = input(Math.max(1, count));
  const asked = count === 0 ? { ...of, content: { ...of.content, performances: [] } } : of;
  const pieces = across({ kind: 'survey', input: asked });
  expect(sameData(assemble(pieces, asked), surveyRecord(asked))).toBe(true);
  expect(pieces.map(ends)).toEqual(pieces.map((_, i) => i === pieces.length - 1));
  for (const piece of pieces) if (piece.kind === 'listings') expect(piece.listings.length).toBeLessThanOrEqual(24);
});

test('what was passed over is no survey; mentions come in one piece', () => {
  const of = input(1);
  expect(assemble([{ kind: 'passed over' }], of)).toBeNull();
  const found = across({
    kind: 'mentions',
    text: 'Friday 14 March',
    context: { facts: facts(of.content, of), now, earlier: noEarlier, rooms: [] },
  });
  expect(found).toMatchObject([{ kind: 'mentions', mentions: [{ verdict: 'contradicts', text: 'Friday 14 March' }] }]);
});
