import { z } from 'zod';
import type { KindRules } from '@/core/listing/channel-rules';
import { secondsAt, stateAt, textAt, urlAt } from '@/core/listing/wire';
import { playsAt } from '@/core/facts/plays-at';
import { instant, linkRow, placeRow, seenByAll, stateRow, text, titleRow } from '../kit/common-rows';
import { eventPage, kindRules } from '../kit/usual-rules';

/** Whose page it is. */
export const settingsSchema = z.object({ act: z.string().trim().max(160).default('') });

const hourMs = 3_600_000;

/** The streaming service's artist page: it shows the dates that stand in the register. */
export const rules = (settings: Record<string, unknown>): KindRules => {
  const { act } = settingsSchema.catch({ act: '' }).parse(settings);
  return kindRules({
    trade: 'streaming service, artist page',
    rows: [
      titleRow(90, textAt('name')),
      placeRow((f) => text(f.performances[0]?.place?.venue ?? ''), textAt('venue'), 120),
      linkRow('ticket link', urlAt('tickets')),
      {
        each: 'event',
        field: 'start',
        label: 'start',
        kind: 'instant',
        from: ({ performances: [first] }) => (first ? instant(first.start, first) : null),
        ...secondsAt('at', 'zone'),
      },
      stateRow('shown', seenByAll, stateAt('shown', { public: true, closed: false })),
    ],
    mirrors: 'fernway',
    delayMs: 40 * hourMs,
    shows: { when: 'after', fromMs: 20 * hourMs, toMs: 40 * hourMs },
    page: eventPage(true),
    operations: [],
    budget: { requests: 10, perMs: 1_000, burst: 4, atOnce: 1 },
    accepts: playsAt(act),
    oursOnly: ['Nothing: what it says of a date is what the register says.'],
    unties: ['Nothing: it goes on showing what stands in the register.'],
    lateCauses: [
      'The artist’s page is not linked to our profile in the register.',
      'The date is not published in the register.',
    ],
    habits: [
      'Nothing is sent there: it shows what stands in Fernway, 20 to 40 hours later.',
      'Shows a date only where the artist’s page is linked to the right profile.',
    ],
  });
};
