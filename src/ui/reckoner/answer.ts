import { surveyRecord, type Survey } from '@/channels/survey';
import { type SurveyInput } from '@/channels/survey-shapes';
import type { SurveyedListing } from '@/core/errands/surveyed';
import type { Mention, MentionContext } from '@/core/words/mention';
import { findMentions } from '@/core/words/mentions';

/** What can be asked of the reckoner. */
export type Question =
  { kind: 'survey'; input: SurveyInput } | { kind: 'mentions'; text: string; context: MentionContext };

/**
 * A listing as it is sent: what is known of it already stays where it is known, and its rules can be had on either
 * side.
 */
type SentListing = Omit<SurveyedListing, 'state' | 'rules'>;

/** A piece of an answer, small enough to be read between two frames. `passed over`: something newer was asked. */
export type Piece =
  | ({ kind: 'survey' } & Omit<Survey, 'listings'>)
  | { kind: 'listings'; listings: SentListing[]; last: boolean }
  | { kind: 'mentions'; mentions: Mention[] }
  | { kind: 'passed over' };

/** Listings in one piece: together read in about a millisecond. */
const perPiece = 24;

/** Answers a question, in pieces; the last one ends the answer. */
export function* answer(question: Question): Generator<Piece> {
  if (question.kind === 'mentions') {
    yield { kind: 'mentions', mentions: findMentions(question.text, question.context) };
    return;
  }
  const { listings, ...rest } = surveyRecord(question.input);
  yield { kind: 'survey', ...rest };
  const sent = listings.map(({ state: _known, rules: _rules, ...item }) => item);
  for (let from = 0; from === 0 || from < sent.length; from += perPiece)
    yield { kind: 'listings', listings: sent.slice(from, from + perPiece), last: from + perPiece >= sent.length };
}
