import { z } from 'zod';
import { line } from '@/core/base/scalars';
import type { KindRules } from '@/core/listing/channel-rules';
import { amountAt, stateAt, textAt, urlAt, wordAt, zonedAt } from '@/core/listing/wire';
import {
  amountRow,
  befellRow,
  goodToKnow,
  instant,
  lineUpRow,
  linkRow,
  momentRows,
  placeOrOnline,
  placeRow,
  plainBodyRow,
  priceRow,
  stateRow,
  streetRow,
  textRow,
  titleRow,
} from '../kit/common-rows';
import { stateInFeed } from '../kit/feed-rows';
import { operation } from '../kit/operations';
import { kindRules } from '../kit/usual-rules';

export const settingsSchema = z.object({
  /** Whose page it is, or where it is kept: for whoever pastes it. */
  where: line(400).default(''),
});

const dayMs = 86_400_000;

/** A page that somebody keeps by hand: a ready block of HTML with schema.org data is pasted into it. */
export const rules = (): KindRules =>
  kindRules({
    trade: 'page that is kept by hand',
    rows: [
      titleRow(200, textAt('title')),
      textRow('subtitle', 'subtitle', (f) => f.subtitle, textAt('subtitle'), { limit: 200 }),
      textRow('line', 'short text', (f) => f.line || f.teaser, textAt('line'), { limit: 300 }),
      lineUpRow(600, textAt('line-up')),
      ...momentRows({ doors: 'doors', start: 'start', end: 'end' }, zonedAt, 'must'),
      {
        each: 'performance',
        field: 'previous-start',
        label: 'when it was to be',
        kind: 'instant',
        from: (p) => instant(p.previousStart ?? null, p),
        ...zonedAt('previous'),
      },
      befellRow(wordAt('standing', { cancelled: 'cancelled', postponed: 'postponed' }), ['cancelled']),
      placeRow(placeOrOnline, textAt('place'), 300),
      streetRow(textAt('street')),
      priceRow(textAt('price')),
      amountRow('lowest price', amountAt('amount', 'currency')),
      linkRow('link to tickets', urlAt('link')),
      textRow('age', 'age and access', goodToKnow, textAt('age'), { limit: 600 }),
      plainBodyRow(6_000, textAt('body')),
      stateRow('shown', stateInFeed, stateAt('shown', { public: 'yes', closed: 'no', cancelled: 'cancelled' })),
    ],
    lists: { performance: 'dates', ref: 'ref' },
    mostPerformances: 200,
    // Whoever keeps the page has a working day for it.
    delayMs: dayMs,
    shows: { when: 'after', fromMs: 0, toMs: dayMs },
    observe: 'both',
    answers: 'later',
    states: ['public', 'closed', 'cancelled'],
    stateFor: stateInFeed,
    operations: [
      operation('place', 'Makes a task for a person: a block to be pasted into the page.'),
      operation('amend', 'Makes a task for a person: the block to be pasted over the one that stands there.'),
      operation('publish', 'Makes a task for a person: the block to be put there again.'),
      operation('unpublish', 'Makes a task for a person: the block to be taken off the page.'),
      operation('cancel', 'Makes a task for a person: a block that says that it is cancelled.'),
    ],
    budget: { requests: 50, perMs: 1_000, burst: 50, atOnce: 4 },
    lateCauses: [
      'Nobody has pasted it yet.',
      'The page is an older copy: its keeper’s own store, or a cache on the way.',
    ],
    habits: [
      'A page that somebody keeps: each event is a block of HTML, ready to paste, with schema.org data (JSON-LD) in it for whatever reads pages.',
      'Done is said by whoever pasted it, with the address of the page: that is read, and what stands there in another way, or still as it was, is seen.',
      'A change makes a whole block anew, to be pasted over the old one.',
    ],
  });
