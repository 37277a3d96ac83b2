import { handMoments, handRulesSchema, type HandField, type HandFieldRow } from '@/core/listing/hand-rules';
import type { FieldRow, KindRules } from '@/core/listing/channel-rules';
import { stateAt, textAt, urlAt, zonedAt } from '@/core/listing/wire';
import {
  goodToKnow,
  instant,
  linkRow,
  organiserContact,
  placeOrOnline,
  placeRow,
  plainBodyRow,
  priceRow,
  lineUpRow,
  stateRow,
  textRow,
  titleRow,
} from '../kit/common-rows';
import { stateInFeed } from '../kit/feed-rows';
import { operation } from '../kit/operations';
import { kindRules } from '../kit/usual-rules';

const dayMs = 86_400_000;

/** Texts beyond any limit of a field that has none. */
const unlimited = 20_000;

/** One field of such a place, from what is set on screen. */
function rowOf({ field, label, limit }: HandFieldRow): FieldRow {
  const most = limit ?? unlimited;
  const codec = textAt(field);
  const rows: Record<HandField, () => FieldRow> = {
    title: () => titleRow(most, codec),
    subtitle: () => textRow('subtitle', label, (f) => f.subtitle, codec, { limit: most }),
    line: () => textRow('line', label, (f) => f.line || f.teaser, codec, { limit: most }),
    body: () => plainBodyRow(most, codec),
    place: () => placeRow(placeOrOnline, codec, most),
    'line-up': () => lineUpRow(most, codec),
    price: () => ({ ...priceRow(codec), limit: most }),
    link: () => linkRow(label, urlAt('link')),
    category: () => textRow('category', label, (f) => f.eventType, codec, { limit: most }),
    age: () => ({ each: 'event', field: 'age', kind: 'text', limit: most, from: goodToKnow, label, ...codec }),
    contact: () => textRow('contact', label, organiserContact, codec, { limit: most }),
    start: () => momentOf('start', label),
    doors: () => momentOf('doors', label),
    end: () => momentOf('end', label),
  };
  return { ...rows[field](), label };
}

function momentOf(field: 'start' | 'doors' | 'end', label: string): FieldRow {
  return { each: 'performance', field, label, kind: 'instant', from: (p) => instant(p[field], p), ...zonedAt(field) };
}

/** A place that a person fills in: its fields, their order and limits, and how early it wants it are set on screen. */
export const rules = (settings: Record<string, unknown>): KindRules => {
  const { fields, leadDays } = handRulesSchema.parse(settings);
  return kindRules({
    trade: 'place that is filled in by hand',
    rows: [
      ...fields.map(rowOf),
      stateRow('shown', stateInFeed, stateAt('shown', { public: 'yes', closed: 'no', cancelled: 'cancelled' })),
    ],
    lists: fields.some(({ field }) => handMoments.has(field)) ? { performance: 'dates', ref: 'ref' } : null,
    mostPerformances: 200,
    // Whoever does it has a working day for it.
    delayMs: dayMs,
    shows: { when: 'after', fromMs: 0, toMs: Math.max(1, leadDays) * dayMs },
    observe: 'both',
    answers: 'later',
    states: ['public', 'closed', 'cancelled'],
    stateFor: stateInFeed,
    operations: [
      operation('place', 'Makes a task for a person: to be filled in there.'),
      operation('amend', 'Makes a task for a person, of what is another there alone.'),
      operation('publish', 'Makes a task for a person: to be put there again.'),
      operation('unpublish', 'Makes a task for a person: to be taken off there.'),
      operation('cancel', 'Makes a task for a person: to be marked as cancelled there.'),
    ],
    budget: { requests: 50, perMs: 1_000, burst: 50, atOnce: 4 },
    lateCauses: ['Nobody has done the task yet.', 'It was said to be done, and the place has not printed it.'],
    habits: [
      'A place without an interface: what is sent becomes a task, with a sheet to type from in its own order.',
      'Done is said by whoever did it, with a name and, where there is one, the address of its page.',
      'Where it has a page, that is read: what stands there in another way, or still as it was, is seen; what it does not mention is not.',
      'A change makes a task of what is another alone.',
      `It wants to have it ${leadDays === 1 ? 'a day' : `${leadDays} days`} before the event.`,
    ],
  });
};
