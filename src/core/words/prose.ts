import { channelWords } from '../dates/date-words';
import { readMarkup, writePlain } from './markup';
import type { RecordContent } from '../record/record';

/** A text of a record that people write by hand, and what it is called. */
export interface Prose {
  where: string;
  text: string;
}

/** Every text of a record in which a fact may stand typed, without its marks; empty ones are left out. */
export function proseOf({
  title,
  subtitle,
  words,
  notices,
  overrides,
  performances,
  tickets,
}: Pick<
  RecordContent,
  'title' | 'subtitle' | 'words' | 'notices' | 'overrides' | 'performances' | 'tickets'
>): Prose[] {
  const plain = (html: string) => writePlain(readMarkup(html));
  return [
    { where: 'title', text: title },
    { where: 'subtitle', text: subtitle },
    { where: 'line', text: words.line },
    { where: 'teaser', text: words.teaser },
    { where: 'short text', text: words.short },
    { where: 'full text', text: plain(words.full) },
    { where: 'access notes', text: words.access },
    { where: 'age guidance', text: words.age },
    // Lines of the dates: a run of thousands has few that differ.
    ...[...new Set(performances.map((performance) => performance.note))]
      .slice(0, 40)
      .map((text) => ({ where: 'note on a date', text })),
    ...[...new Set(performances.map((performance) => performance.lineUpExtra))]
      .slice(0, 40)
      .map((text) => ({ where: 'also on this time', text })),
    { where: 'refunds', text: tickets.refunds },
    { where: 'how members show it', text: tickets.membersProof },
    ...[...tickets.levels, ...tickets.extras].map((level) => ({ where: `words of ${level.name}`, text: level.words })),
    ...tickets.questions.map((question) => ({ where: 'question', text: `${question.ask} ${question.consent}`.trim() })),
    ...(tickets.mode === 'registration' ? [{ where: 'how to register', text: tickets.registration.contact }] : []),
    ...notices.map((notice) => ({ where: 'notice', text: notice.words })),
    ...overrides.map((override) => ({
      where: `words by hand for ${channelWords(override.channel)}`,
      text: plain(override.value),
    })),
  ].filter(({ text }) => text.trim() !== '');
}
