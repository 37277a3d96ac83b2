import fc from 'fast-check';
import { longDate, shortDate } from '../dates/date-words';
import { facts } from '../facts/facts';
import { newLevel, newTickets } from '../record/new-record';
import { date, zone } from '../testing/any-record';
import { performance, sample, venues } from '../testing/samples';
import { noEarlier, type MentionContext } from './mention';
import { earlierFrom, findMentions } from './mentions';
import { fillTokens, tokenText } from './tokens';

/** What a night says of itself, and how one might type it. */
interface Night {
  date: string;
  zone: string;
  /** Quarters of an hour after 17:00 at which the doors open; it begins 30 minutes and ends 165 minutes later. */
  quarter: number;
  price: number;
}

const clock = (minutes: number) =>
  `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
const twelve = (time: string) => `${Number(time.slice(0, 2)) - 12}${time.endsWith(':00') ? '' : `.${time.slice(3)}`}pm`;
const timesOf = ({ quarter }: Night) =>
  [0, 30, 165].map((more) => clock(17 * 60 + quarter * 15 + more)) as [string, string, string];

function factsOf(night: Night) {
  const [doors, start, end] = timesOf(night);
  return facts(
    sample({
      performances: [performance('p1', night.date, { zone: night.zone, doors, start, end })],
      tickets: newTickets({ levels: [newLevel('s', 'Standard', night.price * 100)] }),
    }),
    { code: 'X', venues, now },
  );
}

const now = Date.parse('2026-12-01T12:00Z');
const context = (night: Night, earlier = noEarlier): MentionContext => ({
  facts: factsOf(night),
  now,
  earlier,
  rooms: ['Wick Room', 'The Vat'],
});
const night: fc.Arbitrary<Night> = fc.record({
  date,
  zone,
  quarter: fc.integer({ min: 0, max: 10 }),
  price: fc.integer({ min: 5, max: 80 }),
});

const sentences: ((of: {
  day: string;
  short: string;
  numeric: string;
  doors: string;
  start: string;
  end: string;
  price: number;
}) => string)[] = [
  ({ day, start }) => `Come on ${day} at ${start}.`,
  ({ day, doors, start, end }) => `${day}, doors ${twelve(doors)}, starts ${twelve(start)}, ends ${end}.`,
  ({ short, start, end }) => `${short}, ${start}–${end}`,
  ({ day, start }) => `From ${twelve(start)} on ${day}: nine voices, one microphone.`,
  ({ day, price }) => `${day}. Tickets from €${price}.`,
  ({ day, start, end }) => `In The Vat at Tallow Yard, ${day.replace(',', '')} from ${start} until ${end}!`,
  ({ short, doors, start }) => `${short} | ${twelve(doors)} doors, ${twelve(start)} show | 2 sets`,
  ({ numeric, start, price }) => `${numeric}, ${start} h. Only 40 seats, €${price}.00 each`,
  ({ day }) => `Part 2: the year's 3rd night (12 songs), on ${day}`,
  ({ start, doors, price }) => `Doors open at ${doors}, music at ${start}; €${price} at the door.`,
];
const prose = (of: Night, picks: number[]) => {
  const [doors, start, end] = timesOf(of);
  return picks
    .map((pick) =>
      sentences[pick]?.({
        day: longDate(of.date),
        short: shortDate(of.date, true),
        numeric: of.date.split('-').reverse().join('.'),
        doors,
        start,
        end,
        price: of.price,
      }),
    )
    .join(' ');
};
const picks = fc.array(fc.nat({ max: sentences.length - 1 }), { minLength: 1, maxLength: 4 });

/** The text with every typed fact that a token stands for put into it. */
const turned = (text: string, on: MentionContext) =>
  findMentions(text, on).reduceRight(
    (words, mention) =>
      mention.token === null
        ? words
        : words.slice(0, mention.from) + tokenText(mention.token) + words.slice(mention.to),
    text,
  );
const filled = (text: string, of: Night) => fillTokens(text, factsOf(of), factsOf(of).performances[0], 'plain').text;
/** What is said of the facts that move; the place stays. */
const verdicts = (text: string, on: MentionContext) => [
  ...new Set(
    findMentions(text, on)
      .filter((mention) => mention.kind !== 'place')
      .map((mention) => mention.verdict),
  ),
];

describe('words that follow the record', () => {
  test('what is typed rightly is found right, and tokens in its place say the same facts', () => {
    fc.assert(
      fc.property(night, picks, (of, chosen) => {
        const text = prose(of, chosen);
        expect(verdicts(text, context(of))).toEqual(['typed']);
        expect(verdicts(filled(turned(text, context(of)), of), context(of))).toEqual(['typed']);
      }),
    );
  });

  test('when the record moves, typed words are told to be old ones, and those with tokens have moved along', () => {
    fc.assert(
      fc.property(night, night, picks, (before, after, chosen) => {
        fc.pre(
          before.date !== after.date && before.price !== after.price && Math.abs(before.quarter - after.quarter) > 0,
        );
        // Doors of one night may be the start of another: a bare time cannot tell which is meant.
        fc.pre(!timesOf(before).some((time) => timesOf(after).includes(time)));
        const text = prose(before, chosen);
        const moved = context(after, earlierFrom([factsOf(before)]));
        expect(verdicts(text, moved)).toEqual(['stale']);
        expect(verdicts(filled(turned(text, context(before)), after), moved)).toEqual(['typed']);
      }),
    );
  });
});

test.each([
  ['{{start}}{{start}}', '19:30'.repeat(2)],
  ['{{}}x', '{{}}x'],
  ['{{}}{{start}}', '{{}}19:30'],
  ['{{ }}{{start}}', '{{ }}19:30'],
  ['{{{{start}}', '{{{{start}}'],
  ['{{start', '{{start'],
])('what is no token stays as it was written, and what follows it is read: %s', (text, expected) => {
  expect(filled(text, { date: '2027-03-14', zone: 'Europe/Dublin', quarter: 8, price: 22 })).toBe(expected);
});
