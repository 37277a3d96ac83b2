import { inZone, longDate, shortDate } from '../dates/date-words';
import type { Facts } from '../facts/facts';
import { toLocal } from '../base/zones';
import { countIn, fit, type CountIn, type FitPart, type Fitted } from './fit';
import { dayStands, hashtagWords } from './tokens';

/** What stands before each part where it is not the first. */
const stands = {
  title: '',
  support: ' ',
  date: '. ',
  place: ', ',
  price: '. ',
  line: '. ',
  link: '. ',
  hashtag: '. ',
} as const;

/**
 * A notice written from the facts: the worthiest sentences that fit, as the channel counts. `linkLength`: what every
 * link counts as; `withLink`: it stands among the words, and not in a field of its own.
 */
export function writeNotice(
  facts: Facts,
  {
    limit,
    linkLength,
    unit,
    withLink = true,
  }: { limit: number; linkLength: number | null; unit: CountIn; withLink?: boolean },
): Fitted {
  return fit(noticeParts(facts, { withLink }), { limit, linkLength, unit, joint: ' ', stop: true });
}

/** How long all of a notice would be, counted in `unit`. */
export function noticeLength(facts: Facts, withLink: boolean, unit: CountIn): number {
  return noticeParts(facts, { withLink }).reduce(
    (sum, { variants, before = '' }, i) => sum + countIn((i === 0 ? '' : before) + (variants[0]?.text ?? ''), unit),
    0,
  );
}

/**
 * The parts of a short notice in their order of reading, each with variants from long to short and a worth: what a
 * stranger must know to come is worth more than what is good to know. Where the channel has a field of its own for the
 * link, it is not among them. Read one after the other they are sentences with their stops: who, when and where, for
 * how much, what it is; then link and hashtags.
 */
export function noticeParts(facts: Facts, { withLink }: { withLink: boolean } = { withLink: true }): FitPart[] {
  const linked = withLink && facts.link.kind === 'known';
  const [performance] = facts.performances;
  const rest = facts.lineUp.startsWith(facts.title) ? facts.lineUp.slice(facts.title.length).trim() : facts.lineUp;
  const time = performance?.start ? `, ${inZone(toLocal(performance.start, performance.zone).time, performance)}` : '';
  const exact = performance && dayStands(performance);
  const dates = exact
    ? [`${longDate(performance.date).replace(/ \d{4}$/, '')}${time}`, `${shortDate(performance.date)}${time}`]
    : [performance?.dateNote ?? ''];
  const place = performance?.place
    ? [
        [performance.place.room, performance.place.venue, performance.place.town].filter((part) => part).join(', '),
        performance.place.venue,
      ]
    : [];
  const part = (
    id: keyof typeof stands,
    label: string,
    required: boolean,
    worth: number,
    texts: readonly string[],
  ): FitPart => ({
    id,
    before: id === 'hashtag' && linked ? ' ' : stands[id],
    label,
    required,
    variants: texts
      .filter((text) => text.trim() !== '')
      .map((text, i) => ({
        text: text.trim().replace(/(?<=[^.])\.$/, ''),
        worth: worth - i * Math.max(1, Math.floor(worth / 4)),
      })),
  });
  return [
    part('title', 'title', true, 40, [facts.title, facts.shortTitle]),
    part('support', 'support act', false, 8, [rest]),
    part('date', 'date', true, 30, dates),
    part('place', 'place', false, 20, place),
    part(
      'price',
      'price',
      false,
      10,
      facts.price.kind === 'unknown' ? [] : [facts.price.words, ...(facts.price.kind === 'free' ? ['free'] : [])],
    ),
    part('line', 'teaser', false, 6, [facts.teaser, facts.line]),
    part(
      'link',
      'link',
      facts.link.kind === 'known',
      25,
      linked && facts.link.kind === 'known' ? [facts.link.href] : [],
    ),
    part(
      'hashtag',
      'hashtag',
      false,
      3,
      facts.hashtags.length === 0 ? [] : [hashtagWords(facts.hashtags), `#${facts.hashtags[0]}`],
    ),
  ].filter((part) => part.variants.length > 0);
}
