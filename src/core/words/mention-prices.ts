import { currencies, currencySign, moneyWords, parsePrice, type Currency } from '../base/money';
import { after, before, type Mention, type MentionContext } from './mention';

/**
 * What stands beside an amount, and the currencies it may mean: signs that several share, those of one, and the codes.
 */
const signs: Record<string, Currency[]> = {
  ...Object.fromEntries(
    currencies.flatMap((code) => [
      [code.toLowerCase(), [code]],
      [currencySign(code).toLowerCase(), [code]],
    ]),
  ),
  $: ['USD', 'CAD', 'AUD', 'NZD', 'HKD', 'SGD', 'MXN'],
  kr: ['ISK', 'NOK', 'SEK', 'DKK'],
  '¥': ['JPY', 'CNY'],
  fr: ['CHF'],
};
const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
const marks = [...new Set(currencies.map(currencySign))]
  .filter((sign) => !/^[A-Z]{3}$/.test(sign))
  .sort((a, b) => b.length - a.length)
  .map(escaped)
  .join('|');
/**
 * Codes stand in capitals: `all 40 seats` and `try 7 March` are no money. Of those that people write small, too, there
 * is no such word.
 */
const codes = `\\b(?:${currencies.join('|')}|eur|gbp|usd|cad|aud|isk|pln|chf|nok|sek|dkk|jpy)\\b`;
/** An amount of money, as it is written. */
export const priceShape = new RegExp(
  `([Ff]rom\\s+(?:only\\s+|just\\s+)?)?(?:(${marks}|\\bFr\\.?|${codes})\\s?(\\d[\\d.,]{0,14}\\d|\\d)|(\\d[\\d.,]{0,14}\\d|\\d)\\s?(€|[Ee]uros?\\b|[Pp]ounds?\\b|zł|[Kk]r\\b|${codes}))`,
  'g',
);

/** Money that is not asked for a ticket: prizes, drinks, coats. */
const another =
  'worth|prizes?|raised?|raising|cost of|grants?|awards?|bursar(?:y|ies)|donat\\w+|pints?|beers?|wines?|drinks?|cocktails?|coffee|tea|soup|meals?|dinner|supper|lunch|parking|cloakroom|programmes?|t-shirts?|posters?|records?|albums?|lp|cd|tote|deposit|taxi|bus|train|vouchers?|debts?|damage';
const anotherBefore = new RegExp(`\\b(?:${another})\\b[^.!?\\n]{0,16}$`, 'i');
const anotherAfter = new RegExp(
  `^\\s*(?:million|thousand|[km]\\b|(?:of\\s+|in\\s+|for\\s+(?:a|the)\\s+)?(?:${another})\\b)`,
  'i',
);

/** Finds prices in a text and holds them against what is asked. */
export function prices(text: string, context: MentionContext): Mention[] {
  return [...typedPrices(text, context), ...freeWords(text, context)];
}

function typedPrices(text: string, { facts, earlier }: MentionContext): Mention[] {
  const { price, levels, extras } = facts;
  return [...text.matchAll(priceShape)].flatMap((found): Mention[] => {
    const [whole, lead = '', sign = '', behind, first, word = ''] = found;
    if (
      price.kind !== 'priced' ||
      anotherBefore.test(before(text, found.index, 32)) ||
      anotherAfter.test(after(text, found.index + whole.length))
    )
      return [];
    const mark = (sign || word)
      .toLowerCase()
      .replace(/^euros?$/, '€')
      .replace(/^pounds?$/, '£')
      .replace(/^fr\.$/, 'fr');
    if (!signs[mark]?.includes(price.currency)) return [];
    const minor = parsePrice((behind ?? first ?? '').replace(/[.,]$/, ''), price.currency);
    if (minor === null) return [];
    const at = { kind: 'price' as const, from: found.index, to: found.index + whole.length, text: whole };
    const isFrom = /^from/i.test(lead);
    const says = price.words;
    const right = isFrom
      ? minor === price.from
      : minor === price.from ||
        minor === price.withFees ||
        minor === facts.serviceFee?.minor ||
        [...levels.map((level) => level.minor), ...extras.map((extra) => extra.price)].includes(minor);
    // The token says what the record says of its price; it stands for this only where they say the same.
    const all = isFrom || (price.from === price.to && (minor === price.from || minor === price.withFees));
    if (right) return [{ ...at, verdict: 'typed', says, token: all ? 'price' : null }];
    return [
      {
        ...at,
        verdict: (isFrom ? earlier.from : earlier.prices).includes(minor) ? 'stale' : 'contradicts',
        says: isFrom ? `from ${moneyWords(price.from, price.currency)}` : says,
        token: 'price',
      },
    ];
  });
}

/** `Free entry`, said of everybody. */
function freeWords(text: string, { facts: { price } }: MentionContext): Mention[] {
  return [
    ...text.matchAll(/\b(?:free (?:entry|admission|entrance)|(?:entry|admission|entrance) (?:is )?free)\b/gi),
  ].flatMap((found): Mention[] => {
    if (
      /\b(?:under|over|for|children|child|members?|kids?|carers?|companions?|students?|babies|\d+s?)\b[^.!?\n]{0,24}$/i.test(
        before(text, found.index, 40),
      ) ||
      /^\s*(?:for|to|with|after|before|until|if)\b/i.test(after(text, found.index + found[0].length))
    )
      return [];
    const at = { kind: 'price' as const, from: found.index, to: found.index + found[0].length, text: found[0] };
    if (price.kind === 'free') return [{ ...at, verdict: 'typed', says: 'free', token: null }];
    return price.kind === 'priced' && price.from > 0
      ? [{ ...at, verdict: 'contradicts', says: price.words, token: null }]
      : [];
  });
}
