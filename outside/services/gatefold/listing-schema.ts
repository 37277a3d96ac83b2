import { z } from 'zod';

const utc = z
  .string()
  .regex(/Z$/)
  .refine((text) => !Number.isNaN(Date.parse(text)));
/** What a listing takes; a `Z` ends every moment. */
export const draftSchema = z.object({
  name: z.string().min(1).max(70),
  summary: z.string().max(130).nullish(),
  description: z
    .string()
    .max(60_000)
    .refine(
      (text) => !/<(h\d|ul|ol|li|blockquote|table|img|figure|br)\b/i.test(text),
      'only paragraphs, bold, italic and links',
    )
    .nullish(),
  venue_code: z.string(),
  room: z.string().max(120).nullish(),
  street: z.string().max(300).nullish(),
  refund_terms: z.string().max(600).nullish(),
  letter_words: z.string().max(1000).nullish(),
  letter_words_several: z.string().max(1000).nullish(),
  tells_left_from: z.number().int().min(1).nullish(),
  tax: z.enum(['held', 'not due']).nullish(),
  own_fee_as: z.string().max(60).nullish(),
  own_fee: z
    .string()
    .regex(/^\d+(\.\d+)?$/)
    .nullish(),
  own_fee_currency: z.string().length(3).nullish(),
  banner: z.object({ file: z.string(), alt: z.string() }).nullish(),
  sessions: z
    .array(
      z.object({
        external_id: z.string(),
        starts_at: utc,
        ends_at: utc.nullish(),
        doors_at: utc.nullish(),
        timezone: z.string(),
        standing: z.enum(['called off', 'put off']).nullish(),
        total: z.number().int().min(1).nullish(),
      }),
    )
    .min(1),
  levels: z
    .array(
      z.object({
        external_id: z.string(),
        name: z.string().min(1),
        face: z.string().regex(/^\d+(\.\d+)?$/),
        currency: z.string().length(3),
        quantity: z.number().int().min(1).nullish(),
        opens_at: utc.nullish(),
        closes_at: utc.nullish(),
        timezone: z.string().nullish(),
        max_per_order: z.number().int().min(1).nullish(),
        hidden: z.boolean().nullish(),
        access_code: z.string().max(60).nullish(),
        about: z.string().max(300).nullish(),
        lets_in: z.number().int().min(2).max(50).nullish(),
        open_price: z.boolean().nullish(),
        tax_percent: z
          .string()
          .regex(/^\d{1,2}(\.\d{1,2})?$/)
          .nullish(),
        min_per_order: z.number().int().min(1).nullish(),
        admits_to: z
          .union([
            z.array(z.string()).min(2),
            z.object({ any: z.number().int().min(2), of: z.array(z.string()).min(2) }),
          ])
          .nullish(),
      }),
    )
    .min(1),
  order_limit: z.number().int().min(1).nullish(),
  extras: z
    .array(
      z.object({
        external_id: z.string(),
        name: z.string().min(1).max(60),
        face: z.string().regex(/^\d+(\.\d+)?$/),
        currency: z.string().length(3),
        quantity: z.number().int().min(1).nullish(),
        about: z.string().max(300).nullish(),
      }),
    )
    .max(20)
    .default([]),
  coupons: z
    .array(
      z
        .object({
          external_id: z.string(),
          code: z.string().min(1).max(40),
          percent: z.number().int().min(1).max(100).nullish(),
          off_as: z.string().nullish(),
          amount: z
            .string()
            .regex(/^\d+(\.\d+)?$/)
            .nullish(),
          currency: z.string().length(3).nullish(),
          uses: z.number().int().min(1).nullish(),
          valid_from: utc.nullish(),
          valid_until: utc.nullish(),
          timezone: z.string().nullish(),
          levels: z.array(z.string()).nullish(),
        })
        .refine((item) => (item.percent == null) !== (item.amount == null), 'a per cent, or an amount'),
    )
    .max(20)
    .default([]),
  questions: z
    .array(
      z
        .object({
          external_id: z.string(),
          ask: z.string().min(1).max(300),
          answer: z.enum([
            'text',
            'long',
            'yes or no',
            'one of',
            'several of',
            'email',
            'telephone',
            'postal address',
            'date',
            'consent',
          ]),
          asked_of: z.enum(['buyer', 'companion', 'both']),
          choices: z.string().max(4000).nullish(),
          required: z.boolean().nullish(),
          consent_text: z.string().max(2000).nullish(),
        })
        .refine(
          (question) => !/^(one|several) of$/.test(question.answer) || Boolean(question.choices),
          'what may be chosen is missing',
        )
        .refine(
          (question) => question.answer !== 'consent' || Boolean(question.consent_text),
          'what one says yes to is missing',
        ),
    )
    .max(30)
    .default([]),
  absorb_fee: z.boolean().default(false),
});
