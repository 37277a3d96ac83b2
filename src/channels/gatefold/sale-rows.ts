import type { CouponFacts, ExtraFacts } from '@/core/facts/sale';
import type { FieldRow } from '@/core/listing/channel-rules';
import { sources } from '@/core/listing/sources';
import { countAt, flagAt, priceAt, refsAt, textAt, utcAt } from '@/core/listing/wire';
import { itemTextRow, on } from '../kit/common-rows';

const count = (n: number | null) => (n === null ? null : { kind: 'count' as const, n });

/** What is sold with a ticket, and admits nobody. */
export const extraRows: readonly FieldRow[] = [
  {
    each: 'extra',
    field: 'extra',
    label: 'extra',
    kind: 'price',
    sources: [sources.extraPrice],
    from: (e: ExtraFacts) => ({ kind: 'price', name: e.name, minor: e.price, currency: e.currency }),
    ...priceAt('name', 'face', 'currency'),
  },
  {
    each: 'extra',
    field: 'extra-quantity',
    label: 'quantity of the extra',
    kind: 'count',
    sources: [sources.extraQuantity],
    from: (e) => count(e.quantity),
    ...countAt('quantity'),
  },
  itemTextRow('extra', 'extra-words', 'what the extra is', (e) => e.words, textAt('about'), {
    limit: 300,
    sources: [sources.extraWords],
  }),
];

const moment = (at: number | null, { zone }: CouponFacts) =>
  at === null ? null : { kind: 'instant' as const, at, zone };

/** Codes that take something off. */
export const couponRows: readonly FieldRow[] = [
  itemTextRow('coupon', 'coupon', 'coupon', (c) => c.code, textAt('code'), { limit: 40, sources: [sources.coupon] }),
  {
    each: 'coupon',
    field: 'coupon-percent',
    label: 'per cent off',
    kind: 'count',
    from: (c) => (c.off.kind === 'percent' ? count(c.off.percent) : null),
    ...countAt('percent'),
  },
  {
    each: 'coupon',
    field: 'coupon-amount',
    label: 'amount off',
    kind: 'price',
    from: (c) =>
      c.off.kind === 'amount' ? { kind: 'price', name: 'off', minor: c.off.minor, currency: c.currency } : null,
    ...priceAt('off_as', 'amount', 'currency'),
  },
  {
    each: 'coupon',
    field: 'coupon-uses',
    label: 'uses',
    kind: 'count',
    sources: [sources.couponUses],
    from: (c) => count(c.uses),
    ...countAt('uses'),
  },
  {
    each: 'coupon',
    field: 'coupon-from',
    label: 'coupon from',
    kind: 'instant',
    from: (c) => moment(c.from, c),
    ...utcAt('valid_from', 'timezone'),
  },
  {
    each: 'coupon',
    field: 'coupon-until',
    label: 'coupon until',
    kind: 'instant',
    from: (c) => moment(c.until, c),
    ...utcAt('valid_until', 'timezone'),
  },
  {
    each: 'coupon',
    field: 'coupon-levels',
    label: 'levels that it counts for',
    kind: 'refs',
    from: (c, f) =>
      c.levels.length === 0
        ? null
        : {
            kind: 'refs',
            refs: c.levels,
            any: null,
            words: f.levels
              .filter((level) => c.levels.includes(level.id))
              .map((level) => level.name)
              .join(', '),
          },
    ...refsAt('levels'),
  },
];

/** What is asked of the buyer, and of each who comes along. */
export const questionRows: readonly FieldRow[] = [
  itemTextRow('question', 'question', 'question', (q) => q.ask, textAt('ask'), {
    limit: 300,
    sources: [sources.question],
  }),
  itemTextRow('question', 'question-answer', 'how it is answered', (q) => q.answer, textAt('answer')),
  itemTextRow('question', 'question-of', 'whom it is asked', (q) => q.of, textAt('asked_of')),
  itemTextRow('question', 'question-choices', 'what one may choose', (q) => q.choices.join(' | '), textAt('choices')),
  {
    each: 'question',
    field: 'question-needed',
    label: 'answer needed',
    kind: 'flag',
    from: (q) => (q.needed ? on : null),
    ...flagAt('required', true, false),
  },
  itemTextRow('question', 'question-consent', 'what one says yes to', (q) => q.consent, textAt('consent_text'), {
    limit: 2000,
    sources: [sources.consent],
  }),
];

/** From when and until when a level is on sale. */
export const windowRows: FieldRow[] = (
  [
    ['opens', 'on sale from', 'opens_at'],
    ['closes', 'on sale until', 'closes_at'],
  ] as const
).map(([field, label, key]) => ({
  each: 'level',
  field,
  label,
  kind: 'instant',
  from: (l) => {
    const at = l[field];
    return at === null ? null : { kind: 'instant', at, zone: l.zone };
  },
  ...utcAt(key, 'timezone'),
}));
