import { findingWords } from '@/core/findings/finding-words';
import type { SurveyInput } from './survey-shapes';
import { bareListing, morning, onlyThere, surveyOf } from './testing/fixture';

/* Why a listing was refused, or is late, is told wherever the listing is. */

describe('why a listing asks', () => {
  const standing = (more: Partial<Parameters<typeof bareListing>[2]>, part: Partial<SurveyInput> = {}) => {
    const plain = surveyOf({ channels: onlyThere(['hearthside']) }).listings[0];
    const sent = plain?.wanted ?? {};
    // What is seen there is still what stood there before.
    const previous = { ...sent, title: { kind: 'text' as const, text: 'Before' } };
    const seen = { previous, observed: previous, observedAt: morning - 1_000 };
    const listings = [bareListing('hearthside', 0, { sent, ...seen, sentAt: morning - 3_600_000, ...more })];
    const id = listings[0]?.id;
    const made = surveyOf({
      channels: onlyThere(['hearthside']),
      listings,
      ...part,
      ...(part.refusals && id
        ? { errands: new Map([[id, 'refused']]), refusals: new Map([[id, 'the title is vain']]) }
        : {}),
    }).listings[0];
    return [
      made?.standing,
      (made?.findings ?? []).filter(({ code }) => code === 'refused-there' || code === 'late-there').map(findingWords),
    ];
  };
  test('refused: in the words of the place', () =>
    expect(standing({}, { refusals: new Map() })).toEqual(['refused', ['It was refused there: the title is vain.']]));
  test('late: since when, how long it usually takes, and why it may be', () =>
    expect(standing({})).toEqual([
      'late',
      [
        'Sent on Tue 2 Feb 2027, 09:20, and not seen there yet; it usually takes 10 min. Perhaps: It speaks of a raffle or lottery, and nobody there has looked at it yet.',
      ],
    ]));
  test('on its way, nothing is said', () => expect(standing({ sentAt: morning - 60_000 })).toEqual(['unread', []]));
});
